import { checkOutsideAddress } from '../address/index.js';
import { isRecord, type Fault, type Result } from '../fields/result.js';
import { wrong } from '../words/faults.js';

/** What a code is for. What is not necessary runs for visitors who allowed its purpose, and for no one else. */
export const CODE_PURPOSES = ['necessary', 'measuring', 'advertising'] as const;
export type CodePurpose = (typeof CODE_PURPOSES)[number];
/** Purposes that visitors are asked about. */
export const ASKED_PURPOSES = ['measuring', 'advertising'] as const;
export type AskedPurpose = (typeof ASKED_PURPOSES)[number];

/** Where its element stands: in the head, or at the end of the body. */
export const CODE_PLACES = ['head', 'end'] as const;
/** When it begins: with the page, once that is there, or with the first thing a visitor does. */
export const CODE_LOADS = ['at-once', 'after', 'first-act'] as const;

/** Pages on which a code runs, or does not: those of a site, those at a path of a site and below it, or one. */
export type CodeReach = { readonly siteId: number; readonly path: string | null } | { readonly pageId: number };

/** A measurement or other code that runs on many pages. */
export interface Code {
  readonly purpose: CodePurpose;
  /** A script at an address, or one that is kept here and published as a file. */
  readonly source:
    { readonly kind: 'address'; readonly url: string } | { readonly kind: 'script'; readonly script: string };
  readonly place: (typeof CODE_PLACES)[number];
  readonly load: (typeof CODE_LOADS)[number];
  /** What is said to it, as attributes `data-…` of its element. */
  readonly data: readonly { readonly name: string; readonly value: string }[];
  /** Origins it may load from and talk to, beside that of its address. */
  readonly hosts: readonly string[];
  readonly on: 'all' | readonly CodeReach[];
  readonly except: readonly CodeReach[];
}

export const NEW_CODE: Code = {
  purpose: 'measuring',
  source: { kind: 'address', url: '' },
  ...{ place: 'head', load: 'after', data: [], hosts: [], on: 'all', except: [] },
};

export const LONGEST_SCRIPT = 50_000;
export const MOST_DATA = 30;
export const LONGEST_DATA = 500;
export const MOST_HOSTS = 20;
export const MOST_REACHES = 500;
const DATA_NAME = /^[a-z][a-z\d]*(-[a-z\d]+)*$/;
const LONGEST_NAME = 60;

/** A code from JSON. One whose address is empty can be kept as a draft; it can't be released (`codeFaults`). */
export function codeFromJSON(json: unknown): Result<Code> {
  if (!isRecord(json)) return { ok: false, faults: [{ path: '', ...wrong('fields-unreadable') }] };
  const faults: Fault[] = [];
  const oneOf = <Value extends string>(key: string, all: readonly Value[]): Value => {
    const value = json[key];
    if (!all.includes(value as Value)) faults.push({ path: key, ...wrong('part-choice') });
    return value as Value;
  };
  const [purpose, place, load] = [
    oneOf('purpose', CODE_PURPOSES),
    oneOf('place', CODE_PLACES),
    oneOf('load', CODE_LOADS),
  ];
  const source = sourceFromJSON(json['source'], faults);
  const data = dataFromJSON(json['data'], faults);
  const hosts = hostsFromJSON(json['hosts'], faults);
  const on = json['on'] === 'all' ? 'all' : reachesFromJSON(json['on'], 'on', faults);
  const except = reachesFromJSON(json['except'], 'except', faults);
  return faults.length
    ? { ok: false, faults }
    : { ok: true, value: { purpose, source, place, load, data, hosts, on, except } };
}

function sourceFromJSON(json: unknown, faults: Fault[]): Code['source'] {
  const { kind, url, script } = isRecord(json) ? json : {};
  if (kind === 'script' && typeof script === 'string') {
    if (script.length > LONGEST_SCRIPT)
      faults.push({
        path: 'source.script',
        ...wrong('text-too-long', { length: script.length, most: LONGEST_SCRIPT }),
      });
    return { kind, script };
  }
  const typed = typeof url === 'string' ? url.trim() : '';
  if (kind !== 'address' || typeof url !== 'string') faults.push({ path: 'source', ...wrong('part-choice') });
  const read = typed ? checkOutsideAddress(typed, 'redirect') : null;
  if (read && !read.ok) faults.push({ path: 'source.url', ...read.why });
  else if (read?.ok && !plainOrigin(read.url)) faults.push({ path: 'source.url', ...wrong('code-host') });
  return { kind: 'address', url: read?.ok ? read.url : typed };
}

