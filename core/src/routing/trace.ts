import type { PageId, RevisionId } from '../plan/index.js';
import { endOf, writeEnd, type Instant } from '../time/index.js';
import { givenWords, type Given } from '../words/index.js';
import { follow, resolve, siteAt } from './resolve.js';
import { stretchesOf, type RouteTable } from './table.js';
import type { Address, Resolution, RouteAnswer } from './types.js';

/** What a trace needs to speak of pages by name. */
export interface Names {
  page(id: PageId): string;
  /** Its number. */
  revision(id: RevisionId): number | string;
  readonly zone: string;
}

/** The answer at an address at an instant in words, one step a line; the last line is what the visitor gets. */
export function trace(routes: RouteTable, address: Address, at: Instant, names: Names): string[] {
  const shown = address.host + address.path;
  const host = routes.hosts.get(address.host);
  if (!host)
    return [`${address.host} is not a host of this installation.`, 'The visitor gets 421 Misdirected Request.'];
  const steps: string[] = [];
  const stretch = stretchesOf(host, address.path).find(({ from, until }) => from <= at && at < until);
  const site = siteAt(host, address.path, at);
  if (stretch?.answer.kind === 'page')
    steps.push(`${names.page(stretch.answer.pageId)} is live at ${shown}${untilWords(stretch.until, names, at)}.`);
  else if (stretch)
    steps.push(
      `No page is live at ${shown}; ${layerWords(stretch.answer, names)} holds there${untilWords(stretch.until, names, at)}.`,
    );
  else if (site && !site.isPrimary && site.primary)
    steps.push(
      `Nothing is planned at ${shown}; its site’s primary address is ${site.primary.host}${site.primary.basePath}.`,
    );
  else steps.push(`Nothing is planned at ${shown}.`);
  if (stretch?.answer.kind === 'redirect' && stretch.answer.target.kind === 'page') {
    const { pageId } = stretch.answer.target;
    const end = follow(routes, pageId, at);
    if (end.kind === 'loop') steps.push(`${names.page(pageId)} leads back to itself.`);
    else if (end.kind === 'nothing' || end.kind === 'gone')
      steps.push(`${names.page(pageId)} is off, and its address gives nothing.`);
    else if (!end.isDirect) steps.push(`${names.page(pageId)} is off; its own address leads on.`);
    else steps.push(`${names.page(pageId)} is live.`);
  }
  steps.push(`The visitor gets ${resolutionWords(resolve(routes, address, at), names)}.`);
  return steps;
}

/** What an answer is, by code; `revision` is the number of the page's revision. */
export function givenOf(answer: Resolution, { page, revision }: Pick<Names, 'page' | 'revision'>): Given {
  switch (answer.kind) {
    case 'page':
      return { code: 'page', params: { page: page(answer.pageId), revision: revision(answer.revisionId) } };
    case 'redirect': {
      const to = answer.to.kind === 'outside' ? answer.to.url : answer.to.host + answer.to.path;
      return { code: 'redirect', params: { to, status: answer.status } };
    }
    case 'not-found':
      return { code: answer.page ? 'not-found-page' : 'not-found', params: {} };
    default:
      return { code: answer.kind, params: {} };
  }
}

/** An answer in words, to stand behind "visitors get". */
export const resolutionWords = (answer: Resolution, names: Pick<Names, 'page' | 'revision'>): string =>
  givenWords(givenOf(answer, names));

function layerWords(answer: RouteAnswer, names: Names): string {
  if (answer.kind === 'gone') return '“gone”';
  if (answer.kind !== 'redirect') return '“not found”';
  return answer.target.kind === 'page'
    ? `a redirect to ${names.page(answer.target.pageId)}`
    : `a redirect to ${answer.target.url}`;
}

function untilWords(until: number, names: Names, at: Instant): string {
  return until === endOf({ from: at, until: null }) ? '' : ` until ${writeEnd(until as Instant, names.zone, at)}`;
}
