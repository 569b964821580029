import type { AnswerInput, Changes, ReleaseChange } from '@domatium/contracts';
import { checkTypedPath, joinPath } from '@domatium/core/address';
import {
  asTaken,
  findingsOf,
  namesOf,
  redirectFindingsOf,
  withoutAccepted,
  type Finding,
  type RedirectFinding,
} from '@domatium/core/checks';
import { pageReferencesOf, piecesOf } from '@domatium/core/document';
import {
  pageAddressesOf,
  previewIds,
  type AddressKey,
  type Answer,
  type PageId,
  type PagePlan,
  type PortfolioId,
  type RevisionId,
  type SiteAddress,
} from '@domatium/core/plan';
import type { RouteTable } from '@domatium/core/routing';
import { contains, endOf, writeInstant, type Instant } from '@domatium/core/time';
import type { Db } from '../../platform/database/context.js';
import {
  addressesOf,
  emptyNeighbourhood,
  leadsOf,
  neighbourhoodOf,
  placesLedTo,
  tableOf,
  withPlans,
  type Neighbourhood,
  type PlanSource,
} from '../plans/index.js';
import { applyChanges, instantOf, stretchesOf, type Applied, type Ground, type ReleaseFault } from './apply.js';
import { missingApprovals } from './approvals.js';
import { conflictsOf } from './conflicts.js';
import { withWords } from './fault-words.js';
import { acceptedOf, severitiesOf, tinyPictures } from '../checks/index.js';
import { binnedPlans } from './bin-store.js';
import { draftStates, type DraftState } from './revision-store.js';
import { wallZonesOf } from './zones.js';
import { applyStock, DRAFT_OF_STOCK, stockGround, type AppliedStock, type StockGround } from './stock.js';
import { legalLost } from './legal.js';
import { partFaults } from './part-faults.js';
import { namingsOf, searchSights } from './search-sight.js';
import { namesLost, Shelves } from './shared.js';
import { namesOfPages, zoneOf } from './store.js';
import { UNNAMED } from '@domatium/core/words';

/** Stands for the revision a draft would become, before it is frozen. */
export const DRAFT_REVISION = -1 as RevisionId;

/** The field beside which a taken address is said. */
const CONFLICT_FIELDS: Record<ReleaseChange['act'], string> = {
  release: 'from',
  'take-off': 'from',
  move: 'path',
  shift: 'days',
  retime: 'until',
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
  readonly things: StockGround;
  readonly appliedStock: AppliedStock;
  readonly findings: readonly (Finding & { readonly pageId: number })[];
  readonly faults: readonly (ReleaseFault & { readonly message: string })[];
  readonly drafts: ReadonlyMap<PageId, DraftState>;
  readonly names: ReadonlyMap<PageId, string>;
  readonly zone: string;
  readonly ground: Ground;
  /** How many new rows of plans the changes take. */
  readonly idCount: number;
}

interface JudgeOptions {
  readonly step?: (share: number) => Promise<void>;
  /** How many people have approved these changes. */
  readonly approvals?: number;
}

