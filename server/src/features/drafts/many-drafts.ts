import type { PageDocument } from '@domatium/core/document';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { say } from '@domatium/core/words/answers/drafts';
import { writeAudit } from '../../platform/database/audit.js';
import { dateOf, inTransaction, rowsOf, type Context, type Db } from '../../platform/database/context.js';
import { ConflictError } from '../../platform/errors.js';
import { notifyEvent } from '../../platform/events/index.js';
import { keepStates } from './states.js';

/** A draft among many that are changed at once. */
export interface DraftOfMany {
  readonly id: PageId;
  readonly name: string;
  readonly version: number;
  readonly document: PageDocument;
  /** It has more in it than visitors get. */
  readonly has_more: boolean;
}
export interface Seen {
  readonly pageId: number;
  readonly version: number;
}

/** The drafts of many pages; where they were `seen` they are held, and are as they were seen, or nothing is written. */
export async function draftsToChange(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly number[],
  seen: readonly Seen[] | null,
): Promise<DraftOfMany[]> {
  const drafts = await draftsOf(db, portfolioId, seen ? seen.map(({ pageId }) => pageId) : pageIds, seen !== null);
  const known = seen && new Map(seen.map(({ pageId, version }) => [pageId, version]));
  const changed = known ? drafts.filter(({ id, version }) => known.get(id) !== version) : [];
  if (changed.length) throw new ConflictError(say.draftsHaveChanged(changed.map(({ name }) => name)));
  return drafts;
}

/** Gives drafts back what they were before their last change, where nobody has changed them since. */
export function draftsBack(
  context: Context,
  portfolioId: PortfolioId,
  seen: readonly Seen[],
): Promise<{ readonly count: number }> {
  return inTransaction(context.database, async (trx) => {
    await draftsOf(
      trx,
      portfolioId,
      seen.map(({ pageId }) => pageId),
      true,
    );
    const before = await rowsOf<{ pageId: number; document: PageDocument }>(
      trx,
      `SELECT d.page_id AS "pageId", s.document FROM unnest(?::bigint[], ?::int[]) AS n (id, version)
      JOIN draft d ON d.page_id = n.id AND d.version = n.version AND d.portfolio_id = ?
      JOIN draft_state s ON s.page_id = d.page_id AND s.version = d.version - 1 ORDER BY d.page_id`,
      [seen.map(({ pageId }) => pageId), seen.map(({ version }) => version), portfolioId],
    );
    if (before.length) await writeDrafts(trx, context, portfolioId, before, 'drafts-back');
    return { count: before.length };
  });
}

/** Writes drafts that are held, keeps what they were, and notes it. */
export async function writeDrafts(
  trx: Db,
  { now, account }: Context,
  portfolioId: PortfolioId,
  pages: readonly { readonly pageId: number; readonly document: PageDocument }[],
  act: 'place-piece' | 'fill-drafts' | 'mend-drafts' | 'drafts-back',
): Promise<void> {
  const ids = pages.map(({ pageId }) => pageId);
  await keepStates(trx, ids);
  await rowsOf(
    trx,
    `WITH written AS (
      UPDATE draft d SET document = n.document::jsonb, version = version + 1, changed_at = ?, changed_by = ?
      FROM unnest(?::bigint[], ?::text[]) AS n (id, document) WHERE d.page_id = n.id RETURNING d.page_id)
    UPDATE page p SET changed_at = ?, changed_by = ? FROM written w WHERE p.id = w.page_id`,
    [dateOf(now), account, ids, pages.map(({ document }) => JSON.stringify(document)), dateOf(now), account],
  );
  await writeAudit(
    trx,
    ...ids.map((objectId) => ({ portfolioId, at: now, accountId: account, act, object: 'draft' as const, objectId })),
  );
  await notifyEvent(trx, { portfolioId, kind: 'draft', pageIds: ids, by: account, at: now });
}

function draftsOf(
  db: Db,
  portfolioId: PortfolioId,
  ids: readonly number[],
  isWritten: boolean,
): Promise<DraftOfMany[]> {
  return rowsOf<DraftOfMany>(
    db,
    `SELECT p.id, p.name, d.version, d.document, coalesce((SELECT r.document <> d.document FROM revision r WHERE r.page_id = p.id ORDER BY r.number DESC LIMIT 1), false) AS has_more
    FROM page p JOIN draft d ON d.page_id = p.id WHERE p.portfolio_id = ? AND p.id = ANY(?) ORDER BY p.id ${isWritten ? 'FOR UPDATE OF d' : ''}`,
    [portfolioId, ids],
  );
}
