import { asTaken, namesOf, sharedFindingsOf, type Finding, type SharedSight } from '@domatium/core/checks';
import {
  completeBlock,
  EMPTY_DOCUMENT,
  isBlockType,
  isWrong,
  piecesOf,
  textsOf,
  typedTarget,
  type Block,
} from '@domatium/core/document';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import {
  alwaysAt,
  stockAt,
  valueMap,
  yearValues,
  type SharedValue,
  type SiteProfile,
  type StockContent,
  type StockKind,
} from '@domatium/core/stock';
import { FIRST_CONTENT } from '@domatium/core/text';
import { endOf, yearOf, type Instant, type Interval } from '@domatium/core/time';
import type { WriteInstant } from '@domatium/core/words';
import type { Db } from '../../platform/database/context.js';
import { severitiesOf } from '../checks/index.js';
import * as stock from '../stock/index.js';
import { DRAFT_OF_STOCK, type AppliedStock, type StockGround } from './stock.js';

interface Held {
  readonly name: string;
  readonly siteId: number | null;
  readonly kind: StockKind;
  readonly periods: readonly { readonly during: Interval; readonly content: StockContent[StockKind] }[];
}

/** What pages would show of the stock once changes of it are made: of the pieces that documents link, and of all values. */
export class Shelves {
  private constructor(private readonly held: ReadonlyMap<number, Held>) {}

  static async read(
    db: Db,
    portfolioId: PortfolioId,
    pieceIds: readonly number[],
    { items }: Pick<StockGround, 'items'>,
    after: AppliedStock['after'],
  ): Promise<Shelves> {
    const rows = await stock.piecesAndValues(db, portfolioId, [...new Set(pieceIds)]);
    const ids = rows.map(({ id }) => id);
    const shelved = new Map((await stock.stockOf(db, portfolioId, ids)).map((one) => [one.id, one.periods]));
    const held = rows.map(({ id, name, kind, site_id }): [number, Held] => {
      const known = shelved.get(id) ?? [];
      const contents = new Map(known.map(({ revisionId, content }) => [revisionId, content]));
      const draft = items.get(id)?.draft;
      const periods = (after.get(id) ?? known).flatMap(({ revisionId, during }) => {
        const content = revisionId === DRAFT_OF_STOCK ? draft : contents.get(revisionId);
        return content === undefined ? [] : [{ during, content }];
      });
      return [id, { name, siteId: site_id, kind, periods }];
    });
    return new Shelves(new Map(held));
  }

  /** What the pages of a site show of it; those of a site stand over those of its portfolio. */
  of(siteId: number): SharedSight {
    const layers = [...this.held.values()].filter(
      (one) => one.kind === 'values' && (one.siteId === null || one.siteId === siteId),
    );
    const profile = [...this.held.values()].find((one) => one.kind === 'profile' && one.siteId === siteId);
    return {
      piece: (id, during) => {
        const piece = this.held.get(id);
        return piece?.kind === 'piece'
          ? {
              name: piece.name,
              periods: piece.periods.map(({ during }) => during),
              blocks: piece.periods.flatMap((one) =>
                one.during.from < endOf(during) && endOf(one.during) > during.from
                  ? readable(one.content as readonly Block[])
                  : [],
              ),
            }
          : null;
      },
      values: (during) => {
        const turns = layers.flatMap(({ periods }) => periods.flatMap((one) => [one.during.from, endOf(one.during)]));
        const inside = turns.filter((at) => at > during.from && at < endOf(during)).sort((a, b) => a - b);
        return [...new Set([during.from, ...inside])].map((one) => {
          const at = one as Instant;
          const name = (profile && (alwaysAt(profile.periods.map(numbered), at)?.content as SiteProfile).brand) ?? '';
          const own = yearValues(yearOf(at, 'UTC'), name);
          return { from: at, values: valueMap(own, ...layers.map((layer) => valuesAt(layer, at))) };
        });
      },
    };
  }
}

