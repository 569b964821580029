import type { AnswerInput, PreviewCut, PreviewLine, ReleaseChange, ReleasePreview } from '@domatium/contracts';
import { checkTypedPath, joinPath, readablePath } from '@domatium/core/address';
import { findingsOf, redirectFindingsOf, type Finding } from '@domatium/core/checks';
import { pageReferencesOf } from '@domatium/core/document';
import {
  canGoBackToPlan,
  pageAddressesOf,
  previewIds,
  type IdSource,
  proposedEnd,
  type PageId,
  type PagePlan,
  type PortfolioId,
  type RevisionId,
} from '@domatium/core/plan';
import {
  isSameResolution,
  resolutionWords,
  resolve,
  stableOver,
  type Resolution,
  type RouteTable,
} from '@domatium/core/routing';
import { endOf, writeInstant, type Instant } from '@domatium/core/time';
import { inTransaction, type Context, type Db } from '../database/context.js';
import {
  addressesOf,
  neighbourhoodOf,
  siteAddressesOf,
  tableOf,
  withPlans,
  type AddressRow,
  type Neighbourhood,
} from '../plans/index.js';
import { applyChanges, instantOf, type Applied, type Ground } from './apply.js';
import { missingApprovals } from './approvals.js';
import { conflictsOf } from './conflicts.js';
import { inboundLines, LINK_WORDS } from './inbound.js';
import { binnedPlans, draftStates, namesOfPages, revisionNumbers, zoneOf, type DraftState } from './store.js';

/** Stands for the revision a draft would become, before it is frozen. */
export const DRAFT_REVISION = -1 as RevisionId;

/** The field beside which a taken address is said. */
const CONFLICT_FIELDS: Record<ReleaseChange['act'], string> = {
  release: 'from',
  'take-off': 'from',
  move: 'path',
  shift: 'days',
  afterwards: 'afterwards',
  bin: 'afterwards',
  restore: 'path',
};

/** Everything a release is judged by: plans before and after, routes before and after, what is wrong. */
export interface Judged {
  readonly before: Neighbourhood;
  readonly after: Neighbourhood;
  readonly current: RouteTable;
  readonly planned: RouteTable;
  readonly applied: Applied;
  readonly findings: readonly (Finding & { readonly pageId: number })[];
  readonly faults: readonly { readonly path: string; readonly message: string }[];
  readonly drafts: ReadonlyMap<PageId, DraftState>;
  readonly names: ReadonlyMap<PageId, string>;
  readonly zone: string;
  readonly ground: Ground;
}

interface JudgeOptions {
  readonly ids?: IdSource;
  readonly step?: (share: number) => Promise<void>;
  /** How many people have approved these changes. */
  readonly approvals?: number;
}

