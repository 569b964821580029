import type { Changes } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import type { Db } from '../../platform/database/context.js';
import type { ReleaseFault } from './apply.js';
import { approvalsWanted } from './store.js';

/** Sites that want more people to approve what changes on them; taking off never waits for anybody. */
export async function missingApprovals(
  db: Db,
  portfolioId: PortfolioId,
  changes: Changes,
  given: number,
  now: Instant,
): Promise<ReleaseFault[]> {
  const wanted = await approvalsWanted(db, portfolioId, changes, now);
  return wanted
    .filter(({ approvals }) => approvals > given)
    .map(({ id, name, approvals }) => ({
      path: 'approvals',
      code: 'approvals-missing' as const,
      params: { site: name, siteId: id, approvals },
    }));
}
