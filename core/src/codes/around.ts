import { html, Html } from '../html/index.js';
import type { AskedPurpose, Code, CodePurpose, CodeReach } from './code.js';
import { consentHtml } from './consent.js';

/** A code as it stands around the pages of one site. */
export interface SiteCode extends Pick<Code, 'place' | 'load' | 'data' | 'hosts'> {
  readonly purpose: CodePurpose;
  /** The address of its script: somewhere else, or of a file that is published here. */
  readonly src: string;
  /** Paths of the site, and pages; `'all'` for all of the site. */
  readonly on: 'all' | readonly (string | number)[];
  readonly except: readonly (string | number)[];
}

/** All codes of a site, and the address of the script that lets them wait. */
export interface SiteCodes {
  readonly loader: string;
  readonly codes: readonly SiteCode[];
}

/** A code as it is to stand around the pages of a site; `null` where it runs on none of them. */
export function codeOnSite(
  { purpose, place, load, data, hosts, on, except }: Code,
  src: string,
  siteId: number,
): SiteCode | null {
  const own = (reaches: readonly CodeReach[]): 'all' | (string | number)[] => {
    const here = reaches.flatMap((reach): (string | number)[] => {
      if ('pageId' in reach) return [reach.pageId];
      return reach.siteId === siteId ? [reach.path ?? '/'] : [];
    });
    return here.includes('/') ? 'all' : here;
  };
  const [wanted, without] = [on === 'all' ? on : own(on), own(except)];
  if (without === 'all' || !wanted.length) return null;
  return { ...{ purpose, src, place, load, data, hosts }, on: wanted, except: without };
}

export const codesToText = (codes: SiteCodes): string => JSON.stringify(codes);

/** Codes from a part as it is stored; `null` where there are none. */
export const codesFromText = (text: string): SiteCodes | null => (text ? (JSON.parse(text) as SiteCodes) : null);

const isAmong = (these: SiteCode['on'], path: string, pageId: number | null): boolean =>
  these === 'all' ||
  these.some((one) => (typeof one === 'number' ? one === pageId : path === one || path.startsWith(`${one}/`)));

/** Those that run on a page; `path` within its site. */
export const codesOn = ({ codes }: SiteCodes, path: string, pageId: number | null): SiteCode[] =>
  codes.filter(({ on, except }) => isAmong(on, path, pageId) && !isAmong(except, path, pageId));

/** What visitors are asked about before these run. */
export const askedBy = (codes: readonly SiteCode[]): AskedPurpose[] =>
  (['measuring', 'advertising'] as const).filter((purpose) => codes.some((code) => code.purpose === purpose));

/** What a page has to allow for its codes and nothing else, by directive (Content Security Policy Level 3). */
export interface CodeSources {
  readonly script: readonly string[];
  readonly connect: readonly string[];
  readonly image: readonly string[];
}

/** A script that is published here is allowed as all scripts of pages are. */
export function sourcesOf(codes: readonly SiteCode[]): CodeSources {
  const outside = codes.filter(({ src }) => !src.startsWith('/'));
  const others = codes.flatMap(({ hosts }) => hosts);
  const origins = [...outside.map(({ src }) => new URL(src).origin), ...others];
  const unique = (all: readonly string[]) => [...new Set(all)].sort();
  return {
    script: unique([...outside.map(({ src }) => sourceOf(src)), ...others]),
    connect: unique(origins),
    image: unique(origins),
  };
}

/** An address as a source: without what is asked, and with no character that ends a source or a directive. */
function sourceOf(src: string): string {
  const { origin, pathname } = new URL(src);
  return origin + pathname.replaceAll(';', '%3B').replaceAll(',', '%2C');
}

/** What codes put into a page: into its head, and at the end of its body. */
export interface CodesHtml {
  readonly head: string;
  readonly end: string;
}

/**
 * Elements of codes. What is necessary and begins with the page stands there itself; all others are put there by
 * `codesScript` once it is their time and the visitor allows them, and the notice asks about what is not necessary.
 */
export function codesHtml(codes: readonly SiteCode[], loader: string, language: string): CodesHtml {
  const isPlain = ({ purpose, load }: SiteCode) => purpose === 'necessary' && load === 'at-once';
  const plain = (place: SiteCode['place']) =>
    codes.filter((code) => isPlain(code) && code.place === place).map(elementHtml);
  const waiting = codes.filter((code) => !isPlain(code));
  const asked = askedBy(codes);
  const config = waiting.map(({ src, place, load, purpose, data }) => [
    ...[src, place === 'end' ? 1 : 0, load, purpose === 'necessary' ? '' : purpose],
    data.map(({ name, value }) => [name, value]),
  ]);
  const waits = waiting.length > 0 && html`<script src="${loader}" data-codes="${JSON.stringify(config)}"></script>`;
  return {
    head: html`${plain('head')}${waits}`.markup,
    end: html`${plain('end')}${asked.length > 0 && consentHtml(asked, language)}`.markup,
  };
}

/** Names of data were read: they hold letters, digits and hyphens alone. */
const elementHtml = ({ src, data }: SiteCode): Html =>
  html`<script src="${src}"${data.map(({ name, value }) => html` ${new Html(`data-${name}`)}="${value}"`)}></script>`;
