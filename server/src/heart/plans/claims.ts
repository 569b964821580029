import {
  claimDifference,
  type AddressKey,
  type Claim,
  type HostId,
  type LivePeriod,
  type PageId,
  type PlanRowId,
  type PortfolioId,
} from '@domatium/core/plan';
import { answerOfRow, rowOfAnswer, type AnswerRow } from '@domatium/storage';
import { insertRows, rowsOf, type Db } from '../../platform/database/context.js';
import { columnsOf, duringOf, saveEnds, type During } from './store.js';

export type StoredClaim = Claim & { readonly id: number };

interface ClaimRow extends During, Omit<AnswerRow, 'answer'> {
  readonly id: number;
  readonly host_id: HostId;
  readonly path: string;
  readonly layer: 'page' | 'after';
  readonly page_id: PageId | null;
  readonly revision_id: LivePeriod['revisionId'] | null;
  readonly source_id: PlanRowId;
  readonly answer: AnswerRow['answer'] | null;
}

const CLAIM = `SELECT c.id, a.host_id, a.path, c.layer, c.page_id, c.revision_id, c.source_id, c.from_at, c.until_at, c.answer, c.target_page_id, c.target_url, c.status
  FROM claim c JOIN address a ON a.id = c.address_id`;

function claimOfRow(row: ClaimRow): StoredClaim {
  const place = { id: row.id, hostId: row.host_id, path: row.path, during: duringOf(row), sourceId: row.source_id };
  return row.answer === null
    ? {
        ...place,
        layer: 'page',
        pageId: row.page_id as PageId,
        revisionId: row.revision_id as LivePeriod['revisionId'],
      }
    : { ...place, layer: 'after', pageId: row.page_id, answer: answerOfRow({ ...row, answer: row.answer }) };
}

/** A page's own claims in the layer `page`. */
export async function pageClaimsOf(db: Db, pageIds: readonly PageId[]): Promise<StoredClaim[]> {
  return (await rowsOf<ClaimRow>(db, `${CLAIM} WHERE c.layer = 'page' AND c.page_id = ANY(?)`, [pageIds])).map(
    claimOfRow,
  );
}

/** All claims at these addresses, in both layers, whoever's they are. */
export async function claimsAt(db: Db, addresses: readonly AddressKey[]): Promise<StoredClaim[]> {
  if (!addresses.length) return [];
  const rows = await rowsOf<ClaimRow>(
    db,
    `${CLAIM} JOIN unnest(?::bigint[], ?::text[]) AS wanted (host_id, path) ON wanted.host_id = a.host_id AND wanted.path = a.path`,
    [addresses.map(({ hostId }) => hostId), addresses.map(({ path }) => path)],
  );
  return rows.map(claimOfRow);
}

/** Makes stored claims follow derived ones: ends that change are changed, the rest is removed and added. */
export async function saveClaims(
  trx: Db,
  portfolioId: PortfolioId,
  stored: readonly StoredClaim[],
  derived: readonly Claim[],
): Promise<void> {
  const { removed, added, ended } = claimDifference(stored, derived);
  if (removed.length) await trx.raw('DELETE FROM claim WHERE id = ANY(?)', [removed.map(({ id }) => id)]);
  await saveEnds(
    trx,
    'claim',
    ended.map(({ stored: { id }, claim }) => ({ id, during: claim.during })),
  );
  if (!added.length) return;
  const ids = await addressIds(trx, added);
  await insertRows(
    trx,
    'claim',
    added.map((claim) => ({
      portfolio_id: portfolioId,
      address_id: ids.get(`${claim.hostId} ${claim.path}`),
      layer: claim.layer,
      source_id: claim.sourceId,
      ...columnsOf(claim.during),
      ...(claim.layer === 'page'
        ? { page_id: claim.pageId, revision_id: claim.revisionId }
        : { page_id: claim.pageId, ...rowOfAnswer(claim.answer) }),
    })),
  );
}

async function addressIds(trx: Db, addresses: readonly AddressKey[]): Promise<Map<string, number>> {
  const wanted = [addresses.map(({ hostId }) => hostId), addresses.map(({ path }) => path)];
  await trx.raw(
    'INSERT INTO address (host_id, path) SELECT DISTINCT * FROM unnest(?::bigint[], ?::text[]) AS w (h, p) ORDER BY 1, 2 ON CONFLICT DO NOTHING',
    wanted,
  );
  const rows = await rowsOf<{ id: number; host_id: number; path: string }>(
    trx,
    'SELECT a.id, a.host_id, a.path FROM address a JOIN unnest(?::bigint[], ?::text[]) AS w (h, p) ON w.h = a.host_id AND w.p = a.path',
    wanted,
  );
  return new Map(rows.map(({ id, host_id, path }) => [`${host_id} ${path}`, id]));
}
