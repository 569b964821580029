import type { AnswerInput, ReleaseChange } from '@domatium/contracts';
import type { HostId, PageId, PagePlan, PortfolioId, ReleaseId, RevisionId } from '@domatium/core/plan';
import { completeDocument, pageReferencesOf, type PageDocument } from '@domatium/core/document';
import type { Instant } from '@domatium/core/time';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

export interface ReleaseRow {
  readonly id: ReleaseId;
  readonly at: Instant;
  readonly act: string;
  readonly summary: string;
  readonly account_name: string | null;
  readonly undoes_id: ReleaseId | null;
  readonly published_at: Instant | null;
  readonly out_at: Instant | null;
  readonly failure: string | null;
}

const RELEASE = `SELECT r.id, r.at, r.act, r.summary, a.name AS account_name, r.undoes_id, r.published_at, r.out_at, r.failure
  FROM release r LEFT JOIN account a ON a.id = r.account_id`;

export async function releaseById(db: Db, portfolioId: PortfolioId, id: number): Promise<ReleaseRow | null> {
  const [row] = await rowsOf<ReleaseRow>(db, `${RELEASE} WHERE r.portfolio_id = ? AND r.id = ?`, [portfolioId, id]);
  return row ?? null;
}

export async function releaseByKey(db: Db, portfolioId: PortfolioId, key: string): Promise<ReleaseRow | null> {
  const [row] = await rowsOf<ReleaseRow>(db, `${RELEASE} WHERE r.portfolio_id = ? AND r.idempotency_key = ?`, [
    portfolioId,
    key,
  ]);
  return row ?? null;
}

/** Releases that changed a page, newest first. */
export function releasesOfPage(db: Db, portfolioId: PortfolioId, pageId: PageId): Promise<ReleaseRow[]> {
  return rowsOf(
    db,
    `${RELEASE} JOIN release_page rp ON rp.release_id = r.id WHERE r.portfolio_id = ? AND rp.page_id = ? ORDER BY r.id DESC LIMIT 200`,
    [portfolioId, pageId],
  );
}

/** Undos of any of these releases, directly or of such an undo. */
export function undosOf(db: Db, ids: readonly ReleaseId[]): Promise<{ id: ReleaseId; undoes_id: ReleaseId }[]> {
  return rowsOf(
    db,
    `WITH RECURSIVE chain AS (SELECT id, undoes_id FROM release WHERE undoes_id = ANY(?)
    UNION SELECT r.id, r.undoes_id FROM release r JOIN chain c ON r.undoes_id = c.id) SELECT id, undoes_id FROM chain`,
    [ids],
  );
}

export interface ReleasedPage {
  readonly page_id: PageId;
  readonly before: PagePlan;
  readonly after: PagePlan;
}

export function pagesOfReleases(
  db: Db,
  ids: readonly ReleaseId[],
): Promise<(ReleasedPage & { release_id: ReleaseId })[]> {
  return rowsOf(
    db,
    'SELECT release_id, page_id, before, after FROM release_page WHERE release_id = ANY(?) ORDER BY release_id',
    [ids],
  );
}

/** Locks pages in the order of their identities. */
export async function lockPages(trx: Db, portfolioId: PortfolioId, pageIds: readonly PageId[]): Promise<void> {
  await rowsOf(trx, 'SELECT id FROM page WHERE portfolio_id = ? AND id = ANY(?) ORDER BY id FOR NO KEY UPDATE', [
    portfolioId,
    pageIds,
  ]);
}

/**
 * Locks hosts in the order of their identities: `own` ones for a change, the others against a change by somebody else.
 * Gives the latest release on any of them.
 */
export async function lockHosts(
  trx: Db,
  portfolioId: PortfolioId,
  own: ReadonlySet<HostId>,
  all: readonly HostId[],
): Promise<Instant | null> {
  let latest: Instant | null = null;
  for (const run of runsOf(
    own,
    [...all].sort((a, b) => a - b),
  )) {
    const rows = await rowsOf<{ last_release_at: Instant | null }>(
      trx,
      `SELECT last_release_at FROM host WHERE portfolio_id = ? AND id = ANY(?) ORDER BY id FOR ${run.isOwn ? 'NO KEY UPDATE' : 'SHARE'}`,
      [portfolioId, run.ids],
    );
    for (const { last_release_at: at } of rows) if (at !== null && (latest === null || at > latest)) latest = at;
  }
  return latest;
}

