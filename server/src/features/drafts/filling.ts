import type { Filled, FilledPage, FillingView } from '@domatium/contracts';
import {
  completeDocument,
  MAX_DESCRIPTION,
  MAX_TITLE,
  robotsFromJSON,
  type MetadataText,
  type PageDocument,
  type Robots,
} from '@domatium/core/document';
import {
  fillPattern,
  patternFactsOf,
  patternFault,
  readPattern,
  type Pattern,
  type SaidOfPage,
} from '@domatium/core/metadata';
import { canonical, type PageId, type PortfolioId } from '@domatium/core/plan';
import { heldMetadata, placeOnSite, saidOfPage } from '@domatium/core/stock';
import { fillText } from '@domatium/core/text';
import { allValuesOn } from '../../heart/publishing/index.js';
import { metadataRulesAt, stockOf } from '../../heart/stock/index.js';
import { dateOf, inTransaction, rowsOf, type Context, type Db } from '../../platform/database/context.js';
import { InvalidError } from '../../platform/errors.js';
import { zoneOf } from '../../heart/releases/index.js';
import { draftsToChange, writeDrafts, type Seen } from './many-drafts.js';

/** What is set in many drafts: a text by a pattern, or what is asked of search engines. */
export interface Filling {
  readonly what: Filled;
  readonly pattern: string;
  readonly most: number | null;
  readonly robots: unknown;
  readonly over: boolean;
}

/** What a draft becomes, with how it reads before and after; or why it stays as it is. */
type Outcome =
  | (Pick<FilledPage, 'before' | 'after' | 'around'> & { readonly document: PageDocument })
  | Pick<FillingView['out'][number], 'why' | 'missing'>;

/** A draft with what is known around it. */
interface Around {
  readonly name: string;
  readonly campaign: string | null;
  readonly portfolio: string;
  readonly values: ReadonlyMap<string, string>;
  /** What is set further up to stand before and after titles. */
  readonly said: Pick<SaidOfPage, 'titleBefore' | 'titleAfter'> | null;
}

/** Sets something in the drafts of many pages: what would become of them, or, with the drafts that were seen, what became of them. */
export function fillDrafts(
  context: Context,
  portfolioId: PortfolioId,
  filling: Filling,
  pageIds: readonly number[],
  seen: readonly Seen[] | null,
): Promise<FillingView> {
  return inTransaction(context.database, async (trx) => {
    const drafts = await draftsToChange(trx, portfolioId, pageIds, seen);
    const places = await placesOf(
      trx,
      portfolioId,
      drafts.map(({ id }) => id),
      context,
    );
    const outcomeOf = outcomes(filling, new Set([...places.values.values()].flatMap((values) => [...values.keys()])));
    const pages: (FilledPage & { readonly document: PageDocument })[] = [];
    const out: FillingView['out'][number][] = [];
    for (const { id: pageId, name, version, document, has_more: hasMore } of drafts) {
      const place = places.byPage.get(pageId);
      const values = places.values.get(place?.siteId ?? 0) ?? new Map<string, string>();
      const said = place?.siteId ? places.saidOn(place.siteId, place.path) : null;
      const around = { name, campaign: place?.campaign ?? null, portfolio: places.portfolio, values, said };
      const outcome = outcomeOf(completeDocument(document), around);
      if ('why' in outcome) out.push({ pageId, name, ...outcome });
      else pages.push({ ...{ pageId, name, hasMore }, ...outcome, version: version + (seen ? 1 : 0) });
    }
    if (seen && pages.length) await writeDrafts(trx, context, portfolioId, pages, 'fill-drafts');
    return { pages: pages.map(({ document: _, ...page }) => page), out };
  });
}

