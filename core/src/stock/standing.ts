import { NOT_FOUND_PATH } from '../address/index.js';
import { pageFrameFromJSON } from '../fields/page-frame.js';
import { isRecord, type Result } from '../fields/result.js';
import type { Part, PageFrame } from '../fields/types.js';
import { wrong } from '../words/faults.js';

export type { PageFrame, PartChoice } from '../fields/types.js';

/** What stands around the pages that something is said of. */
export interface Standing extends PageFrame {
  /** Nothing further down may say otherwise. */
  readonly isLocked: boolean;
}

export function standingFromJSON(json: unknown): Result<Standing> {
  const read = pageFrameFromJSON(json);
  const { isLocked = false } = isRecord(json) ? json : {};
  const faults = [
    ...(read.ok ? [] : read.faults),
    ...(typeof isLocked === 'boolean' ? [] : [{ path: 'isLocked', ...wrong('part-missing') }]),
  ];
  return read.ok && typeof isLocked === 'boolean'
    ? { ok: true, value: { ...read.value, isLocked } }
    : { ok: false, faults };
}

/** All parts that are named. */
export const partsNamed = ({ header, footer, bands }: PageFrame): number[] =>
  [header, footer, ...(bands ?? [])].filter((one): one is number => typeof one === 'number');

/** Of what something can be said, from the whole to the single. */
export const SCOPES = ['portfolio', 'domain', 'site', 'path', 'label', 'role', 'page'] as const;
export type StandingScope = (typeof SCOPES)[number];

/**
 * Of which pages something is said: of all, of those of a domain or a site, of those at a path of a site and below it, of
 * those with a label or a role, or of one. `key` is how it is kept: blank for the portfolio and for sites.
 */
export interface RuleFor {
  readonly scope: StandingScope;
  readonly siteId: number | null;
  /** A path, the name of a label or domain, a role, or the identity of a page. */
  readonly of: string;
}

/** Scopes that are kept with a key, and those of them that belong to a site. */
const KEYED: readonly StandingScope[] = ['domain', 'path', 'label', 'role', 'page'];

export const ruleKeyOf = ({ scope, of }: Pick<RuleFor, 'scope' | 'of'>): string | null =>
  KEYED.includes(scope) ? `${scope}:${of}` : null;

/** Of what a rule is, by how it is kept; `null` for what is no key of one. */
export function ruleFor(key: string | null, siteId: number | null): RuleFor | null {
  if (key === null) return { scope: siteId === null ? 'portfolio' : 'site', siteId, of: '' };
  const at = key.indexOf(':');
  const scope = KEYED.find((one) => one === key.slice(0, at));
  const of = key.slice(at + 1);
  if (!scope || !of || (scope === 'path') !== (siteId !== null)) return null;
  if (scope === 'path' && !of.startsWith('/')) return null;
  return { scope, siteId, of };
}

/** What is known of a page where it lies. */
export interface PagePlace {
  readonly pageId: number | null;
  readonly siteId: number | null;
  /** Within its site; `null` where no page is meant. */
  readonly path: string | null;
  readonly host: string;
  readonly labels: readonly string[];
  readonly role: string;
}

/** What a page is for: a home page and a page for what is not found are so by where they lie. `path`: within the site. */
export const roleAt = (role: string, path: string): string =>
  path === NOT_FOUND_PATH ? 'not-found' : path === '/' ? 'home' : role;

/** A place on a site, whichever page lies there; without a path that of no page. */
export const placeOnSite = (siteId: number | null, host = '', path: string | null = null): PagePlace => ({
  ...{ pageId: null, siteId, path, host, labels: [], role: 'ordinary' },
});

export function isCovered({ scope, siteId, of }: RuleFor, place: PagePlace): boolean {
  switch (scope) {
    case 'portfolio':
      return true;
    case 'domain':
      return place.host === of || place.host.endsWith(`.${of}`);
    case 'site':
      return place.siteId !== null && place.siteId === siteId;
    case 'path':
      return (
        place.path !== null &&
        place.siteId === siteId &&
        (of === '/' || place.path === of || place.path.startsWith(`${of}/`))
      );
    case 'label':
      return place.labels.includes(of);
    case 'role':
      return place.role === of;
    case 'page':
      return place.pageId !== null && String(place.pageId) === of;
  }
}

/** From the whole to the single: of paths and domains the shorter first, of two that are alike the older. */
export const byReach = (
  a: { readonly id: number; readonly for: RuleFor },
  b: { readonly id: number; readonly for: RuleFor },
): number =>
  SCOPES.indexOf(a.for.scope) - SCOPES.indexOf(b.for.scope) ||
  (['path', 'domain'].includes(a.for.scope) ? a.for.of.length - b.for.of.length : 0) ||
  a.id - b.id;