/** Judges changes as if they were pressed at `instant`. `revisionOf` gives what a draft is or becomes. */
export async function judge(
  source: PlanSource,
  { changes, stock = [] }: Changes,
  instant: Instant,
  { step, approvals = 0 }: JudgeOptions = {},
): Promise<Judged> {
  const { db, portfolioId } = source;
  const pageIds = [...new Set(changes.map(({ pageId }) => pageId as PageId))];
  const zone = await zoneOf(db, portfolioId);
  const drafts = new Map((await draftStates(db, portfolioId, pageIds)).map((draft) => [draft.page_id, draft]));
  const none = await emptyNeighbourhood(source);
  const { siteAddresses } = none;
  const binned = await binnedPlans(db, portfolioId, pageIds);
  const kept = [...binned.values()].flatMap((plan) => (plan ? leadsOf(none, plan) : []));
  const targets = [...changes.flatMap((change) => targetsOf(change, drafts)), ...kept.flatMap(({ pages }) => pages)];
  const extra = [
    ...(await placesOfMoves(db, portfolioId, siteAddresses, changes, instant)),
    ...changes.flatMap((change) => outsidePlacesOf(none, change)),
    ...kept.flatMap(({ places }) => places),
  ];
  const before = await neighbourhoodOf(source, [...pageIds, ...targets], { inbound: instant, extra, known: none });
  await step?.(0.2);
  const revision = (id: PageId) => {
    const draft = drafts.get(id);
    return draft?.is_same && draft.latest_id !== null ? draft.latest_id : DRAFT_REVISION;
  };
  const zones = await wallZonesOf(
    db,
    changes.flatMap(({ act, pageId }) => (act === 'shift' ? [pageId as PageId] : [])),
  );
  const ground = { plans: before.plans, siteAddresses, zone, zones, binned };
  const nextId = previewIds();
  let idCount = 0;
  const counted = () => (idCount++, nextId());
  const applied = applyChanges(changes, ground, instant, revision, counted);
  const after = withPlans(before, applied.plans.values());
  const names = await namesOfPages(db, portfolioId, [...before.plans.keys()]);
  const conflicts = await conflictsOf(db, portfolioId, after, new Set(applied.plans.keys()));
  const things = await stockGround(db, portfolioId, [...new Set(stock.map(({ itemId }) => itemId))]);
  const appliedStock = applyStock(stock, things, instant, () => DRAFT_OF_STOCK);
  const faults = [
    ...applied.faults,
    ...appliedStock.faults,
    ...conflicts.map(({ pageId, params }) => {
      const index = changes.findIndex((change) => change.pageId === pageId);
      const path = `changes[${index}].${CONFLICT_FIELDS[changes[index]?.act ?? 'release']}`;
      return { path, code: 'address-taken' as const, params };
    }),
    ...(await partFaults(stock, { db, portfolioId, ground: things, applied: appliedStock, instant })),
    ...(await missingApprovals(db, portfolioId, { changes, stock }, approvals, instant)),
  ].map((fault) => withWords(fault, zone, instant));
  const restored = new Set(changes.flatMap(({ act, pageId }) => (act === 'restore' ? [pageId as PageId] : [])));
  const led = { before, after, changed: [...applied.plans.keys()], restored, names, zone, instant };
  const { current, planned, findings: redirects } = judgeRedirects(led);
  const findings: Judged['findings'][number][] = [];
  const released = changes.flatMap(({ act, pageId }) => {
    const document = act === 'release' ? drafts.get(pageId as PageId)?.document : undefined;
    return document ? [{ pieces: piecesOf(document), names: namesOf(document) }] : [];
  });
  const pieces = released.flatMap((one) => one.pieces.map(({ value }) => value));
  const asksStock = pieces.length > 0 || released.some(({ names: asked }) => asked.length > 0);
  const shelves = asksStock ? await Shelves.read(db, portfolioId, pieces, things, appliedStock.after) : null;
  const taken = await severitiesOf(db, portfolioId);
  const accepted = await acceptedOf(db, [...drafts.keys()], instant);
  const tiny = released.length ? await tinyPictures(db, portfolioId) : new Set<number>();
  const searched = await searchSights(db, portfolioId, [...drafts.keys()]);
  const canonicals = [...drafts.values()].map(({ document }) => document.metadata.canonical);
  const namings = await namingsOf(
    db,
    canonicals.flatMap((target) => (target?.kind === 'page' ? [target.pageId] : [])),
  );
  for (const [index, change] of changes.entries()) {
    if (index % 20 === 0) await step?.(0.4 + (0.6 * index) / changes.length);
    const document = drafts.get(change.pageId as PageId)?.document;
    const from = applied.starts[index];
    if (change.act !== 'release' || !document || from === undefined) continue;
    for (const during of stretchesOf(change, from, instant)) {
      if (during.until !== null && during.until <= during.from) continue;
      const context = { ...contextOf(led), current, planned, tiny };
      const plan = after.plans.get(change.pageId as PageId);
      const site = plan?.placements.find((one) => contains(one.during, during.from))?.siteId;
      const shared = {
        namesAnother: (id: PageId) => {
          const draft = drafts.get(id);
          if (!draft) return namings.get(id) ?? [];
          return draft.document.metadata.canonical ? [during] : [];
        },
        ...(plan ? { search: searched(change.pageId as PageId, plan.placements, during.from) } : {}),
        ...(site === undefined || !shelves ? {} : { shared: shelves.of(site) }),
      };
      const found = findingsOf({ ...context, ...shared, document, pageId: change.pageId as PageId, during });
      const own = accepted.filter(({ pageId }) => pageId === change.pageId);
      for (const finding of withoutAccepted(asTaken(found, taken.get(site ?? 0)), own))
        if (!findings.some(({ pageId, message }) => pageId === change.pageId && message === finding.message))
          findings.push({ ...finding, pageId: change.pageId });
    }
  }
  findings.push(...redirects);
  const { write } = contextOf(led);
  findings.push(...(await legalLost(db, portfolioId, before.plans, after.plans, led.changed, { instant, write })));
  findings.push(
    ...(await namesLost(db, portfolioId, things, appliedStock, new Set(applied.plans.keys()), instant, write)),
  );
  const routes = { before, after, current, planned, applied };
  return { ...routes, things, appliedStock, findings, faults, drafts, names, zone, ground, idCount };
}