/** What no version of ours wrote is left out: whoever publishes it says so. */
const readable = (blocks: readonly Block[]) => blocks.filter(({ type }) => isBlockType(type)).map(completeBlock);

const numbered = <One extends object>(one: One, revisionId: number) => ({ ...one, revisionId });

function valuesAt({ periods }: Held, at: Instant): readonly SharedValue[] {
  const held = stockAt(periods.map(numbered), at);
  return (held?.content ?? []) as readonly SharedValue[];
}

/** Whether links may lead by one value, as a number, a mailbox or an address, and no longer by another. */
const leadsNoMore = (was: string, is: string) =>
  (['phone', 'mail', 'outside'] as const).some(
    (kind) => !isWrong(typedTarget(kind, was)) && isWrong(typedTarget(kind, is)),
  );

/** Whether what a thing becomes could leave a name without a value, or a link that uses one without an end; most changes can't. */
export function mayLose({ kind, draft }: stock.ItemRow, held: readonly StockContent[StockKind][]): boolean {
  if (kind === 'piece') {
    const document = { ...EMPTY_DOCUMENT, blocks: draft as readonly Block[] };
    return namesOf(document).length > 0 || textsOf(document).some(({ value }) => FIRST_CONTENT.test(value));
  }
  if (kind !== 'values') return false;
  const kept = valueMap(draft as readonly SharedValue[]);
  return held.some((values) =>
    [...valueMap(values as readonly SharedValue[])].some(([name, was]) => {
      const is = kept.get(name);
      return is === undefined || leadsNoMore(was, is);
    }),
  );
}

type PageFinding = Finding & { readonly pageId: number };

/**
 * Pages that would show braces by a change of pieces and values, though no change of theirs is in it. What was so before is
 * no matter of this change.
 */
export async function namesLost(
  db: Db,
  portfolioId: PortfolioId,
  things: StockGround,
  { after }: AppliedStock,
  /** Pages that the same release changes: they are judged as they become. */
  changedPages: ReadonlySet<PageId>,
  instant: Instant,
  write: WriteInstant,
): Promise<PageFinding[]> {
  if (!after.size) return [];
  const shelved = new Map(
    (await stock.stockOf(db, portfolioId, [...after.keys()])).map((one) => [one.id, one.periods]),
  );
  const changed = [...after.keys()].flatMap((id) => {
    const item = things.items.get(id);
    const held = (shelved.get(id) ?? []).map(({ content }) => content);
    return item && mayLose(item, held) ? [item] : [];
  });
  const using = await Promise.all(changed.map((item) => stock.periodsUsing(db, portfolioId, item, instant)));
  const rows = using.flat().filter(({ page_id }) => !changedPages.has(page_id));
  if (!rows.length) return [];
  const pieceIds = rows.flatMap(({ document }) => piecesOf(document).map(({ value }) => value));
  const [becomes, was] = [
    await Shelves.read(db, portfolioId, pieceIds, things, after),
    await Shelves.read(db, portfolioId, pieceIds, things, new Map()),
  ];
  const taken = await severitiesOf(db, portfolioId);
  const found = new Map<string, PageFinding>();
  for (const { page_id: pageId, site_id: siteId, from_at, until_at, document } of rows) {
    const during = { from: Math.max(from_at, instant) as Instant, until: until_at };
    const of = (shelves: Shelves) =>
      sharedFindingsOf({ document, during, shared: shelves.of(siteId), write }).filter(
        ({ code }) => code !== 'piece-not-out',
      );
    const keyOf = ({ params }: Finding) => JSON.stringify({ ...params, at: null });
    const before = new Set(of(was).map(keyOf));
    for (const finding of of(becomes)) {
      const key = keyOf(finding);
      const [becoming] = asTaken([{ ...finding, severity: 'blocks' as const }], taken.get(siteId));
      if (becoming && !before.has(key)) found.set(`${pageId} ${key}`, { ...becoming, pageId });
    }
  }
  return [...found.values()];
}
