import { pathBelow } from '@domatium/core/address';
import { blockTypes } from '@domatium/core/blocks';
import {
  listedPagesOf,
  momentsOf,
  pageReferencesOf,
  referencesOf,
  filledTextsOf,
  METADATA_TEXTS,
  type Block,
  type PageDocument,
} from '@domatium/core/document';
import { NOTHING_SAID, type SaidOfPage } from '@domatium/core/metadata';
import type { LivePeriod, PageId, Placement, RevisionId } from '@domatium/core/plan';
import { follow, type RouteTable } from '@domatium/core/routing';
import {
  alwaysAt,
  heldMetadata,
  placeOnSite,
  saidOfPage,
  stockAt,
  textsSaid,
  valueMap,
  yearValues,
  type SharedValue,
  type SiteProfile,
  type StockContent,
} from '@domatium/core/stock';
import { THEMES, type Theme, type ThemeKey } from '@domatium/core/theme';
import { fillText, namesIn } from '@domatium/core/text';
import { DAY, contains, endOf, nextYear, yearOf, type Instant } from '@domatium/core/time';
import { metadataRulesAt, type ShelvedItem } from '../stock/index.js';
import type { SiteView, Surroundings } from './input.js';
import { withPieces } from './render.js';

/** What names between { } are filled in from. */
interface Valued {
  readonly stock: readonly ShelvedItem[];
  readonly zone: string;
  readonly now: Instant;
}

/** What surroundings are taken from: the plan of everything a page may show. */
export interface PortfolioOverTime extends Valued {
  readonly table: RouteTable;
  readonly periodsOf: (id: PageId) => readonly LivePeriod[];
  readonly titleOf: (id: RevisionId) => string;
  readonly placementsOf: (id: PageId) => readonly Placement[];
}

/** A page without an end is made ready for the turns of so many years; whatever publishes it anew goes further, and the worker does in time. */
const YEARS_AHEAD = 3 * 366 * DAY;

export type Witness = (from: number, until: number) => void;

/**
 * What a document shows at an instant that is not in it; `witness` is told how long that stays so. `page`: where it lies on
 * its host and since when it is live; `null` for what is no page.
 */
export function surroundingsAt(
  world: PortfolioOverTime,
  document: PageDocument,
  site: SiteView,
  page: { readonly path: string; readonly period: LivePeriod | null } | null,
  at: Instant,
  witness: Witness,
): Surroundings {
  const profile = profileAt(world.stock, site.siteId, at, witness);
  const pieces = piecesAt(world.stock, factsOf(document).pieces, at, witness);
  const facts = factsOf(withPieces(document, pieces));
  const ends = facts.pages.map((id) => [id, follow(world.table, id, at, 301, witness)] as const);
  const until = page?.period?.during.until;
  const end = facts.usesEnd && until ? { at: until, zone: world.zone } : null;
  const said = page ? saidAt(world.stock, site, page.path, at, witness) : NOTHING_SAID;
  return {
    pieces,
    ends,
    titles: ends.flatMap(([id, followed]) => {
      if (!facts.listed.has(id) || followed.kind !== 'address' || !followed.isDirect) return [];
      const title = titleAt(world, id, at, witness);
      return title === null ? [] : [[id, title] as const];
    }),
    site: { language: profile.language, shareId: profile.shareId, title: facts.isTitled ? '' : profile.brand },
    values: valuesAt(world, withNames(facts.names, said), site.siteId, profile.brand, at, witness),
    said,
    end,
    past: facts.moments.filter((moment) => {
      if (moment > at) witness(at, moment);
      return moment <= at;
    }),
  };
}

/** What a document asks of its surroundings: read once, asked for at every stretch. */
interface Facts {
  readonly pages: readonly PageId[];
  readonly listed: ReadonlySet<PageId>;
  readonly pieces: readonly number[];
  readonly names: ReadonlySet<string>;
  readonly moments: readonly number[];
  readonly usesEnd: boolean;
  readonly isTitled: boolean;
}
const known = new WeakMap<PageDocument, Facts>();

function factsOf(document: PageDocument): Facts {
  const found = known.get(document);
  if (found) return found;
  const { title, elements = [] } = document.metadata;
  const texts = [
    ...METADATA_TEXTS.flatMap((key) => document.metadata[key] ?? []),
    ...textsSaid({ ...NOTHING_SAID, elements }),
    ...filledTextsOf(document).map(({ value }) => value),
  ];
  const facts = {
    pages: pageReferencesOf(document),
    listed: new Set(listedPagesOf(document)),
    pieces: referencesOf(document, 'piece'),
    names: new Set(texts.flatMap(namesIn)),
    moments: momentsOf(document),
    usesEnd: usesEnd(document.blocks),
    isTitled: title !== '',
  };
  known.set(document, facts);
  return facts;
}

function withNames(names: ReadonlySet<string>, said: SaidOfPage): ReadonlySet<string> {
  const more = said === NOTHING_SAID ? [] : textsSaid(said).flatMap(namesIn);
  return more.length ? new Set([...names, ...more]) : names;
}

/** What is said of a page of a site, lying there, at an instant. */
function saidAt(
  stock: readonly ShelvedItem[],
  { siteId, host, basePath }: SiteView,
  path: string,
  at: Instant,
  witness: Witness,
): SaidOfPage {
  const items = [...ofKind(stock, 'metadata', null), ...ofKind(stock, 'metadata', siteId)];
  const rules = metadataRulesAt(items, at, witness);
  if (!rules.length) return NOTHING_SAID;
  return saidOfPage(heldMetadata(rules, placeOnSite(siteId, host, pathBelow(basePath, path))));
}

