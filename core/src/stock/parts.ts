import { documentFromJSON } from '../document/page-document.js';
import { isRecord, type Fault, type Result } from '../fields/result.js';
import type { Part } from '../fields/types.js';

export type { Part } from '../fields/types.js';
import { wrong } from '../words/faults.js';

/** What stands around pages: made once, used by many. */
export const PART_KINDS = ['header', 'footer', 'band'] as const;
export type PartKind = (typeof PART_KINDS)[number];

/** How a part can be laid out, each with its label, the first of a new one first. */
export const PART_LAYOUTS = {
  header: { row: 'In one row', rows: 'In two rows', centred: 'Centred', over: 'Over the opening picture' },
  footer: { columns: 'In columns', row: 'In one row', centred: 'Centred' },
  band: { information: 'Information', warning: 'Warning', urgent: 'Urgent' },
} as const satisfies Record<PartKind, Record<string, string>>;

const MOST_BLOCKS = 20;
const METADATA = { title: '', description: '' };

/** A part from JSON: at most 20 blocks, one of the layouts of its kind. */
export function partFromJSON(kind: PartKind, json: unknown): Result<Part> {
  const { layout, blocks } = isRecord(json) ? json : {};
  const read = documentFromJSON({ metadata: METADATA, blocks });
  if (!read.ok) return read;
  const faults: Fault[] = [];
  if (!Object.hasOwn(PART_LAYOUTS[kind], String(layout))) faults.push({ path: 'layout', ...wrong('part-layout') });
  const { length } = read.value.blocks;
  if (!length || length > MOST_BLOCKS) faults.push({ path: 'blocks', ...wrong('part-blocks', { most: MOST_BLOCKS }) });
  return faults.length
    ? { ok: false, faults }
    : { ok: true, value: { layout: String(layout), blocks: read.value.blocks } };
}

/** One of the parts of the stock, none at all, or what is said further up. */
export type PartChoice = number | 'none' | null;

/** What stands around the pages of a site, or of all sites of a portfolio that say nothing else. */
export interface Standing {
  readonly header: PartChoice;
  readonly footer: PartChoice;
  /** Bands in their order, from the top; `null` for what is said further up. */
  readonly bands: readonly number[] | null;
  /** Nothing further down may say otherwise. */
  readonly isLocked: boolean;
}

const MOST_BANDS = 5;
const isId = (value: unknown): value is number => Number.isSafeInteger(value) && (value as number) > 0;

/** From JSON; whether the parts are there is asked by whoever knows the portfolio. */
export function standingFromJSON(json: unknown): Result<Standing> {
  const { header = null, footer = null, bands = null, isLocked = false } = isRecord(json) ? json : {};
  const faults: Fault[] = [];
  for (const [path, value] of Object.entries({ header, footer }))
    if (value !== null && value !== 'none' && !isId(value)) faults.push({ path, ...wrong('part-missing') });
  if (bands !== null && !(Array.isArray(bands) && bands.length <= MOST_BANDS && bands.every(isId)))
    faults.push({ path: 'bands', ...wrong('part-bands', { most: MOST_BANDS }) });
  if (typeof isLocked !== 'boolean') faults.push({ path: 'isLocked', ...wrong('part-missing') });
  return faults.length ? { ok: false, faults } : { ok: true, value: { header, footer, bands, isLocked } as Standing };
}

/** All parts that are named. */
export const partsNamed = ({ header, footer, bands }: Standing): number[] =>
  [header, footer, ...(bands ?? [])].filter((one): one is number => typeof one === 'number');

/** Who says something of what stands around pages, from the whole to the single. */
export const SCOPES = ['portfolio', 'site'] as const;
export type StandingScope = (typeof SCOPES)[number];

/** Which part stands there, `null` for none, and who said so; `by` is `null` where nobody did. */
export interface Held<T> {
  readonly value: T | null;
  readonly by: StandingScope | null;
}

export interface StandingParts {
  readonly header: Held<number>;
  readonly footer: Held<number>;
  readonly bands: Held<readonly number[]>;
}

/**
 * What stands around a page by what is said of it, from the whole to the single: the most single holds, up to one that
 * is locked, below which nothing else does.
 */
export function standingOf(said: readonly (readonly [StandingScope, Standing])[]): StandingParts {
  const lock = said.findIndex(([, { isLocked }]) => isLocked);
  const heard = lock < 0 ? said : said.slice(0, lock + 1);
  const partOf = (which: 'header' | 'footer'): Held<number> => {
    const found = heard.findLast(([, standing]) => standing[which] !== null);
    const value = found?.[1][which];
    return { value: typeof value === 'number' ? value : null, by: found?.[0] ?? null };
  };
  const bands = heard.findLast(([, standing]) => standing.bands !== null);
  return {
    header: partOf('header'),
    footer: partOf('footer'),
    bands: { value: bands?.[1].bands ?? null, by: bands?.[0] ?? null },
  };
}

/** The parts themselves; one that holds nothing now gives way to the name of the site, as if nobody had chosen it. */
export function partsAround(standing: StandingParts, partOf: (id: number) => Part | null) {
  const held = ({ value, by }: Held<number>): Part | 'none' | null =>
    value === null ? (by === null ? null : 'none') : partOf(value);
  return {
    header: held(standing.header),
    footer: held(standing.footer),
    bands: (standing.bands.value ?? []).flatMap((id) => partOf(id) ?? []),
  };
}

/** What holds of parts and of where they stand, at a moment. */
export interface HeldParts {
  readonly parts: readonly { readonly id: number; readonly part: Part | null }[];
  readonly standings: readonly { readonly siteId: number | null; readonly standing: Standing }[];
}

/** What stands around the pages of a site by what holds. */
export function partsAt(held: HeldParts, siteId: number | null) {
  const said = SCOPES.flatMap((scope) => {
    const of = scope === 'site' ? siteId : null;
    const found = held.standings.find((one) => one.siteId === of);
    return found && (scope === 'portfolio' || of !== null) ? [[scope, found.standing] as const] : [];
  });
  return partsAround(standingOf(said), (id) => held.parts.find((one) => one.id === id)?.part ?? null);
}