/** What redirects are judged on: plans before and after a change of some pages. */
interface Led {
  readonly before: Neighbourhood;
  readonly after: Neighbourhood;
  readonly changed: readonly PageId[];
  /** Pages that only get back what they had: nobody chooses their redirects anew. */
  readonly restored: ReadonlySet<PageId>;
  readonly names: ReadonlyMap<PageId, string>;
  readonly zone: string;
  readonly instant: Instant;
}

const contextOf = ({ names, zone, instant }: Led) => ({
  now: instant,
  nameOf: (id: PageId) => names.get(id) ?? UNNAMED.page,
  write: (at: Instant) => writeInstant(at, zone, instant),
});

/** Circles and dead ends that a change of some pages makes; release, undo and restore are judged alike. */
export function judgeRedirects(led: Led): {
  readonly current: RouteTable;
  readonly planned: RouteTable;
  readonly findings: readonly RedirectFinding[];
} {
  const { before, after, changed, restored } = led;
  const [current, planned] = [tableOf(before), tableOf(after)];
  const touched = new Map<string, { host: string; path: string }>();
  for (const { plans } of [before, after])
    for (const plan of plans.values())
      for (const { hostId, path } of addressesOf(plan, before.siteAddresses))
        touched.set(`${hostId} ${path}`, { host: before.hosts.get(hostId) ?? '', path });
  const chosen = changed
    .filter((id) => !restored.has(id))
    .flatMap((id) => {
      const known = new Set(ordersOf(before.plans.get(id)));
      return ordersOf(after.plans.get(id)).filter((order) => !known.has(order));
    });
  const input = { ...contextOf(led), current, planned, changed, chosen: new Set(chosen) };
  return { current, planned, findings: redirectFindingsOf({ ...input, touched: [...touched.values()] }) };
}

function ordersOf(plan: PagePlan | undefined): number[] {
  if (!plan) return [];
  const left = [...plan.placements, ...plan.periods].flatMap(({ leaves }) => (leaves ? [leaves.order] : []));
  return [...left, ...plan.statements.map(({ order }) => order)];
}

/** The pages a change leads to: by what it leaves, and by links of what it releases. */
export function targetsOf(change: ReleaseChange, drafts: ReadonlyMap<PageId, DraftState>): PageId[] {
  const redirects = answersIn(change).flatMap((answer) =>
    answer.kind === 'redirect' && answer.target.kind === 'page' ? [answer.target.pageId as PageId] : [],
  );
  const draft = change.act === 'release' ? drafts.get(change.pageId as PageId) : undefined;
  return [...redirects, ...(draft ? pageReferencesOf(draft.document) : [])];
}

/** The addresses of ours that a change leads to as addresses outside. */
export function outsidePlacesOf(
  around: Pick<Neighbourhood, 'style' | 'hosts' | 'siteAddresses'>,
  change: ReleaseChange,
): AddressKey[] {
  return answersIn(change).flatMap((answer) => placesLedTo(around, answer as Answer));
}

function answersIn(change: ReleaseChange): AnswerInput[] {
  if (change.act === 'move') return change.leaves ? [change.leaves] : [];
  const further = change.act === 'release' ? (change.further ?? []).map(({ afterwards }) => afterwards) : [];
  const own = 'afterwards' in change ? [change.afterwards] : [];
  return [...own, ...further].filter((answer) => answer !== null);
}

/** The addresses moves go to: whoever is there belongs to the neighbourhood. */
export async function placesOfMoves(
  db: Db,
  portfolioId: PortfolioId,
  siteAddresses: readonly SiteAddress[],
  changes: readonly ReleaseChange[],
  instant: Instant,
): Promise<AddressKey[]> {
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
  if (!restored.length) return new Map();
  const plans = await binnedPlans(
    db,
    portfolioId,
    restored.map(({ pageId }) => pageId as PageId),
  );
  return new Map([...plans].map(([id, plan]) => [id, plan?.placements ?? []]));
}