function dataFromJSON(json: unknown, faults: Fault[]): Code['data'] {
  if (!Array.isArray(json) || json.length > MOST_DATA) {
    faults.push({ path: 'data', ...wrong('code-data-count', { most: MOST_DATA }) });
    return [];
  }
  const seen = new Set<string>();
  return json.flatMap((one: unknown, index) => {
    const { name, value } = isRecord(one) ? one : {};
    const path = `data[${index}]`;
    if (typeof name !== 'string' || name.length > LONGEST_NAME || !DATA_NAME.test(name))
      faults.push({ path: `${path}.name`, ...wrong('code-data-name') });
    else if (seen.has(name)) faults.push({ path: `${path}.name`, ...wrong('element-twice') });
    else if (typeof value !== 'string' || value.length > LONGEST_DATA)
      faults.push({ path: `${path}.value`, ...wrong('at-most-characters', { most: LONGEST_DATA }) });
    else {
      seen.add(name);
      return [{ name, value }];
    }
    return [];
  });
}

function hostsFromJSON(json: unknown, faults: Fault[]): readonly string[] {
  if (!Array.isArray(json) || json.length > MOST_HOSTS) {
    faults.push({ path: 'hosts', ...wrong('code-hosts-count', { most: MOST_HOSTS }) });
    return [];
  }
  const origins = json.flatMap((one: unknown, index) => {
    const origin = typeof one === 'string' ? originOf(one.trim()) : null;
    if (!origin) faults.push({ path: `hosts[${index}]`, ...wrong('code-host') });
    return origin ?? [];
  });
  return [...new Set(origins)];
}

/** An origin (RFC 6454) of the web, as it was typed with or without its scheme; `null` where that is none. */
export function originOf(typed: string): string | null {
  const whole = /^https?:\/\//i.test(typed) ? typed : `https://${typed}`;
  const read = checkOutsideAddress(whole, 'redirect');
  if (!read.ok || !/^(https?:\/\/)?[^/?#\s;,]+\/?$/i.test(typed)) return null;
  return plainOrigin(read.url);
}

/** A host with nothing in it that means more in a policy of browsers, such as `*`. */
const PLAIN_HOST = /^([a-z\d.-]+|\[[\da-f:.]+\])$/;

function plainOrigin(url: string): string | null {
  const { origin, hostname } = new URL(url);
  return PLAIN_HOST.test(hostname) ? origin : null;
}

function reachesFromJSON(json: unknown, key: 'on' | 'except', faults: Fault[]): readonly CodeReach[] {
  if (!Array.isArray(json) || json.length > MOST_REACHES) {
    faults.push({ path: key, ...wrong('code-reach-count', { most: MOST_REACHES }) });
    return [];
  }
  return json.flatMap((one: unknown, index): CodeReach[] => {
    const { siteId, pageId, path = null } = isRecord(one) ? one : {};
    if (Number.isSafeInteger(pageId) && siteId === undefined) return [{ pageId: pageId as number }];
    const isPath = path === null || (typeof path === 'string' && path.startsWith('/') && path.length <= 1_024);
    if (Number.isSafeInteger(siteId) && isPath) return [{ siteId: siteId as number, path }];
    faults.push({ path: `${key}[${index}]`, ...wrong('code-reach') });
    return [];
  });
}

/** Why a code can't run yet; nothing where it can. */
export function codeFaults({ source, on }: Code): Fault[] {
  const isEmpty = source.kind === 'address' ? !source.url : !source.script.trim();
  return [
    ...(isEmpty ? [{ path: 'source', ...wrong('code-empty') }] : []),
    ...(source.kind === 'script' && /<script\b/i.test(source.script)
      ? [{ path: 'source', ...wrong('code-tags') }]
      : []),
    ...(on !== 'all' && !on.length ? [{ path: 'on', ...wrong('code-nowhere') }] : []),
  ];
}

/** A page where it lies; `path` within its site. */
export interface CodeSpot {
  readonly siteId: number;
  readonly path: string;
  readonly pageId: number;
}

export function isReached(reach: CodeReach, { siteId, path, pageId }: CodeSpot): boolean {
  if ('pageId' in reach) return reach.pageId === pageId;
  if (reach.siteId !== siteId) return false;
  return reach.path === null || reach.path === '/' || path === reach.path || path.startsWith(`${reach.path}/`);
}

/** Whether a code runs on a page: where it is said to, and no exception says otherwise. */
export const runsOn = ({ on, except }: Pick<Code, 'on' | 'except'>, spot: CodeSpot): boolean =>
  (on === 'all' || on.some((reach) => isReached(reach, spot))) && !except.some((reach) => isReached(reach, spot));
