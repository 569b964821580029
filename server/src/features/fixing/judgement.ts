import { Judgement, type JudgedWorld } from '@domatium/core/judgement';
import { canonical, groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import { later, MINUTE, writeInstant, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import { keepFindings } from '../../heart/checks/index.js';
import { zoneOf } from '../../heart/releases/index.js';
import { dateOf, inTransaction, rowsOf, type Db } from '../../platform/database/context.js';
import type { Work } from '../../platform/work/index.js';
import { judgedPages, pictureSizes, type Sights } from './judged-pages.js';

/** What is kept of a portfolio from one judgement to the next. */
interface Kept {
  readonly judgement: Judgement;
  readonly sights: Sights;
  /** Until when it was looked at what time alone makes wrong. */
  readonly passedAt: Instant;
}
/** So many pages of all portfolios are kept together. */
const KEPT = 60_000;
/** Days pass, periods begin and end, pages get other names: what nobody publishes is judged so often. */
const AGAIN = 60 * MINUTE;
/** More often than this nothing passes that matters. */
const PASSING = 10 * MINUTE;
/** Findings of so many pages are written at once. */
const AT_ONCE = 500;

/** Judges portfolios as wholes: what it read once it keeps, so that one changed page costs what one page costs. */
export class Judge {
  private readonly kept = new LRUCache<number, Kept>({
    maxSize: KEPT,
    sizeCalculation: ({ sights }) => Math.max(1, sights.size),
  });

  constructor(private readonly database: Knex) {}

  /** Judges all that changed in a portfolio since it was judged last; gives how many pages were judged, and written. */
  async judge(portfolioId: PortfolioId, now: Instant): Promise<{ readonly judged: number; readonly written: number }> {
    const known = this.kept.get(portfolioId);
    const kept = known ?? { judgement: new Judgement(), sights: new Map(), passedAt: now };
    try {
      const { found, publication, passedAt } = await inTransaction(
        this.database,
        (db) => look(db, portfolioId, { ...kept, isNew: !known }, now),
        'repeatable read',
      );
      const written = await this.keep(portfolioId, found, now, publication);
      this.kept.set(portfolioId, { ...kept, passedAt });
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
  { judgement, sights, passedAt, isNew }: Kept & { readonly isNew: boolean },
  now: Instant,
) {
  const [row] = await rowsOf<{ publication: number }>(db, 'SELECT publication FROM portfolio WHERE id = ?', [
    portfolioId,
  ]);
  const zone = await zoneOf(db, portfolioId);
  const pages = await judgedPages(db, portfolioId, { at: now, zone }, sights);
  const world: JudgedWorld = {
    ...{ at: now, sizeOf: await pictureSizes(db, portfolioId) },
    write: (at) => writeInstant(at, zone, now),
  };
  const touched = judgement.fill(pages);
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
  const there = new Set(pages.map(({ id }) => id));
  for (const { page_id } of stored) if (!there.has(page_id)) touched.add(page_id);
  const found = new Map([...touched].map((id) => [id, judgement.findingsOf(id, world)]));
  return { found, publication: row?.publication ?? 0, passedAt: isPassing ? now : passedAt };
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
