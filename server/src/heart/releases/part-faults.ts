import type { StockChange } from '@domatium/contracts';
import { namesOf, sharedFindingsOf, type Finding } from '@domatium/core/checks';
import { EMPTY_DOCUMENT, piecesOf, type PageDocument } from '@domatium/core/document';
import type { PortfolioId } from '@domatium/core/plan';
import {
  PART_KINDS,
  partsNamed,
  textsSaid,
  valueMap,
  yearValues,
  type Part,
  type Standing,
  type SharedMetadata,
  type StockContent,
  type StockKind,
} from '@domatium/core/stock';
import { intersect, type Instant, type Interval } from '@domatium/core/time';
import type { ReleaseFaultParams } from '@domatium/core/words';
import type { Db } from '../../platform/database/context.js';
import * as stock from '../stock/index.js';
import { instantOf, type ReleaseFault } from './apply.js';
import { mayLose, Shelves } from './shared.js';
import type { AppliedStock, StockGround } from './stock.js';

interface Judging {
  readonly db: Db;
  readonly portfolioId: PortfolioId;
  readonly ground: StockGround;
  readonly applied: AppliedStock;
  readonly instant: Instant;
}
/** What stands around pages, and what is said of them to search engines, is shown by no page that is released for it. */
const SHOWN_APART: readonly StockKind[] = [...PART_KINDS, 'metadata'];
const isShownApart = ({ kind }: { readonly kind: StockKind }) => SHOWN_APART.includes(kind);
/** What visitors may read of it, as a page. */
function documentOf(kind: StockKind, content: StockContent[StockKind]): PageDocument {
  if (kind !== 'metadata') return { ...EMPTY_DOCUMENT, blocks: (content as Part).blocks };
  return { ...EMPTY_DOCUMENT, metadata: { title: textsSaid(content as SharedMetadata).join(' '), description: '' } };
}
const piecesIn = (document: PageDocument) => piecesOf(document).map(({ value }) => value);
const blocking = (document: PageDocument, during: Interval, shelves: Shelves, siteId: number): Finding[] =>
  sharedFindingsOf({ document, during, shared: shelves.of(siteId), write: () => '' }).filter(
    ({ severity }) => severity === 'blocks',
  );

/**
 * Headers, footers and bands that would show nothing of a piece, or the braces of a value, on a site where they stand: by a
 * change of their own, or of what they show.
 */
export async function partFaults(changes: readonly StockChange[], judging: Judging): Promise<ReleaseFault[]> {
  const faults: ReleaseFault[] = [];
  for (const [index, change] of changes.entries()) {
    const item = judging.ground.items.get(change.itemId);
    if (!item) continue;
    const found =
      isShownApart(item) && change.act === 'put'
        ? await inPart(change, item, judging)
        : (await losesNames(item, judging))
          ? await inOthers(judging)
          : null;
    if (found) faults.push({ path: `stock[${index}].content.blocks`, code: 'part-blocks', params: found });
  }
  return faults;
}

type Found = ReleaseFaultParams<'part-blocks'>;

/** What every site has a value for: footers ask for little else. */
const EVERYWHERE: ReadonlySet<string> = new Set(valueMap(yearValues(0, '')).keys());
const asksForMore = (document: PageDocument) => namesOf(document).some(({ name }) => !EVERYWHERE.has(name));

async function losesNames(item: stock.ItemRow, { db, portfolioId }: Judging): Promise<boolean> {
  if (item.kind !== 'piece' && item.kind !== 'values') return false;
  const [held] = await stock.stockOf(db, portfolioId, [item.id]);
  return mayLose(item, held?.periods.map(({ content }) => content) ?? []);
}

/** One that stands nowhere yet is judged for its pieces alone: which values it will have is not known. */
async function inPart(change: StockChange, item: stock.ItemRow, judging: Judging): Promise<Found | null> {
  const { db, portfolioId, ground, applied, instant } = judging;
  const document = documentOf(item.kind, item.draft);
  const pieces = piecesIn(document);
  if (!pieces.length && !asksForMore(document)) return null;
  // Where it stands already, and where the same release says that it does.
  const saying = [...ground.items.values()].filter(
    (one) =>
      one.kind === 'standing' && applied.after.has(one.id) && partsNamed(one.draft as Standing).includes(item.id),
  );
  const standing = await Promise.all([item, ...saying].map((one) => stock.sitesUsing(db, portfolioId, one, instant)));
  const sites = [...new Set(standing.flat().map(({ id }) => id))];
  if (!pieces.length && !sites.length) return null;
  const shelves = await Shelves.read(db, portfolioId, pieces, ground, applied.after);
  const during = { from: instantOf(change.from, instant), until: change.until && instantOf(change.until, instant) };
  const [found] = (sites.length ? sites : [0])
    .flatMap((siteId) => blocking(document, during, shelves, siteId))
    .filter(({ code }) => sites.length > 0 || code === 'piece-not-out');
  return found ? { code: found.code, params: found.params } : null;
}

/** What parts that are on pages, and are not changed themselves, would lose. */
async function inOthers({ db, portfolioId, ground, applied, instant }: Judging): Promise<Found | null> {
  const { after } = applied;
  const parts = (await stock.stockOf(db, portfolioId)).filter((one) => isShownApart(one) && !after.has(one.id));
  const showing = parts.flatMap(({ periods, ...part }) =>
    periods.flatMap(({ content, during }) => {
      const ahead = intersect(during, { from: instant, until: null });
      const document = documentOf(part.kind, content);
      const shows = asksForMore(document) || piecesIn(document).length > 0;
      return ahead && shows ? [{ part, document, during: ahead }] : [];
    }),
  );
  if (!showing.length) return null;
  const pieces = showing.flatMap(({ document }) => piecesIn(document));
  const [becomes, was] = [
    await Shelves.read(db, portfolioId, pieces, ground, after),
    await Shelves.read(db, portfolioId, pieces, ground, new Map()),
  ];
  const names = new Map(
    (await stock.itemsById(db, portfolioId, [...new Set(showing.map(({ part }) => part.id))])).map((row) => [
      row.id,
      row,
    ]),
  );
  for (const { part, document, during } of showing) {
    const row = names.get(part.id);
    for (const { id: siteId } of row ? await stock.sitesUsing(db, portfolioId, row, instant) : []) {
      const before = new Set(blocking(document, during, was, siteId).map(keyOf));
      const found = blocking(document, during, becomes, siteId).find(
        (one) => one.code !== 'piece-not-out' && !before.has(keyOf(one)),
      );
      if (found) return { code: found.code, params: found.params, part: row?.name ?? '' };
    }
  }
  return null;
}

const keyOf = ({ code, params }: Finding) => JSON.stringify([code, { ...params, at: null }]);
