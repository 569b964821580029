import pg from 'pg';

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