/** Judges changes as if they were pressed at `instant`. `revisionOf` gives what a draft is or becomes. */
export async function judge(
  db: Db,
  portfolioId: PortfolioId,
  changes: readonly ReleaseChange[],
  instant: Instant,
  { ids = previewIds(), step, approvals = 0 }: JudgeOptions = {},
): Promise<Judged> {
  const pageIds = [...new Set(changes.map(({ pageId }) => pageId as PageId))];
  const zone = await zoneOf(db, portfolioId);
  const drafts = new Map((await draftStates(db, portfolioId, pageIds)).map((draft) => [draft.page_id, draft]));
  const targets = changes.flatMap((change) => targetsOf(change, drafts));
  const extra = await placesOfMoves(db, portfolioId, changes, instant);
  const before = await neighbourhoodOf(db, portfolioId, [...pageIds, ...targets], { inbound: instant, extra });
  await step?.(0.2);
  const revision = (id: PageId) => {
    const draft = drafts.get(id);
    return draft?.is_same && draft.latest_id !== null ? draft.latest_id : DRAFT_REVISION;
  };
  const binned = await binnedPlans(db, portfolioId, pageIds);
  const ground = { plans: before.plans, siteAddresses: before.siteAddresses, zone, binned };
  const applied = applyChanges(changes, ground, instant, revision, ids);
  const after = withPlans(before, applied.plans.values());
  const [current, planned] = [tableOf(before), tableOf(after)];
  const names = await namesOfPages(db, portfolioId, [...before.plans.keys()]);
  const conflicts = await conflictsOf(db, portfolioId, after, new Set(applied.plans.keys()), zone, instant);
  const faults = [
    ...applied.faults,
    ...conflicts.map(({ pageId, words }) => {
      const index = changes.findIndex((change) => change.pageId === pageId);
      return { path: `changes[${index}].${CONFLICT_FIELDS[changes[index]?.act ?? 'release']}`, message: words };
    }),
    ...(await missingApprovals(db, portfolioId, changes, approvals, instant)),
  ];
  const context = {
    current,
    planned,
    now: instant,
    nameOf: (id: PageId) => names.get(id) ?? 'a page',
    write: (at: Instant) => writeInstant(at, zone, instant),
    ...touchedBy(before, applied),
  };
  const findings: Judged['findings'][number][] = [];
  for (const [index, change] of changes.entries()) {
    if (index % 20 === 0) await step?.(0.4 + (0.6 * index) / changes.length);
    const document = drafts.get(change.pageId as PageId)?.document;
    const from = applied.starts[index];
    if (change.act !== 'release' || !document || from === undefined) continue;
    const until = change.until === null ? null : instantOf(change.until, instant);
    if (until !== null && until <= from) continue;
    for (const finding of findingsOf({
      ...context,
      document,
      pageId: change.pageId as PageId,
      during: { from, until },
    }))
      findings.push({ ...finding, pageId: change.pageId });
  }
  for (const finding of redirectFindingsOf(context)) findings.push({ ...finding, pageId: changes[0]?.pageId ?? 0 });
  return { before, after, current, planned, applied, findings, faults, drafts, names, zone, ground };
}

function targetsOf(change: ReleaseChange, drafts: ReadonlyMap<PageId, DraftState>): PageId[] {
  const answer: AnswerInput | null = answerIn(change);
  const redirect = answer?.kind === 'redirect' && answer.target.kind === 'page' ? [answer.target.pageId as PageId] : [];
  const draft = change.act === 'release' ? drafts.get(change.pageId as PageId) : undefined;
  return [...redirect, ...(draft ? pageReferencesOf(draft.document) : [])];
}

function answerIn(change: ReleaseChange): AnswerInput | null {
  if (change.act === 'move') return change.leaves;
  return 'afterwards' in change ? change.afterwards : null;
}

/** The addresses moves go to: whoever is there belongs to the neighbourhood. */
async function placesOfMoves(
  db: Db,
  portfolioId: PortfolioId,
  changes: readonly ReleaseChange[],
  instant: Instant,
): Promise<AddressRow[]> {
  const restored = changes.filter((change) => change.act === 'restore');
  const places = await placesOfRestored(db, portfolioId, restored);
  const moves = [
    ...changes.flatMap((change) => (change.act === 'move' ? [{ ...change, from: instantOf(change.at, instant) }] : [])),
    ...restored.flatMap(({ pageId, path }) =>
      path === null
        ? []
        : (places.get(pageId as PageId) ?? []).map(({ siteId }) => ({ siteId: siteId as number, path, from: instant })),
    ),
  ];
  const before = [...places.values()].flat();
  if (!moves.length && !before.length) return [];
  const siteAddresses = await siteAddressesOf(db, portfolioId);
  const old = pageAddressesOf(before, siteAddresses);
  return [
    ...old,
    ...moves.flatMap(({ siteId, path, from }) => {
      const typed = checkTypedPath(path);
      return siteAddresses
        .filter((address) => address.siteId === siteId && typed.ok && endOf(address.during) > from)
        .map(({ hostId, basePath }) => ({ hostId, path: joinPath(basePath, typed.ok ? typed.path : '/') }));
    }),
  ];
}

