import type { AnswerInput, Changes, PreviewCut, PreviewLine, ReleaseChange, ReleasePreview } from '@domatium/contracts';
import { readablePath } from '@domatium/core/address';
import { canGoBackToPlan, proposedEnd, type PageId, type PortfolioId, type RevisionId } from '@domatium/core/plan';
import {
  isSameResolution,
  givenOf,
  resolve,
  stableOver,
  type Resolution,
  type RouteTable,
} from '@domatium/core/routing';
import { later, type Instant } from '@domatium/core/time';
import { givenWords, UNNAMED } from '@domatium/core/words';
import { inTransaction, type Context } from '../../platform/database/context.js';
import { addressesOf } from '../plans/index.js';
import { instantOf } from './apply.js';
import { basisOf, latestByOthers } from './basis.js';
import { inboundLines, leadingLines, type InboundLine } from './inbound.js';
import { DRAFT_REVISION, judge, type Judged } from './judge.js';
import { revisionNumbers } from './revision-store.js';
import { stockEffects } from './stock.js';

/** What a release would do, for the sheet: lines, cuts, findings, refusals, and what can be offered. */
export async function preview(
  context: Context,
  portfolioId: PortfolioId,
  { changes, stock = [] }: Changes,
): Promise<ReleasePreview> {
  const { now } = context;
  // One reading of the database, so that nothing in the answer contradicts the rest of it.
  return inTransaction(
    context.database,
    async (db) => {
      const source = { db, portfolioId, style: context.style };
      const judged = await judge(source, { changes, stock }, now, context.step ? { step: context.step } : {});
      const revisionIds = [...judged.before.plans.values(), ...judged.after.plans.values()].flatMap(({ periods }) =>
        periods.map(({ revisionId }) => revisionId),
      );
      const numbers = await revisionNumbers(db, revisionIds);
      const numberOf = (pageId: PageId, id: RevisionId) =>
        numbers.get(id) ?? (judged.drafts.get(pageId)?.latest_number ?? 0) + 1;
      const inbound = await inboundLines(source, judged, now);
      const leading = await leadingLines(source, judged, now);
      const lines = [...ownLines(judged, now, numberOf), ...inbound.map(({ line }) => line), ...leading];
      const linksThat = (how: InboundLine['leads']) => inbound.filter(({ leads }) => leads === how).length;
      return {
        now,
        lines: lines.sort((a, b) => a.at - b.at).slice(0, 200),
        lineCount: lines.length,
        links: { redirect: linksThat('redirect'), nowhere: linksThat('nowhere') },
        cuts: judged.applied.cuts.map((cut): PreviewCut => ({
          pageName: judged.names.get(cut.pageId) ?? '',
          revision: numberOf(cut.pageId, cut.revisionId),
          from: cut.during.from,
          until: cut.during.until,
          isLater: cut.isLater,
        })),
        findings: judged.findings.map((one) => ({
          ...one,
          pageName: judged.names.get(one.pageId as PageId) ?? '',
        })),
        faults: judged.faults,
        basis: basisOf({ changes, stock }, judged),
        latest: await latestByOthers(db, context, portfolioId, { changes, stock }, judged.zone),
        stock: await stockEffects(db, portfolioId, stock, judged.things, now),
        pages: changes.map((change, index) => pageOffer(change, judged, judged.applied.starts[index] ?? now, now)),
      };
    },
    'repeatable read',
  );
}

function pageOffer(
  change: ReleaseChange,
  { before, drafts }: Judged,
  start: Instant,
  now: Instant,
): ReleasePreview['pages'][number] {
  const plan = before.plans.get(change.pageId as PageId);
  const draft = drafts.get(change.pageId as PageId);
  const revision = draft?.is_same ? (draft.latest_number ?? 1) : (draft?.latest_number ?? 0) + 1;
  const proposed = plan ? proposedEnd(plan, start) : { until: null, afterwards: null };
  const until = 'until' in change && change.until !== null ? instantOf(change.until, now) : null;
  return {
    pageId: change.pageId,
    revision,
    draftVersion: draft?.version ?? 1,
    canGoBackToPlan: plan ? canGoBackToPlan(plan, until) : false,
    proposedUntil: proposed.until,
    proposedAfterwards: proposed.afterwards as AnswerInput | null,
  };
}

function ownLines(
  { before, after, current, planned, applied, names }: Judged,
  now: Instant,
  numberOf: (pageId: PageId, id: RevisionId) => number,
): PreviewLine[] {
  const addresses = new Map<string, { host: string; path: string }>();
  for (const plan of applied.plans.values())
    for (const source of [plan, before.plans.get(plan.pageId)])
      for (const { hostId, path } of source ? addressesOf(source, after.siteAddresses) : [])
        addresses.set(`${hostId} ${path}`, { host: after.hosts.get(hostId) ?? '', path });
  return [...addresses.values()].flatMap((address) => {
    let last: Resolution | null = null;
    return changedStretches(current, planned, address, now).flatMap(({ at, was, becomes }): PreviewLine[] => {
      const isSame = last !== null && isSameResolution(last, becomes);
      last = becomes;
      if (isSame) return [];
      // Older than what was there just before: that is what a visitor sees come back.
      const preceding = at > now ? resolve(planned, address, later(at, -1)) : was;
      const isOlder =
        becomes.kind === 'page' &&
        applied.plans.has(becomes.pageId) &&
        preceding.kind === 'page' &&
        preceding.pageId === becomes.pageId &&
        becomes.revisionId !== DRAFT_REVISION &&
        numberOf(becomes.pageId, becomes.revisionId) < numberOf(preceding.pageId, preceding.revisionId);
      const given = givenOf(becomes, {
        page: (id) => names.get(id) ?? UNNAMED.page,
        revision: (id) => (becomes.kind === 'page' ? numberOf(becomes.pageId, id) : ''),
      });
      const line = isOlder ? { ...given, code: 'older-page' as const } : given;
      const shown = address.host + readablePath(address.path);
      return [{ ...line, at, address: shown, words: givenWords(line), isWarning: isOlder }];
    });
  });
}

/**
 * Where what visitors get differs between two tables from `now` on, stretch by stretch, and where it becomes what it
 * would have been again.
 */
function changedStretches(
  current: RouteTable,
  planned: RouteTable,
  address: { host: string; path: string },
  now: Instant,
) {
  const both = stableOver(
    { from: now, until: null },
    (at, witness) => ({ was: resolve(current, address, at, witness), becomes: resolve(planned, address, at, witness) }),
    (a, b) => isSameResolution(a.was, b.was) && isSameResolution(a.becomes, b.becomes),
  );
  const differs = ({ was, becomes }: (typeof both)[number]['value']) => !isSameResolution(was, becomes);
  return both
    .filter(
      ({ value }, index) => differs(value) || (index > 0 && differs((both[index - 1] as (typeof both)[number]).value)),
    )
    .map(({ during, value }) => ({ at: during.from, ...value }));
}
