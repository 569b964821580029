import type { ReleaseChange } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import type { Db } from '../../platform/database/context.js';
import { approvalsWanted } from './store.js';

/** Sites that want more people to approve what changes on them; taking off never waits for anybody. */
export async function missingApprovals(
  db: Db,
  portfolioId: PortfolioId,
  changes: readonly ReleaseChange[],
  given: number,
  now: Instant,
): Promise<{ path: string; message: string }[]> {
  const wanted = await approvalsWanted(db, portfolioId, changes, now);
  return wanted
    .filter(({ approvals }) => approvals > given)
    .map(({ name, approvals }) => ({
      path: 'approvals',
      message: `${name} wants ${approvals === 1 ? 'an approval' : `${approvals} approvals`} before a release. Prepare it, and ${approvals === 1 ? 'somebody else approves' : 'others approve'} it.`,
    }));
}