/** Where restored pages lay before they went into the bin. */
async function placesOfRestored(
  db: Db,
  portfolioId: PortfolioId,
  restored: readonly { readonly pageId: number }[],
): Promise<Map<PageId, PagePlan['placements']>> {
  const plans = await binnedPlans(
    db,
    portfolioId,
    restored.map(({ pageId }) => pageId as PageId),
  );
  return new Map([...plans].map(([id, plan]) => [id, plan?.placements ?? []]));
}

function touchedBy({ plans, siteAddresses, hosts }: Neighbourhood, applied: Applied) {
  const place = ({ hostId, path }: AddressRow) => ({ host: hosts.get(hostId as never) ?? '', path });
  const touched = new Map<string, { host: string; path: string }>();
  for (const plan of [...plans.values(), ...applied.plans.values()])
    for (const address of addressesOf(plan, siteAddresses))
      touched.set(`${address.hostId} ${address.path}`, place(address));
  const made = new Set<string>();
  for (const [id, plan] of applied.plans) {
    const known = new Set(plans.get(id)?.answers.map((answer) => answer.id));
    for (const answer of plan.answers) if (!known.has(answer.id)) made.add(place(answer).host + answer.path);
  }
  return { touched: [...touched.values()], made };
}

/** What a release would do, for the sheet: lines, cuts, findings, refusals, and what can be offered. */
export async function preview(
  context: Context,
  portfolioId: PortfolioId,
  changes: readonly ReleaseChange[],
): Promise<ReleasePreview> {
  const { now } = context;
  // One reading of the database, so that nothing in the answer contradicts the rest of it.
  return inTransaction(
    context.database,
    async (db) => {
      const judged = await judge(db, portfolioId, changes, now, context.step ? { step: context.step } : {});
      const revisionIds = [...judged.before.plans.values(), ...judged.after.plans.values()].flatMap(({ periods }) =>
        periods.map(({ revisionId }) => revisionId),
      );
      const numbers = await revisionNumbers(db, revisionIds);
      const numberOf = (pageId: PageId, id: RevisionId) =>
        numbers.get(id) ?? (judged.drafts.get(pageId)?.latest_number ?? 0) + 1;
      const inbound = await inboundLines(db, portfolioId, judged, now);
      const lines = [...ownLines(judged, now, numberOf), ...inbound];
      const linksThat = (how: string) => inbound.filter(({ words }) => words === LINK_WORDS[how]).length;
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
        findings: judged.findings,
        faults: judged.faults,
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
      const older =
        becomes.kind === 'page' &&
        applied.plans.has(becomes.pageId) &&
        was.kind === 'page' &&
        was.pageId === becomes.pageId &&
        becomes.revisionId !== DRAFT_REVISION &&
        numberOf(becomes.pageId, becomes.revisionId) < numberOf(was.pageId, was.revisionId);
      return [
        {
          at,
          address: address.host + readablePath(address.path),
          words: answerWords(becomes, names, numberOf) + (older ? ' (an older revision returns)' : ''),
          isWarning: older,
        },
      ];
    });
  });
}

function answerWords(
  answer: Resolution,
  names: ReadonlyMap<PageId, string>,
  numberOf: (pageId: PageId, id: RevisionId) => number,
): string {
  if (answer.kind === 'page')
    return `${names.get(answer.pageId) ?? 'a page'}, revision ${numberOf(answer.pageId, answer.revisionId)}`;
  return resolutionWords(answer, { page: (id) => names.get(id) ?? 'a page', revision: () => '' });
}

/** Where what visitors get differs between two tables from `now` on, stretch by stretch. */
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
  return both
    .filter(({ value }) => !isSameResolution(value.was, value.becomes))
    .map(({ during, value }) => ({ at: during.from, ...value }));
}
