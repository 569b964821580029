import { parse } from 'tldts';
import { normalisePath } from './path.js';
import { domainToASCII } from './punycode.js';

export interface HostParts {
  /** The whole host in ASCII (IDN as punycode), lower case, without a final dot. */
  readonly host: string;
  /** The registrable name under the public suffix, `null` for a bare suffix. */
  readonly domain: string | null;
}

/**
 * A host name in its one form, with the domain that can be registered (Public Suffix List through tldts; a name
 * under an unknown ending such as `.example` counts its last two labels). `null` for what is no DNS name.
 */
export function parseHost(raw: string): HostParts | null {
  const ascii = domainToASCII(raw.trim().replace(/\.$/, ''));
  if (!ascii || ascii.length > 253) return null;
  const labels = ascii.split('.');
  if (labels.length < 2) return null;
  if (!labels.every((label) => /^[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$/.test(label))) return null;
  const { domain, isIp } = parse(ascii);
  return isIp ? null : { host: ascii, domain };
}

/** How an absolute address looks outside: the one setting from which all are made (design section 6). */
export interface AddressStyle {
  readonly scheme: 'http' | 'https';
  /** Put behind every host, for example `.localhost` in a demo; empty in the open. */
  readonly suffix: string;
  /** `null` for the scheme's own port. */
  readonly port: number | null;
}

/** The only way an absolute address is made. */
export function absoluteAddress(style: AddressStyle, host: string, path: string): string {
  const port = style.port === null ? '' : `:${style.port}`;
  return `${style.scheme}://${host}${style.suffix}${port}${path}`;
}

/** The host a `Host` header names, or `null` where it is none under this style: no port, no suffix, lower case. */
export function hostOfHeader(style: AddressStyle, header: string): string | null {
  const name = header.toLowerCase().replace(/:\d+$/, '').replace(/\.$/, '');
  if (!style.suffix) return name;
  return name.endsWith(style.suffix) && name.length > style.suffix.length ? name.slice(0, -style.suffix.length) : null;
}

/** A place an absolute address names, with the query and fragment it brings. */
export interface NamedPlace {
  readonly host: string;
  readonly path: string;
  readonly rest: string;
}

/**
 * The place an http address names, written as it looks outside or with the plain name of its host, or `null` where
 * that is no address visitors of a published host could ask for: another port, or a path that can't be.
 */
export function placeOfUrl(style: AddressStyle, address: string): NamedPlace | null {
  let url: URL;
  try {
    url = new URL(address);
  } catch {
    return null;
  }
  if (url.protocol !== 'http:' && url.protocol !== 'https:') return null;
  if (url.port !== '' && Number(url.port) !== style.port) return null;
  const host = hostOfHeader(style, url.hostname) ?? url.hostname.toLowerCase().replace(/\.$/, '');
  const path = normalisePath(url.pathname);
  return path === null ? null : { host, path, rest: url.search + url.hash };
}

/** An address with what was brought along behind its own: a query joins its query, a fragment only where it has none. */
export function withRest(address: string, brought: string): string {
  if (!brought) return address;
  const [place = '', fragment] = splitAt(address, '#');
  const [query = '', ownFragment] = splitAt(brought, '#');
  const joined = query.length > 1 ? `${place}${place.includes('?') ? '&' : '?'}${query.slice(1)}` : place;
  const last = fragment ?? ownFragment;
  return last === undefined ? joined : `${joined}#${last}`;
}

function splitAt(text: string, mark: string): [string, string | undefined] {
  const at = text.indexOf(mark);
  return at < 0 ? [text, undefined] : [text.slice(0, at), text.slice(at + 1)];
}
