import { parse } from 'tldts';
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
