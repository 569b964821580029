import type { PageState } from '@domatium/contracts';
import { completeDocument, type PageDocument } from '@domatium/core/document';
import type { PageId, PortfolioId, RevisionId } from '@domatium/core/plan';
import { DAY, later, type Instant } from '@domatium/core/time';
import { writeAudit } from '../../platform/database/audit.js';
import { dateOf, inTransaction, rowsOf, type Context, type Db } from '../../platform/database/context.js';
import { NotFoundError, StaleError } from '../../platform/errors.js';
import { draftStates, freezeDrafts } from '../../heart/releases/index.js';
import { say } from '@domatium/core/words/answers/drafts';

/** States of the draft that are shown: those that lasted; while somebody types one a second is kept, and only the last shown. */
const LASTED = 45_000;
const MOST = 300;

interface KeptRow {
  readonly version: number;
  readonly at: Instant;
  readonly by: string | null;
}

/** Every state is there for so long; then those that lasted; and of those that are older than a month the last of a day. */
const ALL_FOR = 3_600_000;
const LASTED_FOR = 30 * DAY;

/** Keeps drafts as they are before their next change. */
export async function keepStates(trx: Db, pageIds: readonly number[]): Promise<void> {
  await rowsOf(
    trx,
    `INSERT INTO draft_state (page_id, portfolio_id, version, document, at, account_id)
    SELECT page_id, portfolio_id, version, document, changed_at, changed_by FROM draft WHERE page_id = ANY(?) ON CONFLICT DO NOTHING`,
    [pageIds],
  );
}

/** Takes states away that nobody is shown any more; gives how many. */
export async function thinStates(db: Db, now: Instant): Promise<number> {
  const gone = await rowsOf<{ n: number }>(
    db,
    `WITH followed AS (
      SELECT s.page_id, s.version, s.at, s.account_id, lead(s.at, 1, d.changed_at) OVER later AS next_at,
        lead(s.account_id, 1, d.changed_by) OVER later IS DISTINCT FROM s.account_id AS is_others, lead(s.version) OVER later AS next_version
      FROM draft_state s JOIN draft d ON d.page_id = s.page_id WINDOW later AS (PARTITION BY s.page_id ORDER BY s.version)),
    removed AS (
      DELETE FROM draft_state s USING followed f WHERE f.page_id = s.page_id AND f.version = s.version AND (
        (f.at < ? AND NOT f.is_others AND f.next_at - f.at <= ? * interval '1 millisecond')
        OR (f.at < ? AND f.next_version IS NOT NULL AND date_trunc('day', f.next_at, 'UTC') = date_trunc('day', f.at, 'UTC')))
      RETURNING 1)
    SELECT count(*)::int AS n FROM removed`,
    [dateOf(later(now, -ALL_FOR)), LASTED, dateOf(later(now, -LASTED_FOR))],
  );
  return gone[0]?.n ?? 0;
}

/** Revisions and kept drafts of a page. A draft's state is kept as its next change comes. */
export async function pageStates(
  { database, now }: Context,
  portfolioId: PortfolioId,
  pageId: PageId,
): Promise<PageState[]> {
  const known = await rowsOf(database, 'SELECT 1 FROM draft WHERE portfolio_id = ? AND page_id = ?', [
    portfolioId,
    pageId,
  ]);
  if (!known.length) throw new NotFoundError();
  const revisions = await rowsOf<{
    number: number;
    name: string | null;
    at: Instant;
    by: string | null;
    is_live: boolean;
  }>(
    database,
    `SELECT r.number, r.name, r.created_at AS at, a.name AS by, EXISTS (SELECT 1 FROM period p WHERE p.revision_id = r.id AND p.during @> ?::timestamptz) AS is_live
    FROM revision r LEFT JOIN account a ON a.id = r.created_by WHERE r.portfolio_id = ? AND r.page_id = ? ORDER BY r.number DESC LIMIT ?`,
    [dateOf(now), portfolioId, pageId, MOST],
  );
  const saves = await rowsOf<KeptRow>(
    database,
    `SELECT s.version, s.at, a.name AS by FROM (
      SELECT version, changed_at AS at, changed_by AS account_id FROM draft WHERE portfolio_id = ? AND page_id = ?
      UNION ALL SELECT version, at, account_id FROM draft_state WHERE portfolio_id = ? AND page_id = ?) s
    LEFT JOIN account a ON a.id = s.account_id ORDER BY s.version DESC LIMIT ?`,
    [portfolioId, pageId, portfolioId, pageId, MOST * 10],
  );
  // Newest first: a state lasted where the next one came later than a while, or was somebody else's.
  const lasted = saves.filter((save, index) => {
    const next = saves[index - 1];
    return next && (next.at - save.at > LASTED || next.by !== save.by);
  });
  return [
    ...revisions.map(({ number, name, at, by, is_live }) => ({
      key: `r${number}`,
      at,
      by,
      revision: number,
      name,
      isLive: is_live,
    })),
    ...lasted
      .slice(0, MOST)
      .map(({ version, at, by }) => ({ key: `v${version}`, at, by, revision: null, name: null, isLive: false })),
  ].sort((a, b) => b.at - a.at);
}

export async function pageState(
  { database }: Context,
  portfolioId: PortfolioId,
  pageId: PageId,
  key: string,
): Promise<{ document: PageDocument }> {
  const number = Number(key.slice(1));
  const [row] = key.startsWith('r')
    ? await rowsOf<{ document: PageDocument }>(
        database,
        'SELECT document FROM revision WHERE portfolio_id = ? AND page_id = ? AND number = ?',
        [portfolioId, pageId, number],
      )
    : await rowsOf<{ document: PageDocument }>(
        database,
        'SELECT document FROM draft_state WHERE portfolio_id = ? AND page_id = ? AND version = ?',
        [portfolioId, pageId, number],
      );
  if (!row) throw new NotFoundError('state');
  return { document: completeDocument(row.document) };
}

/** Freezes the draft and gives the revision a name; a revision that is the draft already only gets the name. */
export async function nameRevision(
  context: Context,
  portfolioId: PortfolioId,
  pageId: PageId,
  { name, draftVersion }: { readonly name: string; readonly draftVersion: number },
): Promise<{ revision: number }> {
  return inTransaction(context.database, async (trx) => {
    await trx.raw('SELECT 1 FROM draft WHERE page_id = ? FOR UPDATE', [pageId]);
    const [draft] = await draftStates(trx, portfolioId, [pageId]);
    if (!draft) throw new NotFoundError();
    if (draft.version !== draftVersion)
      throw new StaleError(say.theDraftHasBeenChangedSince, { draftVersion: draft.version });
    const id = (await freezeDrafts(trx, portfolioId, [draft], context.now, context.account)).get(pageId) as RevisionId;
    const [row] = (await trx('revision').where({ id }).update({ name }).returning('number')) as { number: number }[];
    await writeAudit(trx, {
      ...{ portfolioId, at: context.now, accountId: context.account, act: 'name-revision', object: 'draft' },
      ...{ objectId: pageId, after: { name, revision: row?.number } },
    });
    return { revision: row?.number ?? 0 };
  });
}
