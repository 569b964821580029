import type { Claim } from './types.js';

/** How stored claims become derived ones without touching the past: rows added, removed, and ends that change. */
export interface ClaimDifference<Stored extends Claim> {
  readonly removed: readonly Stored[];
  readonly added: readonly Claim[];
  readonly ended: readonly { readonly stored: Stored; readonly claim: Claim }[];
}

const keyOf = (claim: Claim) => `${claim.layer} ${claim.hostId} ${claim.path} ${claim.during.from}`;

/** Compares claims by layer, address and start; one whose content differs is removed and added anew. */
export function claimDifference<Stored extends Claim>(
  stored: readonly Stored[],
  derived: readonly Claim[],
): ClaimDifference<Stored> {
  const wanted = new Map(derived.map((claim) => [keyOf(claim), claim]));
  const removed: Stored[] = [];
  const ended: { stored: Stored; claim: Claim }[] = [];
  for (const row of stored) {
    const claim = wanted.get(keyOf(row));
    if (!claim || contentOf(claim) !== contentOf(row)) {
      removed.push(row);
      continue;
    }
    wanted.delete(keyOf(row));
    if (claim.during.until !== row.during.until) ended.push({ stored: row, claim });
  }
  return { removed, ended, added: [...wanted.values()] };
}

function contentOf(claim: Claim): string {
  return claim.layer === 'page'
    ? `${claim.sourceId} ${claim.pageId} ${claim.revisionId}`
    : `${claim.sourceId} ${claim.pageId} ${canonical(claim.answer)}`;
}

/** JSON with keys in order, so that equal values give equal texts wherever they were stored. */
export function canonical(value: unknown): string {
  return JSON.stringify(value, (_, inner: unknown) =>
    inner && typeof inner === 'object' && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)))
      : inner,
  );
}