/** Rules that are about more than whole sites and domains: which of them cover a page is known for each page. */
export const isOfPages = ({ scope }: RuleFor): boolean => !['portfolio', 'domain', 'site'].includes(scope);

/** Who says something of what stands around a page: a rule, or the page itself. */
export interface Said {
  /** `null` for the page itself. */
  readonly rule: { readonly id: number; readonly for: RuleFor } | null;
  readonly standing: Standing;
}

/** What stands there and who said so; `by` is `null` where nobody did, and then it is the name of the site. */
export interface Held<T> {
  readonly value: T;
  readonly by: Said | null;
}

export interface StandingParts {
  readonly header: Held<number | 'none' | 'name'>;
  readonly footer: Held<number | 'none' | 'name'>;
  readonly bands: Held<readonly number[]>;
  /** The rule below which nobody is heard. */
  readonly lockedBy: Said | null;
}

/**
 * What stands around a page by what is said of it, from the whole to the single: the most single holds, up to one that
 * is locked, below which nothing else does.
 */
export function standingOf(said: readonly Said[]): StandingParts {
  const lock = said.findIndex(({ standing }) => standing.isLocked);
  const heard = lock < 0 ? said : said.slice(0, lock + 1);
  const partOf = (which: 'header' | 'footer'): Held<number | 'none' | 'name'> => {
    const by = heard.findLast(({ standing }) => standing[which] !== null) ?? null;
    return { value: by?.standing[which] ?? 'name', by };
  };
  const by = heard.findLast(({ standing }) => standing.bands !== null) ?? null;
  return {
    header: partOf('header'),
    footer: partOf('footer'),
    bands: { value: by?.standing.bands ?? [], by },
    lockedBy: said[lock] ?? null,
  };
}

/** Everything that is said of a page, in its order: the rules that cover it, and its own choice. */
export function saidOf(
  rules: readonly { readonly id: number; readonly for: RuleFor; readonly standing: Standing }[],
  place: PagePlace,
  own: PageFrame | null | undefined,
): Said[] {
  const covering = rules.filter((rule) => isCovered(rule.for, place)).sort(byReach);
  return [
    ...covering.map(({ standing, ...rule }) => ({ rule, standing })),
    ...(own ? [{ rule: null, standing: { ...own, isLocked: false } }] : []),
  ];
}

/** Whether a band stands on a site by itself. */
const isOn = ({ sites }: Part, siteId: number | null): boolean =>
  sites === 'all' || (siteId !== null && sites?.includes(siteId) === true);

const URGENCY = ['urgent', 'warning', 'information'];
const urgencyOf = ({ layout }: Part) => URGENCY.indexOf(layout);

/**
 * The parts themselves; one that holds nothing now gives way to the name of the site, as if nobody had chosen it. Bands
 * that say themselves on which sites they stand come first, the most urgent before all, unless no bands are wanted.
 */
export function partsAround(
  standing: StandingParts,
  held: readonly { readonly id: number; readonly part: Part | null }[],
  siteId: number | null,
) {
  const partOf = (id: number) => held.find((one) => one.id === id)?.part ?? null;
  const choiceOf = ({ value }: StandingParts['header']): Part | 'none' | null =>
    value === 'none' ? 'none' : value === 'name' ? null : partOf(value);
  const { value: said, by } = standing.bands;
  const isUnwanted = by !== null && !said.length;
  const notices = held
    .flatMap(({ id, part }) => (part && !isUnwanted && !said.includes(id) && isOn(part, siteId) ? [part] : []))
    .sort((a, b) => urgencyOf(a) - urgencyOf(b));
  return {
    header: choiceOf(standing.header),
    footer: choiceOf(standing.footer),
    bands: [...notices, ...said.flatMap((id) => partOf(id) ?? [])],
  };
}

/** What holds of parts and of where they stand, at a moment. */
export interface HeldParts {
  readonly parts: readonly { readonly id: number; readonly part: Part | null }[];
  readonly standings: readonly {
    readonly id: number;
    readonly key: string | null;
    readonly siteId: number | null;
    readonly standing: Standing;
  }[];
}

/** Rules as they hold. */
export const rulesOf = ({ standings }: Pick<HeldParts, 'standings'>) =>
  standings.flatMap(({ id, key, siteId, standing }) => {
    const about = ruleFor(key, siteId);
    return about ? [{ id, for: about, standing }] : [];
  });

/** What stands around a page, or around those of a site, by what holds. */
export const partsAt = (held: HeldParts, place: PagePlace, own?: PageFrame | null) =>
  partsAround(standingOf(saidOf(rulesOf(held), place, own)), held.parts, place.siteId);
