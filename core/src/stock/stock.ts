import { rootFromJSON, type RootContent } from '../root/index.js';
import { codeFromJSON, type Code } from '../codes/index.js';
import type { Block } from '../fields/types.js';
import { documentFromJSON, MAX_CSS, referencesOf } from '../document/page-document.js';
import { isRecord, type Result } from '../fields/result.js';
import { themeFromJSON, type Theme } from '../theme/index.js';
import { wrong, type Wrong } from '../words/faults.js';
import { endOf, type Instant, type Interval } from '../time/index.js';
import { legalFromJSON, menuFromJSON, type LegalPage, type Menu } from './menus.js';
import { metadataFromJSON, type SharedMetadata } from './metadata.js';
import { partFromJSON, type Part } from './parts.js';
import { standingFromJSON, type Standing } from './standing.js';
import { profileFromJSON, type SiteProfile } from './profile.js';
import { valuesFromJSON, type SharedValue } from './values.js';

/** What many pages use: how they look, pieces of content, values in their texts, own CSS of a site, what a site is, what stands around pages, the ways through sites, codes, and files at the root of hosts. */
export const STOCK_KINDS = [
  'theme',
  'piece',
  'values',
  'css',
  'profile',
  'header',
  'footer',
  'band',
  'standing',
  'menu',
  'legal',
  'metadata',
  'code',
  'root',
] as const;
export type StockKind = (typeof STOCK_KINDS)[number];

export interface StockContent {
  readonly theme: Theme;
  readonly piece: readonly Block[];
  readonly values: readonly SharedValue[];
  /** Rules for the content of every page of one site, over those of its theme and below those of a page. */
  readonly css: { readonly css: string };
  /** What a site is to its visitors: each has one from its first day on. */
  readonly profile: SiteProfile;
  readonly header: Part;
  readonly footer: Part;
  readonly band: Part;
  /** What stands around pages, as it is said of some of them. */
  readonly standing: Standing;
  /** A menu of one site, or its page tree, by its name. */
  readonly menu: Menu;
  /** Legal pages that a portfolio wants on each site, or those that one site has. */
  readonly legal: readonly LegalPage[];
  /** What is said to search engines, and where pages are shared, of a portfolio, a site or a path. */
  readonly metadata: SharedMetadata;
  /** Measurement or other code that runs on many pages. */
  readonly code: Code;
  /** What lies at the root of a site’s host beside its pages. */
  readonly root: RootContent;
}

const METADATA = { title: '', description: '' };
const MAX_PIECE = 40;

/** The content of something in stock from JSON. A piece holds no piece: what many pages use is one step away from each. */
export function contentFromJSON<Kind extends StockKind>(kind: Kind, json: unknown): Result<StockContent[Kind]>;
export function contentFromJSON(kind: StockKind, json: unknown): Result<StockContent[StockKind]> {
  if (kind === 'theme') return themeFromJSON(json);
  if (kind === 'values') return valuesFromJSON(json);
  if (kind === 'css') return cssFromJSON(json);
  if (kind === 'profile') return profileFromJSON(json);
  if (kind === 'standing') return standingFromJSON(json);
  if (kind === 'menu') return menuFromJSON(json);
  if (kind === 'legal') return legalFromJSON(json);
  if (kind === 'metadata') return metadataFromJSON(json);
  if (kind === 'code') return codeFromJSON(json);
  if (kind === 'root') return rootFromJSON(json);
  if (kind !== 'piece') return partFromJSON(kind, json);
  const read = documentFromJSON({ metadata: METADATA, blocks: json });
  if (!read.ok) return read;
  const { blocks } = read.value;
  const fault = (what: Wrong) => ({ ok: false as const, faults: [{ path: 'blocks', ...what }] });
  if (!blocks.length || blocks.length > MAX_PIECE) return fault(wrong('piece-count', { most: MAX_PIECE }));
  if (referencesOf(read.value, 'piece').length) return fault(wrong('piece-in-piece'));
  return { ok: true, value: blocks };
}

function cssFromJSON(json: unknown): Result<StockContent['css']> {
  const css = isRecord(json) ? json['css'] : null;
  return typeof css === 'string' && css.length <= MAX_CSS
    ? { ok: true, value: { css } }
    : {
        ok: false,
        faults: [{ path: 'css', ...wrong('css-too-long', { most: MAX_CSS }) }],
      };
}

/** A revision holds from A (inclusive) until B (exclusive, or open). */
export interface StockPeriod {
  readonly revisionId: number;
  readonly during: Interval;
}

/**
 * Periods with a revision painted over [from, until): what was there inside gives way, what goes on behind the end comes
 * back. `null` paints nothing: from then on nothing holds. Those of the same revision that touch become one.
 */
export function paintStock(
  periods: readonly StockPeriod[],
  revisionId: number | null,
  during: Interval,
): StockPeriod[] {
  const from = during.from;
  const until = endOf(during);
  const left = periods.flatMap((period): StockPeriod[] => {
    const { from: start } = period.during;
    const end = endOf(period.during);
    return [
      ...(start < from ? [{ ...period, during: { from: start, until: end < from ? period.during.until : from } }] : []),
      ...(end > until
        ? [{ ...period, during: { from: (start > until ? start : until) as Instant, until: period.during.until } }]
        : []),
    ].filter(({ during: one }) => one.from < endOf(one));
  });
  const all = [...left, ...(revisionId === null ? [] : [{ revisionId, during }])].sort(
    (a, b) => a.during.from - b.during.from,
  );
  return all.reduce<StockPeriod[]>((joined, period) => {
    const last = joined.at(-1);
    if (last && last.revisionId === period.revisionId && last.during.until === period.during.from)
      joined[joined.length - 1] = { ...last, during: { from: last.during.from, until: period.during.until } };
    else joined.push(period);
    return joined;
  }, []);
}

/** The period that holds at an instant, with when that changes: for `stableOver`. */
export function stockAt<Period extends StockPeriod>(
  periods: readonly Period[],
  at: Instant,
  witness?: (from: number, until: number) => void,
): Period | null {
  let held: Period | null = null;
  for (const period of periods) {
    const { from } = period.during;
    const until = endOf(period.during);
    if (from <= at && at < until) held = period;
    if (from > at) witness?.(at, from);
    else if (until > at && until !== Infinity) witness?.(from, until);
  }
  return held;
}

/**
 * Periods put back as they were before a release, from `instant` on: what was there until then stays, and so what an
 * undo shows is what would hold if the release had not been.
 */
export function putBackStock(
  current: readonly StockPeriod[],
  before: readonly StockPeriod[],
  instant: Instant,
): StockPeriod[] {
  const past = current.filter(({ during }) => during.from < instant);
  const ahead = before.filter(({ during }) => endOf(during) > instant);
  const cut = paintStock(past, null, { from: instant, until: null });
  return ahead.reduce<StockPeriod[]>(
    (all, { revisionId, during }) =>
      paintStock(all, revisionId, { ...during, from: Math.max(during.from, instant) as Instant }),
    cut,
  );
}

/** What holds at an instant of something that always holds: before its first period that is what it begins with. */
export function alwaysAt<Period extends StockPeriod>(
  periods: readonly Period[],
  at: Instant,
  witness?: (from: number, until: number) => void,
): Period | null {
  return stockAt(periods, at, witness) ?? periods[0] ?? null;
}
