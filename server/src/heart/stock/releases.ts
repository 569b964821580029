import type { MomentInput, ReleaseView, StockItem } from '@domatium/contracts';
import type { PortfolioId, ReleaseId } from '@domatium/core/plan';
import { paintStock, type StockPeriod } from '@domatium/core/stock';
import { instantOfWall, later, writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { inTransaction, rowsOf, setInstant, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { ConflictError, InvalidError } from '../../platform/errors.js';
import { tellWork } from '../../platform/work/index.js';
import * as releases from '../releases/index.js';
import { refuseUnready } from './judge.js';
import * as store from './store.js';
import { found, note } from './items.js';

interface ReleaseRow {
  readonly id: ReleaseId;
  readonly at: Instant;
  readonly by: string | null;
  readonly summary: string;
  readonly out_at: Instant | null;
  readonly undoes_id: ReleaseId | null;
  readonly before: readonly StockPeriod[];
}

async function releaseRows(db: Db, itemId: number): Promise<ReleaseRow[]> {
  return rowsOf(
    db,
    'SELECT r.id, r.at, a.name AS by, r.summary, r.out_at, r.undoes_id, s.before FROM release_stock s JOIN release r ON r.id = s.release_id LEFT JOIN account a ON a.id = r.account_id WHERE s.item_id = ? ORDER BY r.id DESC',
    [itemId],
  );
}

/** The newest release that is in force: that is the one an undo puts back. */
function lastInForce(rows: readonly ReleaseRow[]): ReleaseRow | null {
  const undone = new Set(rows.flatMap(({ undoes_id }) => undoes_id ?? []));
  return rows.find(({ id, undoes_id }) => undoes_id === null && !undone.has(id)) ?? null;
}

export async function releasesOf(db: Db, itemId: number): Promise<StockItem['releases']> {
  const rows = await releaseRows(db, itemId);
  const undone = new Set(rows.flatMap(({ undoes_id }) => undoes_id ?? []));
  const last = lastInForce(rows);
  return rows.map(({ id, at, by, summary, out_at }) => ({
    ...{ id, at, by, summary, outAt: out_at },
    isUndone: undone.has(id),
    mayUndo: id === last?.id,
  }));
}

const instantOf = (moment: MomentInput, now: Instant): Instant =>
  moment === 'now' ? now : (instantOfWall(moment) as Instant);

/** Puts the draft on every page that uses it; the pages themselves need nothing. */
export async function releaseStock(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  body: {
    readonly from: MomentInput;
    readonly until?: MomentInput | null | undefined;
    readonly isTakenOff?: boolean | undefined;
    readonly idempotencyKey: string;
  },
): Promise<ReleaseView> {
  return decided(context, portfolioId, id, body.idempotencyKey, async (trx, row, before, instant) => {
    const from = instantOf(body.from, instant);
    const until = body.until ? instantOf(body.until, instant) : null;
    if (from < instant)
      throw new InvalidError([{ path: 'from', message: 'That moment has passed. Choose a later one, or now.' }]);
    if (until !== null && until <= from)
      throw new InvalidError([{ path: 'until', message: 'The end must be after the start.' }]);
    if (body.isTakenOff && row.kind !== 'piece')
      throw new InvalidError([{ path: 'isTakenOff', message: 'Only a piece can be taken off.' }]);
    if (!body.isTakenOff) await refuseUnready(trx, portfolioId, row, instant);
    const revision = body.isTakenOff
      ? null
      : await store.freeze(trx, portfolioId, row, { at: instant, by: context.account });
    const zone = await releases.zoneOf(trx, portfolioId);
    const act = revision
      ? `Put revision ${revision.number} of ${row.name} on its pages`
      : `Took ${row.name} off its pages`;
    const begins = body.from === 'now' ? '' : ` from ${writeInstant(from, zone, instant)}`;
    const ends = until === null ? '' : ` until ${writeEnd(until, zone, instant)}`;
    return {
      after: paintStock(before, revision?.id ?? null, { from, until }),
      summary: `${act}${begins}${ends}`,
      undoes: null,
    };
  });
}

/** Puts back what held before the last release that is in force, from now on. */
export async function undoStock(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  key: string,
): Promise<ReleaseView> {
  return decided(context, portfolioId, id, key, async (trx, _, before, instant) => {
    const last = lastInForce(await releaseRows(trx, id));
    if (!last) throw new ConflictError('There is nothing to undo.');
    const zone = await releases.zoneOf(trx, portfolioId);
    const past = before.flatMap((period): StockPeriod[] =>
      period.during.from < instant
        ? [{ ...period, during: { from: period.during.from, until: earliest(period.during.until, instant) } }]
        : [],
    );
    const ahead = last.before.flatMap((period): StockPeriod[] =>
      period.during.until === null || period.during.until > instant
        ? [{ ...period, during: { from: latest(period.during.from, instant), until: period.during.until } }]
        : [],
    );
    return {
      after: [...past, ...ahead].reduce<StockPeriod[]>(
        (all, { revisionId, during }) => paintStock(all, revisionId, during),
        [],
      ),
      summary: `Undid “${last.summary}” of ${writeInstant(last.at, zone, instant)}`,
      undoes: last.id,
    };
  });
}

const earliest = (a: Instant | null, b: Instant): Instant => (a === null || a > b ? b : a);
const latest = (a: Instant, b: Instant): Instant => (a > b ? a : b);

interface Decision {
  readonly after: readonly StockPeriod[];
  readonly summary: string;
  readonly undoes: ReleaseId | null;
}

/** One release of something in the stock, in one transaction: its periods, its row, its job. The same key gives the same release. */
async function decided(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  key: string,
  decide: (
    trx: Knex.Transaction,
    row: store.ItemRow,
    before: readonly StockPeriod[],
    instant: Instant,
  ) => Promise<Decision>,
): Promise<ReleaseView> {
  return inTransaction(context.database, async (trx) => {
    await releases.lockKey(trx, portfolioId, key);
    const known = await releases.releaseByKey(trx, portfolioId, key);
    if (known) return { id: known.id, at: known.at, summary: known.summary };
    const row = await found(trx, portfolioId, id, 'FOR UPDATE OF i');
    const before = (await store.periodsOf(trx, [id])).get(id) ?? [];
    const last = before.reduce(
      (most, { during }) => (during.from <= context.now && during.from > most ? during.from : most),
      0 as Instant,
    );
    const read = context.clock();
    const instant = last >= read ? later(last, 1) : read;
    await setInstant(trx, instant);
    const { after, summary, undoes } = await decide(trx, row, before, instant);
    await store.writePeriods(trx, portfolioId, id, after, instant);
    const release = { at: instant, act: undoes === null ? 'stock' : 'undo', key, undoes, summary };
    const releaseId = await releases.insertRelease(trx, { portfolioId, accountId: context.account, ...release });
    await trx('release_stock').insert({
      ...{ release_id: releaseId, portfolio_id: portfolioId, item_id: id },
      ...{ before: JSON.stringify(before), after: JSON.stringify(after) },
    });
    await note(trx, context, portfolioId, id, release.act, before, after);
    await tellWork(trx, 'publication');
    await notifyEvent(trx, { portfolioId, kind: 'released', pageIds: [], releaseId, by: context.account });
    return { id: releaseId, at: instant, summary };
  });
}

/** Undoes a release of the stock that could not be published; gives whether it was one. */
export async function undoFailedStock(
  context: Context,
  portfolioId: PortfolioId,
  releaseId: ReleaseId,
  key: string,
): Promise<boolean> {
  const [row] = await rowsOf<{ item_id: number }>(
    context.database,
    'SELECT item_id FROM release_stock WHERE release_id = ?',
    [releaseId],
  );
  if (row) await undoStock(context, portfolioId, row.item_id, key);
  return row !== undefined;
}