/** Neighbours that are locked alike are locked together. */
function runsOf(own: ReadonlySet<HostId>, sorted: readonly HostId[]): { isOwn: boolean; ids: HostId[] }[] {
  const runs: { isOwn: boolean; ids: HostId[] }[] = [];
  for (const id of sorted) {
    const last = runs.at(-1);
    if (last && last.isOwn === own.has(id)) last.ids.push(id);
    else runs.push({ isOwn: own.has(id), ids: [id] });
  }
  return runs;
}

export interface NewRelease {
  readonly portfolioId: PortfolioId;
  readonly at: Instant;
  readonly act: string;
  readonly accountId: number | null;
  readonly key: string | null;
  readonly undoes: ReleaseId | null;
  readonly summary: string;
}

export async function insertRelease(trx: Db, release: NewRelease): Promise<ReleaseId> {
  const [row] = (await trx('release')
    .insert({
      portfolio_id: release.portfolioId,
      at: dateOf(release.at),
      act: release.act,
      account_id: release.accountId,
      idempotency_key: release.key,
      undoes_id: release.undoes,
      summary: release.summary,
    })
    .returning('id')) as { id: ReleaseId }[];
  if (!row) throw new Error('A release was not written');
  return row.id;
}

export async function insertReleasePages(
  trx: Db,
  portfolioId: PortfolioId,
  releaseId: ReleaseId,
  pages: readonly { pageId: PageId; change: unknown; before: PagePlan; after: PagePlan }[],
): Promise<void> {
  await insertRows(
    trx,
    'release_page',
    pages.map(({ pageId, change, before, after }) => ({
      release_id: releaseId,
      portfolio_id: portfolioId,
      page_id: pageId,
      change,
      before,
      after,
    })),
  );
}

export async function noteReleaseOnHosts(trx: Db, hostIds: readonly HostId[], at: Instant): Promise<void> {
  await trx('host')
    .whereIn('id', [...hostIds])
    .update({ last_release_at: dateOf(at) });
}

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

/** The pages whose revisions, on the air from `from` on, link to one of these pages. */
export function referrersOf(
  db: Db,
  pageIds: readonly PageId[],
  from: Instant,
): Promise<{ referrer: PageId; target: PageId }[]> {
  return rowsOf(
    db,
    `SELECT DISTINCT p.page_id AS referrer, rr.page_id AS target FROM revision_reference rr JOIN period p ON p.revision_id = rr.revision_id
    WHERE rr.page_id = ANY(?) AND (p.until_at IS NULL OR p.until_at > ?)`,
    [pageIds, dateOf(from)],
  );
}

const leadsOutside = (answer: AnswerInput | null) => answer?.kind === 'redirect' && answer.target.kind === 'outside';

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

/**
 * The sites of these changes that want approvals: of all that shows visitors something else or sends them somewhere
 * else. That a page comes off and says so waits for nobody.
 */
export function approvalsWanted(
  db: Db,
  portfolioId: PortfolioId,
  changes: readonly ReleaseChange[],
  now: Instant,
): Promise<{ name: string; approvals: number }[]> {
  const lasting = changes.filter((change) => change.act !== 'take-off' || leadsOutside(change.afterwards));
  const targets = lasting.flatMap((change) => (change.act === 'move' ? [change.siteId] : []));
  return rowsOf(
    db,
    `SELECT name, approvals FROM site WHERE portfolio_id = ? AND approvals > 0 AND (id = ANY(?) OR id IN (
      SELECT site_id FROM placement WHERE page_id = ANY(?) AND (until_at IS NULL OR until_at > ?))) ORDER BY name`,
    [portfolioId, targets, lasting.map(({ pageId }) => pageId), dateOf(now)],
  );
}

