import type { Query } from './query.js';

/** What goes wrong somewhere, in words for those who work here. */
export interface Trouble {
  /** One of a kind stands at a place. */
  readonly kind: 'disk' | 'damaged' | 'counts' | 'clock' | 'publishing';
  readonly words: string;
  /** The one portfolio it concerns; `null` where it concerns everybody. */
  readonly portfolioId: number | null;
}

/** Says all that goes wrong at a place (an edge, the worker) just now; what is not said any more is over. */
export async function tellTroubles(query: Query, place: string, troubles: readonly Trouble[]): Promise<void> {
  const rows = JSON.stringify(
    troubles.map(({ kind, words, portfolioId }) => ({ place, kind, words, portfolio_id: portfolioId })),
  );
  const ended = await query(
    'DELETE FROM trouble WHERE place = $1 AND kind NOT IN (SELECT kind FROM json_populate_recordset(NULL::trouble, $2)) RETURNING kind',
    [place, rows],
  );
  const begun = await query(
    `INSERT INTO trouble (place, kind, words, portfolio_id, since)
     SELECT place, kind, words, portfolio_id, now() FROM json_populate_recordset(NULL::trouble, $1)
     ON CONFLICT (place, kind) DO UPDATE SET words = excluded.words, portfolio_id = excluded.portfolio_id
     WHERE trouble.words <> excluded.words RETURNING kind`,
    [rows],
  );
  if (ended.length || begun.length)
    await query("SELECT pg_notify('domatium_events', $1)", [JSON.stringify({ portfolioId: 0, kind: 'trouble' })]);
}
