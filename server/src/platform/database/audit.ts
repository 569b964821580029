import type { PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, insertRows, type Db } from './context.js';

export interface AuditEntry {
  readonly portfolioId: PortfolioId;
  readonly at: Instant;
  readonly accountId: number | null;
  readonly act: string;
  readonly object:
    | 'page'
    | 'draft'
    | 'release'
    | 'prepared'
    | 'campaign'
    | 'task'
    | 'people'
    | 'review'
    | 'picture'
    | 'file'
    | 'site'
    | 'stock';
  readonly objectId: number;
  readonly before?: unknown;
  readonly after?: unknown;
  readonly releaseId?: number;
}

/** One row for every change, written in its transaction. */
export async function writeAudit(trx: Db, ...entries: readonly AuditEntry[]): Promise<void> {
  await insertRows(
    trx,
    'audit',
    entries.map((entry) => ({
      portfolio_id: entry.portfolioId,
      at: dateOf(entry.at),
      account_id: entry.accountId,
      act: entry.act,
      object: entry.object,
      object_id: entry.objectId,
      before: entry.before ?? null,
      after: entry.after ?? null,
      release_id: entry.releaseId ?? null,
    })),
  );
}
