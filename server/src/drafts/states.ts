import type { PageState } from '@domatium/contracts';
import { completeDocument, type PageDocument } from '@domatium/core/document';
import type { PageId, PortfolioId, RevisionId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { writeAudit } from '../database/audit.js';
import { dateOf, inTransaction, rowsOf, type Context } from '../database/context.js';
import { NotFoundError, StaleError } from '../http/problem.js';
import { draftStates, freezeDrafts } from '../releases/store.js';

/** States of the draft that are shown: those that lasted; while somebody types one a second is kept, and only the last shown. */
const LASTED = 45_000;
const MOST = 300;

interface KeptRow {
  readonly version: number;
  readonly at: Instant;
  readonly by: string | null;
}

/** Revisions and kept drafts of a page. A draft's state is what its next change left behind (the audit has it). */
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
    `SELECT (u.after->>'version')::int AS version, u.at, a.name AS by FROM audit u LEFT JOIN account a ON a.id = u.account_id
    WHERE u.portfolio_id = ? AND u.object = 'draft' AND u.object_id = ? AND u.act = 'save-draft' ORDER BY u.id DESC LIMIT ?`,
    [portfolioId, pageId, MOST * 10],
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
        `SELECT before->'document' AS document FROM audit WHERE portfolio_id = ? AND object = 'draft' AND object_id = ? AND act = 'save-draft'
        AND (before->>'version')::int = ? ORDER BY id DESC LIMIT 1`,
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
      throw new StaleError('The draft has been changed since you looked at it.', { draftVersion: draft.version });
    const id = (await freezeDrafts(trx, portfolioId, [draft], context.now, context.account)).get(pageId) as RevisionId;
    const [row] = (await trx('revision').where({ id }).update({ name }).returning('number')) as { number: number }[];
    await writeAudit(trx, {
      ...{ portfolioId, at: context.now, accountId: context.account, act: 'name-revision', object: 'draft' },
      ...{ objectId: pageId, after: { name, revision: row?.number } },
    });
    return { revision: row?.number ?? 0 };
  });
}