function outcomes(
  { what, pattern, most, robots, over }: Filling,
  known: ReadonlySet<string>,
): (document: PageDocument, around: Around) => Outcome {
  if (what === 'robots') {
    const read = robotsFromJSON(robots);
    if (!read.ok) throw new InvalidError(read.faults.map((fault) => ({ ...fault, path: `robots.${fault.path}` })));
    return (document) => robotsOutcome(document, read.value, over);
  }
  const read = readPattern(pattern);
  const fault = read.ok ? patternFault(read.value, what, known) : null;
  const faults = read.ok ? (fault ? [fault] : []) : read.faults;
  if (!read.ok || faults.length) throw new InvalidError(faults.map((one) => ({ ...one, path: 'pattern' })));
  return (document, around) => textOutcome(document, around, { what, pattern: read.value, most, over });
}

function robotsOutcome(document: PageDocument, robots: Robots | null, over: boolean): Outcome {
  const { robots: before = null, ...rest } = document.metadata;
  if (before && !over) return { why: 'has-own' };
  if (canonical(before) === canonical(robots)) return { why: 'same' };
  return { document: { ...document, metadata: { ...rest, ...(robots ? { robots } : {}) } }, before, after: robots };
}

function textOutcome(
  document: PageDocument,
  { values, said, ...around }: Around,
  { what, pattern, most, over }: { what: MetadataText; pattern: Pattern; most: number | null; over: boolean },
): Outcome {
  const own = document.metadata[what] ?? '';
  if (own.trim() && !over) return { why: 'has-own' };
  const filled = fillPattern(pattern, patternFactsOf(document, around), values, most);
  if ('missing' in filled) return { why: 'missing', missing: filled.missing };
  if (filled.kept === own) return { why: 'same' };
  const room = what === 'title' || what === 'shareTitle' ? MAX_TITLE : MAX_DESCRIPTION;
  if (filled.kept.length > room) return { why: 'too-long' };
  const metadata = { ...document.metadata, [what]: filled.kept };
  const [before, after] = [said?.titleBefore ?? '', said?.titleAfter ?? ''].map((text) => fillText(text, values)) as [
    string,
    string,
  ];
  const hasAround = what === 'title' && !metadata.titleAlone && (before || after);
  return {
    ...{ document: { ...document, metadata }, before: fillText(own, values), after: filled.read },
    ...(hasAround ? { around: { before, after } } : {}),
  };
}

/** Where pages lie and what they belong to, and the values of each of those sites. */
export async function placesOf(db: Db, portfolioId: PortfolioId, ids: readonly PageId[], { now }: Context) {
  const rows = await rowsOf<{
    id: PageId;
    siteId: number | null;
    path: string;
    host: string | null;
    campaign: string | null;
    portfolio: string;
  }>(
    db,
    `SELECT p.id, l.site_id AS "siteId", coalesce(l.path, '') AS path, h.name AS host, c.name AS campaign, o.name AS portfolio FROM page p
    JOIN portfolio o ON o.id = p.portfolio_id LEFT JOIN campaign c ON c.id = p.campaign_id
    LEFT JOIN placement l ON l.page_id = p.id AND l.during @> ?::timestamptz
    LEFT JOIN site_address a ON a.site_id = l.site_id AND a.is_primary AND a.during @> ?::timestamptz LEFT JOIN host h ON h.id = a.host_id
    WHERE p.portfolio_id = ? AND p.id = ANY(?)`,
    [dateOf(now), dateOf(now), portfolioId, ids],
  );
  const world = { stock: await stockOf(db, portfolioId), zone: await zoneOf(db, portfolioId), now };
  const rules = metadataRulesAt(world.stock, now);
  const sites = [...new Set(rows.flatMap(({ siteId }) => siteId ?? []))];
  return {
    byPage: new Map(rows.map((row) => [row.id, row])),
    portfolio: rows[0]?.portfolio ?? '',
    saidOn: (siteId: number, path: string) => saidOfPage(heldMetadata(rules, placeOnSite(siteId, '', path))),
    values: new Map(sites.map((siteId) => [siteId, allValuesOn(world, siteId, now)])),
  };
}
