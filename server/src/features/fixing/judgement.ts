import { Judgement, type JudgedWorld, type PictureSize } from '@domatium/core/judgement';
import { canonical, groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import { later, MINUTE, writeInstant, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import { keepFindings } from '../../heart/checks/index.js';
import { zoneOf } from '../../heart/releases/index.js';
import { dateOf, inTransaction, rowsOf, type Db } from '../../platform/database/context.js';
import type { Work } from '../../platform/work/index.js';
import { groundAt, judgedPages, pictureSizes, stampsAt, type Sights } from './judged-pages.js';

/** What is kept of a portfolio from one judgement to the next. */
interface Kept {
  readonly judgement: Judgement;
  readonly sights: Sights;
  /** As its pages, and what they lie on, were seen last. */
  readonly stamps: ReadonlyMap<PageId, string>;
  readonly ground: string;
  readonly sizes: ReadonlyMap<number, PictureSize>;
  /** Until when it was looked at what time alone makes wrong. */
  readonly passedAt: Instant;
}
/** So many pages of all portfolios are kept together. */
const KEPT = 60_000;
/** Days pass, periods begin and end, pages get other names: what nobody publishes is judged so often. */
const AGAIN = 60 * MINUTE;
/** More often than this nothing passes that matters. */
const PASSING = 10 * MINUTE;
/** Where more pages than this are others, all are read. */
const MOST_OTHERS = 2_000;
/** Findings of so many pages are written at once. */
const AT_ONCE = 500;

/** Judges portfolios as wholes: what it read once it keeps, so that one changed page costs what one page costs. */
export class Judge {
  private readonly kept = new LRUCache<number, Kept>({
    maxSize: KEPT,
    sizeCalculation: ({ stamps }) => Math.max(1, stamps.size),
  });

  constructor(private readonly database: Knex) {}

  /** Judges all that changed in a portfolio since it was judged last; gives how many pages were judged, and written. */
  async judge(portfolioId: PortfolioId, now: Instant): Promise<{ readonly judged: number; readonly written: number }> {
    const known = this.kept.get(portfolioId);
    const kept = known ?? {
      ...{
        judgement: new Judgement(),
        sights: new Map(),
        stamps: new Map(),
        ground: '',
        sizes: new Map(),
        passedAt: now,
      },
    };
    try {
      const { found, publication, ...seen } = await inTransaction(
        this.database,
        (db) => look(db, portfolioId, { ...kept, isNew: !known }, now),
        'repeatable read',
      );
      const written = await this.keep(portfolioId, found, now, publication);
      this.kept.set(portfolioId, { ...kept, ...seen });
      return { judged: found.size, written };
    } catch (error) {
      // What was half taken in is read again.
      this.kept.delete(portfolioId);
      throw error;
    }
  }

  /** Writes what is found on those pages where it is another than is known. */
  private async keep(
    portfolioId: PortfolioId,
    found: Awaited<ReturnType<typeof look>>['found'],
    now: Instant,
    publication: number,
  ): Promise<number> {
    return inTransaction(this.database, async (trx) => {
      const before = await storedFindings(trx, [...found.keys()]);
      const sayOf = (those: readonly { code: string; params: object }[] = []) =>
        those.map(({ code, params }) => canonical([code, params])).join();
      const changed = [...found].filter(([id, findings]) => sayOf(findings) !== sayOf(before.get(id)));
      for (let n = 0; n < changed.length; n += AT_ONCE)
        await keepFindings(trx, portfolioId, 'portfolio', new Map(changed.slice(n, n + AT_ONCE)));
      await trx.raw('UPDATE portfolio SET judged_publication = ?, judged_at = ? WHERE id = ?', [
        publication,
        dateOf(now),
        portfolioId,
      ]);
      return changed.length;
    });
  }
}

async function look(
  db: Db,
  portfolioId: PortfolioId,
  { judgement, sights, passedAt, isNew, ...last }: Kept & { readonly isNew: boolean },
  now: Instant,
) {
  const [row] = await rowsOf<{ publication: number }>(db, 'SELECT publication FROM portfolio WHERE id = ?', [
    portfolioId,
  ]);
  const zone = await zoneOf(db, portfolioId);
  const ground = await groundAt(db, portfolioId, { at: now, zone });
  const stamps = await stampsAt(db, portfolioId, now);
  const others = [...stamps].flatMap(([id, stamp]) => (last.stamps.get(id) === stamp ? [] : [id]));
  const isAll = ground.key !== last.ground || others.length > MOST_OTHERS;
  if (sights.size > 2 * stamps.size + MOST_OTHERS) sights.clear();
  const pages = await judgedPages(db, portfolioId, ground, sights, isAll ? null : others);
  const sizes = await pictureSizes(db, portfolioId);
  const world: JudgedWorld = {
    ...{ at: now, sizeOf: (id) => sizes.get(id) },
    write: (at) => writeInstant(at, zone, now),
  };
  const there = new Set(pages.map(({ id }) => id));
  const gone = [...last.stamps.keys()].filter((id) => !stamps.has(id));
  // What lies nowhere then is not judged.
  const lost = others.filter((id) => !there.has(id));
  const touched = isAll ? judgement.fill(pages) : judgement.change(pages, [...gone, ...lost]);
  const isOther = (id: number) => JSON.stringify(sizes.get(id)) !== JSON.stringify(last.sizes.get(id));
  if (!isNew) for (const id of judgement.showing(isOther)) touched.add(id);
  const isPassing = now - passedAt >= PASSING;
  if (isPassing) for (const id of judgement.passing(passedAt, now, world)) touched.add(id);
  // A worker that is new knows nothing of pages that were judged before and are no more.
  const stored = isNew
    ? await rowsOf<{ page_id: PageId }>(
        db,
        "SELECT DISTINCT page_id FROM finding WHERE portfolio_id = ? AND source = 'portfolio'",
        [portfolioId],
      )
    : [];
  for (const { page_id } of stored) if (!stamps.has(page_id)) touched.add(page_id);
  const found = new Map([...touched].map((id) => [id, judgement.findingsOf(id, world)]));
  const seen = { stamps, ground: ground.key, sizes, passedAt: isPassing ? now : passedAt };
  return { found, publication: row?.publication ?? 0, ...seen };
}

async function storedFindings(db: Db, pageIds: readonly PageId[]) {
  const rows = await rowsOf<{ page_id: PageId; code: string; params: object }>(
    db,
    "SELECT page_id, code, params FROM finding WHERE page_id = ANY(?) AND source = 'portfolio' ORDER BY page_id, ordinal",
    [pageIds],
  );
  return groupBy(rows, ({ page_id }) => page_id);
}

/** Judges each portfolio soon after something was published in it, and every hour for what time alone makes wrong. */
export function judgementWork(database: Knex, clock: () => Instant): Work {
  const judge = new Judge(database);
  return {
    name: 'judgement',
    every: 5_000,
    pauses: [5_000, 120_000],
    pending: async () => {
      const rows = await rowsOf<{ id: number }>(
        database,
        'SELECT id FROM portfolio WHERE judged_publication IS DISTINCT FROM publication OR judged_at IS NULL OR judged_at < ? ORDER BY id',
        [dateOf(later(clock(), -AGAIN))],
      );
      return rows.map(({ id }) => String(id));
    },
    run: async (key) => {
      await judge.judge(Number(key) as PortfolioId, clock());
    },
  };
}
