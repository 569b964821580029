import { checkOutsideAddress } from '../address/index.js';
import { isRecord, type Fault, type Result } from '../fields/result.js';
import { wrong } from '../words/faults.js';

/** To whom one can tell that something is not safe (RFC 9116). */
export interface SecurityTxt {
  /** Addresses of mail, phones or pages, the first to be tried first. */
  readonly contacts: readonly string[];
  /** The day until which it is right, `YYYY-MM-DD`. */
  readonly expires: string;
  /** The address of what is promised to those who tell; empty for none. */
  readonly policy: string;
  /** Languages that are read there, as `en, nb`; empty where that is not said. */
  readonly languages: string;
}

/** What lies at the root of a site's host beside its pages. */
export interface RootContent {
  /** Lines of `robots.txt`; empty for those the installation writes. */
  readonly robots: string;
  readonly security: SecurityTxt | null;
  /** Files such as `ads.txt` or those by which somebody proves that the host is theirs. */
  readonly files: readonly { readonly name: string; readonly text: string }[];
}

export const NO_ROOT: RootContent = { robots: '', security: null, files: [] };
export const LONGEST_ROBOTS = 100_000;
export const LONGEST_FILE = 100_000;
export const MOST_FILES = 30;
const MOST_CONTACTS = 10;
const NAME = /^[a-z\d][a-z\d_-]*(\.[a-z\d_-]+)*\.(txt|html|xml|json)$/i;
/** What the installation writes itself. */
const OURS = /^(robots\.txt|sitemap(-\d+)?\.xml|security\.txt)$/i;
const DAY = /^\d{4}-\d{2}-\d{2}$/;
const LANGUAGES = /^[a-z]{2,3}(-[a-z\d]+)*(, *[a-z]{2,3}(-[a-z\d]+)*)*$/i;

export function rootFromJSON(json: unknown): Result<RootContent> {
  if (!isRecord(json)) return { ok: false, faults: [{ path: '', ...wrong('fields-unreadable') }] };
  const faults: Fault[] = [];
  const { robots } = json;
  if (typeof robots !== 'string' || robots.length > LONGEST_ROBOTS)
    faults.push({ path: 'robots', ...wrong('at-most-characters', { most: LONGEST_ROBOTS }) });
  const security = json['security'] === null ? null : securityFromJSON(json['security'], faults);
  const files = filesFromJSON(json['files'], faults);
  return faults.length ? { ok: false, faults } : { ok: true, value: { robots: robots as string, security, files } };
}

function securityFromJSON(json: unknown, faults: Fault[]): SecurityTxt {
  const { contacts, expires, policy = '', languages = '' } = isRecord(json) ? json : {};
  const wanted = Array.isArray(contacts) ? contacts.slice(0, MOST_CONTACTS) : [];
  const read = wanted.flatMap((one: unknown, index): string[] => {
    const address = checkOutsideAddress(typeof one === 'string' ? one : '');
    if (!address.ok || address.url.startsWith('http:')) {
      faults.push({ path: `security.contacts[${index}]`, ...wrong('security-contact') });
      return [];
    }
    return [address.url];
  });
  if (!wanted.length) faults.push({ path: 'security.contacts', ...wrong('security-contact') });
  const isDay = typeof expires === 'string' && DAY.test(expires) && !Number.isNaN(Date.parse(expires));
  if (!isDay) faults.push({ path: 'security.expires', ...wrong('security-expires') });
  const page = policy === '' ? null : checkOutsideAddress(typeof policy === 'string' ? policy : 'x', 'redirect');
  if (page && !page.ok) faults.push({ path: 'security.policy', ...page.why });
  const isTagged = languages === '' || (typeof languages === 'string' && LANGUAGES.test(languages));
  if (!isTagged) faults.push({ path: 'security.languages', ...wrong('language-invalid') });
  return {
    contacts: read,
    expires: isDay ? expires : '',
    policy: page?.ok ? page.url : '',
    languages: isTagged ? (languages as string) : '',
  };
}

function filesFromJSON(json: unknown, faults: Fault[]): RootContent['files'] {
  if (!Array.isArray(json) || json.length > MOST_FILES) {
    faults.push({ path: 'files', ...wrong('root-count', { most: MOST_FILES }) });
    return [];
  }
  const seen = new Set<string>();
  return json.flatMap((one: unknown, index) => {
    const { name, text } = isRecord(one) ? one : {};
    const path = `files[${index}]`;
    if (typeof name !== 'string' || name.length > 100 || !NAME.test(name))
      faults.push({ path: `${path}.name`, ...wrong('root-name') });
    else if (OURS.test(name)) faults.push({ path: `${path}.name`, ...wrong('root-ours') });
    else if (seen.has(name)) faults.push({ path: `${path}.name`, ...wrong('element-twice') });
    else if (typeof text !== 'string' || text.length > LONGEST_FILE)
      faults.push({ path: `${path}.text`, ...wrong('at-most-characters', { most: LONGEST_FILE }) });
    else {
      seen.add(name);
      return [{ name, text }];
    }
    return [];
  });
}

/** What an edge sends of it, by path. */
export interface RootTexts {
  readonly robots: string;
  readonly files: Readonly<Record<string, string>>;
}

export const SECURITY_PATH = '/.well-known/security.txt';

/** `null` where there is nothing. `addressOf`: the whole address of a path on the host. */
export function rootTexts(
  { robots, security, files }: RootContent,
  addressOf: (path: string) => string,
): RootTexts | null {
  if (!robots.trim() && !security && !files.length) return null;
  const own = files.map(({ name, text }) => [`/${name}`, text]);
  const known = security ? [[SECURITY_PATH, securityText(security, addressOf(SECURITY_PATH))]] : [];
  return { robots: robots.trim() ? robots : '', files: Object.fromEntries([...own, ...known]) as RootTexts['files'] };
}

/** RFC 9116, 2.5. */
function securityText({ contacts, expires, policy, languages }: SecurityTxt, address: string): string {
  return [
    ...contacts.map((contact) => `Contact: ${contact}`),
    `Expires: ${expires}T23:59:59Z`,
    ...(languages ? [`Preferred-Languages: ${languages}`] : []),
    `Canonical: ${address}`,
    ...(policy ? [`Policy: ${policy}`] : []),
    '',
  ].join('\n');
}

const TYPES: Readonly<Record<string, string>> = {
  txt: 'text/plain; charset=utf-8',
  html: 'text/html; charset=utf-8',
  xml: 'application/xml; charset=utf-8',
  json: 'application/json; charset=utf-8',
};

/** What a file of the root is sent as, by its ending. */
export const rootTypeOf = (path: string): string =>
  TYPES[path.split('.').at(-1)?.toLowerCase() ?? ''] ?? (TYPES['txt'] as string);

export const rootToText = (texts: RootTexts): string => JSON.stringify(texts);
export const rootFromText = (text: string): RootTexts | null => (text ? (JSON.parse(text) as RootTexts) : null);
