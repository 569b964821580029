import type { PageId, PortfolioId, RevisionId } from '@domatium/core/plan';
import { completeDocument, pageReferencesOf, type PageDocument } from '@domatium/core/document';
import type { Instant } from '@domatium/core/time';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

export interface RevisionRow {
  readonly id: RevisionId;
  readonly page_id: PageId;
  readonly number: number;
  readonly document: PageDocument;
}

export async function revisionsById(db: Db, ids: readonly RevisionId[]): Promise<RevisionRow[]> {
  const rows = await rowsOf<RevisionRow>(db, 'SELECT id, page_id, number, document FROM revision WHERE id = ANY(?)', [
    ids,
  ]);
  return rows.map((row) => ({ ...row, document: completeDocument(row.document) }));
}

/** Numbers alone: for words about revisions. */
export async function revisionNumbers(db: Db, ids: readonly RevisionId[]): Promise<Map<RevisionId, number>> {
  const rows = await rowsOf<{ id: RevisionId; number: number }>(
    db,
    'SELECT id, number FROM revision WHERE id = ANY(?)',
    [ids],
  );
  return new Map(rows.map(({ id, number }) => [id, number]));
}

export interface DraftState {
  readonly page_id: PageId;
  readonly version: number;
  /** As it is read now; `stored` as it was written. */
  readonly document: PageDocument;
  readonly stored: PageDocument;
  readonly latest_id: RevisionId | null;
  readonly latest_number: number | null;
  readonly is_same: boolean;
}

/** Drafts with the newest revision of each page, and whether they are the same. */
export async function draftStates(db: Db, portfolioId: PortfolioId, pageIds: readonly PageId[]): Promise<DraftState[]> {
  const rows = await rowsOf<Omit<DraftState, 'document'>>(
    db,
    `SELECT d.page_id, d.version, d.document AS stored, r.id AS latest_id, r.number AS latest_number, coalesce(r.document = d.document, false) AS is_same
    FROM draft d LEFT JOIN LATERAL (SELECT id, number, document FROM revision WHERE page_id = d.page_id ORDER BY number DESC LIMIT 1) r ON true
    WHERE d.portfolio_id = ? AND d.page_id = ANY(?)`,
    [portfolioId, pageIds],
  );
  return rows.map((row) => ({ ...row, document: completeDocument(row.stored) }));
}

/** Freezes drafts as the next revisions of their pages, with what they refer to. */
export async function insertRevisions(
  trx: Db,
  portfolioId: PortfolioId,
  drafts: readonly DraftState[],
  at: Instant,
  accountId: number | null,
): Promise<Map<PageId, RevisionId>> {
  const made = new Map<PageId, RevisionId>();
  for (let first = 0; first < drafts.length; first += 500) {
    const rows = (await trx('revision')
      .insert(
        drafts.slice(first, first + 500).map((state) => ({
          portfolio_id: portfolioId,
          page_id: state.page_id,
          number: (state.latest_number ?? 0) + 1,
          document: JSON.stringify(state.stored),
          created_at: dateOf(at),
          created_by: accountId,
        })),
      )
      .returning(['id', 'page_id'])) as { id: RevisionId; page_id: PageId }[];
    for (const { id, page_id } of rows) made.set(page_id, id);
  }
  await insertRows(
    trx,
    'revision_reference',
    drafts.flatMap((state) =>
      pageReferencesOf(state.document).map((page_id) => ({
        revision_id: made.get(state.page_id),
        portfolio_id: portfolioId,
        page_id,
      })),
    ),
  );
  return made;
}

/** Keeps drafts as they are to the end of the transaction: what is judged is what is frozen. */
export async function holdDrafts(trx: Db, pageIds: readonly PageId[]): Promise<void> {
  await rowsOf(trx, 'SELECT FROM draft WHERE page_id = ANY(?) ORDER BY page_id FOR SHARE', [pageIds]);
}

/** Freezes drafts: those that are the same as their latest revision already are left; gives each page's revision. */
export async function freezeDrafts(
  trx: Db,
  portfolioId: PortfolioId,
  drafts: readonly DraftState[],
  at: Instant,
  accountId: number | null,
): Promise<Map<PageId, RevisionId>> {
  const isFrozen = (draft: DraftState) => draft.is_same && draft.latest_id !== null;
  const open = drafts.filter((draft) => !isFrozen(draft));
  const revisions = await insertRevisions(trx, portfolioId, open, at, accountId);
  for (const draft of drafts) if (isFrozen(draft)) revisions.set(draft.page_id, draft.latest_id as RevisionId);
  return revisions;
}
