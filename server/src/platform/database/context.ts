import type { AccountId } from '@domatium/core/plan';
import type { AddressStyle } from '@domatium/core/address';
import { isoInstant, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';

/** A transaction, or the pool itself where one statement is enough. */
export type Db = Knex | Knex.Transaction;

/** What every service is told: when it is, who asks, and where the data is. The clock is read once a request. */
export interface Context {
  readonly database: Knex;
  readonly now: Instant;
  /** Read again where an instant must be later than a lock (design rule 5); everything else uses `now`. */
  readonly clock: () => Instant;
  readonly account: AccountId | null;
  readonly style: AddressStyle;
  /**
   * Called between the steps of long work, as far as it has come (0 to 1): passes that on to the person, lets other
   * requests have their turn, and throws `CancelledError` where the person no longer wants it.
   */
  readonly step?: (share: number) => Promise<void>;
}

/** The person cancelled before anything was decided: the transaction is rolled back, nothing has changed. */
export class CancelledError extends Error {}

/** Held, shared, by a backup while it copies files; whoever removes files holds it alone. */
export const BACKUP_LOCK = 4604;

const ROWS_AT_A_TIME = 5000;

/**
 * Inserts any number of rows, thousands in one statement: they travel as one JSON text, which PostgreSQL reads by the
 * types of the table's columns. Values of JSON columns are given as they are, not as text.
 */
export async function insertRows(trx: Db, table: string, rows: readonly object[], onConflict = ''): Promise<void> {
  const columns = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  const names = columns.map(() => '??').join(', ');
  for (let first = 0; first < rows.length; first += ROWS_AT_A_TIME)
    await trx.raw(`INSERT INTO ?? (${names}) SELECT ${names} FROM json_populate_recordset(NULL::??, ?) ${onConflict}`, [
      table,
      ...columns,
      ...columns,
      table,
      JSON.stringify(rows.slice(first, first + ROWS_AT_A_TIME)),
    ]);
}

const RETRIED = new Set(['40P01', '40001']);

/** Runs work in one transaction; a deadlock is tried once more (design rule 4). */
export async function inTransaction<T>(
  database: Knex,
  work: (trx: Knex.Transaction) => Promise<T>,
  isolation: 'read committed' | 'repeatable read' = 'read committed',
): Promise<T> {
  const config = { isolationLevel: isolation };
  try {
    return await database.transaction(work, config);
  } catch (error) {
    if (!RETRIED.has((error as { code?: string }).code ?? '')) throw error;
    return database.transaction(work, config);
  }
}

/** Says to the guards of the database from when on this transaction changes plans (design rule 5). */
export async function setInstant(trx: Db, instant: Instant): Promise<void> {
  await trx.raw("SELECT set_config('domatium.instant', ?, true)", [isoInstant(instant)]);
}

export async function rowsOf<Row>(db: Db, sql: string, bindings: readonly unknown[] = []): Promise<Row[]> {
  const result = (await db.raw(sql, bindings as Knex.RawBinding[])) as { rows: Row[] };
  return result.rows;
}

/** An instant, or an open end, as a parameter. */
export function dateOf(at: Instant | number | null): Date | null {
  return at === null ? null : new Date(at);
}
