import pg from 'pg';
import { swallowed } from './log.js';

/** Runs SQL with `$1` parameters and gives rows. Both the edge's client and the server's transactions can be one. */
export type Query = <Row>(sql: string, values?: readonly unknown[]) => Promise<Row[]>;

/** How our own connections read values: `timestamptz` as milliseconds, `bigint` as numbers (identities stay below 2^53). */
export const TYPES = {
  getTypeParser: ((id: number, format?: 'text' | 'binary') => {
    if (id === 1184) return (text: string) => Date.parse(text);
    if (id === 20) return Number;
    if (id === 1082) return (text: string) => text;
    return pg.types.getTypeParser(id, format as 'text') as unknown;
  }) as typeof pg.types.getTypeParser,
};

/** A `Query` over a plain client or pool. */
export function queryOf(client: pg.Pool | pg.Client | pg.PoolClient): Query {
  return async <Row>(sql: string, values: readonly unknown[] = []) =>
    (await client.query(sql, [...values])).rows as Row[];
}

/** Runs work between BEGIN and COMMIT of one connection; what fails is rolled back. */
export async function transact<T>(query: Query, work: () => Promise<T>, mode = ''): Promise<T> {
  await query(`BEGIN ${mode}`);
  try {
    const result = await work();
    await query('COMMIT');
    return result;
  } catch (error) {
    await query('ROLLBACK').catch(swallowed('rolling back'));
    throw error;
  }
}

/** A small pool for work of an edge: connections are made when needed, and none waits for a server that is silent. */
export function smallPool(url: string, name: string, max: number): pg.Pool {
  const pool = new pg.Pool({
    connectionString: url,
    types: TYPES,
    application_name: name,
    max,
    connectionTimeoutMillis: 3_000,
    idleTimeoutMillis: 30_000,
    query_timeout: 60_000,
    keepAlive: true,
  });
  pool.on('error', swallowed(name));
  // One that is lost while it is used is noticed by whoever uses it.
  pool.on('connect', (client) => void client.on('error', swallowed(name)));
  return pool;
}