export async function namesOfPages(
  db: Db,
  portfolioId: PortfolioId,
  ids: readonly PageId[],
): Promise<Map<PageId, string>> {
  const rows = await rowsOf<{ id: PageId; name: string }>(
    db,
    'SELECT id, name FROM page WHERE portfolio_id = ? AND id = ANY(?)',
    [portfolioId, ids],
  );
  return new Map(rows.map(({ id, name }) => [id, name]));
}

export async function zoneOf(db: Db, portfolioId: PortfolioId): Promise<string> {
  const [row] = await rowsOf<{ zone: string }>(db, 'SELECT zone FROM portfolio WHERE id = ?', [portfolioId]);
  return row?.zone ?? 'UTC';
}

/** Who decided a period, for the words of a conflict. */
export async function deciderOf(db: Db, periodId: number): Promise<{ name: string | null; at: Instant } | null> {
  const [row] = await rowsOf<{ name: string | null; at: Instant }>(
    db,
    'SELECT a.name, r.at FROM period p JOIN release r ON r.id = p.release_id LEFT JOIN account a ON a.id = r.account_id WHERE p.id = ?',
    [periodId],
  );
  return row ?? null;
}

/** Held to the end of the transaction: whoever asks about a press waits until it is decided. */
export async function lockKey(trx: Db, portfolioId: PortfolioId, key: string): Promise<void> {
  await trx.raw("SELECT pg_advisory_xact_lock(hashtextextended(?::text || ' ' || ?, 4603))", [portfolioId, key]);
}

/** Of these pages those in the bin, with the plan each had before it went there; `null` for what was deleted for ever. */
export async function binnedPlans(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
): Promise<Map<PageId, PagePlan | null>> {
  const rows = await rowsOf<{ page_id: PageId; before: PagePlan; deleted_at: Instant | null }>(
    db,
    `SELECT b.page_id, rp.before, p.deleted_at FROM bin_stay b JOIN page p ON p.id = b.page_id
    JOIN release_page rp ON rp.release_id = b.opened_by AND rp.page_id = b.page_id
    WHERE b.portfolio_id = ? AND b.until_at IS NULL AND b.page_id = ANY(?)`,
    [portfolioId, pageIds],
  );
  return new Map(rows.map(({ page_id, before, deleted_at }) => [page_id, deleted_at === null ? before : null]));
}

export async function openStays(
  trx: Db,
  portfolioId: PortfolioId,
  releaseId: ReleaseId,
  pageIds: readonly PageId[],
  at: Instant,
): Promise<void> {
  await insertRows(
    trx,
    'bin_stay',
    pageIds.map((page_id) => ({ portfolio_id: portfolioId, page_id, from_at: dateOf(at), opened_by: releaseId })),
  );
}

export async function closeStays(
  trx: Db,
  portfolioId: PortfolioId,
  releaseId: ReleaseId,
  pageIds: readonly PageId[],
  at: Instant,
): Promise<void> {
  await rowsOf(
    trx,
    'UPDATE bin_stay SET until_at = ?, closed_by = ? WHERE portfolio_id = ? AND page_id = ANY(?) AND until_at IS NULL',
    [dateOf(at), releaseId, portfolioId, pageIds],
  );
}

/** The pages that a release put into the bin, and those it took out of it. */
export async function binnedBy(db: Db, releaseId: ReleaseId): Promise<{ put: PageId[]; took: PageId[] }> {
  const rows = await rowsOf<{ page_id: PageId; opened_by: ReleaseId }>(
    db,
    'SELECT page_id, opened_by FROM bin_stay WHERE opened_by = ? OR closed_by = ?',
    [releaseId, releaseId],
  );
  const isPut = ({ opened_by }: { opened_by: ReleaseId }) => opened_by === releaseId;
  return {
    put: rows.filter(isPut).map(({ page_id }) => page_id),
    took: rows.filter((row) => !isPut(row)).map(({ page_id }) => page_id),
  };
}

export async function deletedAmong(db: Db, pageIds: readonly PageId[]): Promise<string[]> {
  const rows = await rowsOf<{ name: string }>(
    db,
    'SELECT name FROM page WHERE id = ANY(?) AND deleted_at IS NOT NULL ORDER BY id',
    [pageIds],
  );
  return rows.map(({ name }) => name);
}