const shelves = new WeakMap<readonly ShelvedItem[], Map<string, ShelvedItem[]>>();

/** Things of the stock of a kind, or those of one site (`null`: of the portfolio): a stock is sorted once, and asked often. */
export function ofKind(
  stock: readonly ShelvedItem[],
  kind: ShelvedItem['kind'],
  siteId?: number | null,
): readonly ShelvedItem[] {
  let sorted = shelves.get(stock);
  if (!sorted) {
    sorted = new Map();
    for (const item of stock)
      for (const key of [item.kind, `${item.kind} ${item.siteId}`]) {
        const own = sorted.get(key);
        if (own) own.push(item);
        else sorted.set(key, [item]);
      }
    shelves.set(stock, sorted);
  }
  return sorted.get(siteId === undefined ? kind : `${kind} ${siteId}`) ?? [];
}

/** Contents that come from the stock are compared by being the same object: they can be long, and are asked for often. */
const identities = new WeakMap<object, number>();
let identified = 0;
export function identityOf(content: object): number {
  const known = identities.get(content) ?? ++identified;
  identities.set(content, known);
  return known;
}

/** A text that is the same for surroundings that are the same. */
export function signatureOf(around: Surroundings): string {
  const { ends, titles, site, pieces, values, end, past, said } = around;
  const held = pieces.map(([id, blocks]) => [id, identityOf(blocks)]);
  return JSON.stringify([ends, titles, site, held, values, end, past, said]);
}

const usesEnd = (blocks: readonly Block[]) => blocks.some(({ type, fields }) => blockTypes[type].asksEnd?.(fields));

function piecesAt(
  stock: readonly ShelvedItem[],
  used: readonly number[],
  at: Instant,
  witness: Witness,
): Surroundings['pieces'] {
  return used.flatMap((id) => {
    const held = stockAt(ofKind(stock, 'piece').find((item) => item.id === id)?.periods ?? [], at, witness);
    return held ? [[id, held.content as readonly Block[]] as const] : [];
  });
}

/** The title of a page that is live, as it says it itself: with the values of its own site. */
export function titleAt(world: PortfolioOverTime, id: PageId, at: Instant, witness: Witness): string | null {
  const period = world.periodsOf(id).find(({ during }) => contains(during, at));
  if (!period) return null;
  witness(period.during.from, endOf(period.during));
  const siteId = world.placementsOf(id).find(({ during }) => contains(during, at))?.siteId;
  const title = world.titleOf(period.revisionId);
  return siteId === undefined ? title : titleOn(world, title, siteId, at, witness);
}

/** A title on a page of a site. */
export function titleOn(
  world: Valued,
  title: string,
  siteId: number,
  at: Instant,
  witness: Witness = () => undefined,
): string {
  const asked = new Set(namesIn(title));
  if (!asked.size) return title;
  const { brand } = profileAt(world.stock, siteId, at, witness);
  return fillText(title, new Map(valuesAt(world, asked, siteId, brand, at, witness)));
}

/** Every value on pages of a site, by its name. */
export function allValuesOn(world: Valued, siteId: number, at: Instant): ReadonlyMap<string, string> {
  const { brand } = profileAt(world.stock, siteId, at);
  return new Map(valuesAt(world, null, siteId, brand, at, () => undefined));
}

/** The theme of a key at an instant: what the portfolio made of it, or as it ships. */
export function themeAt(
  stock: readonly ShelvedItem[],
  key: string,
  at: Instant,
  witness: Witness = () => undefined,
): Theme {
  const item = ofKind(stock, 'theme').find((one) => one.key === key);
  const held = item && stockAt(item.periods, at, witness);
  return held ? (held.content as Theme) : (THEMES[key as ThemeKey] ?? THEMES.ferry);
}

/** What a site is at an instant. */
export function profileAt(
  stock: readonly ShelvedItem[],
  siteId: number,
  at: Instant,
  witness: Witness = () => undefined,
): SiteProfile {
  const [item] = ofKind(stock, 'profile', siteId);
  const held = alwaysAt(item?.periods ?? [], at, witness);
  if (!held) throw new Error(`Site ${siteId} has no profile`);
  return held.content as SiteProfile;
}

/** Own CSS of a site at an instant; nothing where it has none. */
export function siteCssAt(stock: readonly ShelvedItem[], siteId: number, at: Instant, witness: Witness): string {
  const [item] = ofKind(stock, 'css', siteId);
  const held = item && stockAt(item.periods, at, witness);
  return held ? (held.content as StockContent['css']).css : '';
}

/** The values a document asks for (`null`: all there are), those of the site over those of the portfolio. */
function valuesAt(
  world: Valued,
  asked: ReadonlySet<string> | null,
  onSite: number,
  siteName: string,
  at: Instant,
  witness: Witness,
): Surroundings['values'] {
  if (asked?.size === 0) return [];
  const layer = (siteId: number | null) => {
    const [item] = ofKind(world.stock, 'values', siteId);
    return ((item && stockAt(item.periods, at, witness)?.content) ?? []) as readonly SharedValue[];
  };
  if (asked?.has('year') && at < world.now + YEARS_AHEAD) witness(at, nextYear(at, world.zone));
  const own = yearValues(yearOf(at, world.zone), siteName);
  return [...valueMap(own, layer(null), layer(onSite))].filter(([name]) => !asked || asked.has(name));
}
