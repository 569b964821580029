import { redirectFindingsOf } from '../../src/checks/index.js';
import {
  addressAt,
  answersOf,
  claimsOf,
  inputsOf,
  lastEnd,
  movePage,
  pageAddressesOf,
  paintRelease,
  paintTakeOff,
  putBack,
  setAfterwards,
  shiftPlan,
  type Answer,
  type Claim,
  type HostId,
  type IdSource,
  type PageId,
  type PagePlan,
  type PlanRowId,
  type PortfolioId,
  type RevisionId,
  type SiteAddress,
  type SiteId,
} from '../../src/plan/index.js';
import { compile, type HostRoutes, type RouteTable } from '../../src/routing/index.js';
import { endOf, interval, type Instant } from '../../src/time/index.js';

/** Time runs in minutes 0 to END, one minute being one millisecond here; nothing finite is planned at or behind END. */
export const END = 64;
export const STYLE = { scheme: 'https', suffix: '', port: null } as const;
export const HOSTS = ['one.example', 'two.example', 'three.example'];
export const PATHS = ['/a', '/b'];
export const at = (t: number) => t as Instant;

const address = (
  id: number,
  site: number,
  host: number,
  basePath: string,
  isPrimary: boolean,
  from = 0,
  until: number | null = null,
): SiteAddress => ({
  id: id as PlanRowId,
  siteId: site as SiteId,
  hostId: host as HostId,
  basePath,
  isPrimary,
  during: { from: at(from), until: until as Instant | null },
});

/** Three sites on three hosts, one below a base path, two with other addresses; the first changes its primary one at 30. */
export const SITES: readonly SiteAddress[] = [
  address(1, 1, 1, '/', true, 0, 30),
  address(2, 1, 3, '/one', false, 0, 30),
  address(3, 1, 3, '/one', true, 30),
  address(4, 1, 1, '/', false, 30),
  address(5, 2, 2, '/', true),
  address(6, 3, 2, '/shop', true),
  address(7, 3, 3, '/', false),
];
export const SITE_COUNT = 3;

export type Act =
  | {
      readonly kind: 'release';
      readonly page: PageId;
      readonly revision: number;
      readonly from: number;
      readonly until: number | null;
      readonly afterwards: Answer | null;
    }
  | {
      readonly kind: 'off';
      readonly page: PageId;
      readonly from: number;
      readonly until: number | null;
      readonly afterwards: Answer;
    }
  | {
      readonly kind: 'move';
      readonly page: PageId;
      readonly at: number;
      readonly site: number;
      readonly path: string;
      readonly leaves: Answer | null;
    }
  | { readonly kind: 'shift'; readonly page: PageId; readonly by: number }
  | { readonly kind: 'afterwards'; readonly page: PageId; readonly answer: Answer }
  | { readonly kind: 'bin'; readonly page: PageId; readonly answer: Answer }
  | { readonly kind: 'restore'; readonly page: PageId; readonly isPlanned: boolean }
  /** `pick` of what can be undone then. */
  | { readonly kind: 'undo'; readonly pick: number; readonly leavesRedirect: boolean };

export type Plans = ReadonlyMap<PageId, PagePlan>;

export function firstPlans(pages: readonly PageId[]): Plans {
  return new Map(
    pages.map((pageId, index) => [
      pageId,
      {
        pageId,
        periods: [],
        statements: [],
        placements: [
          {
            id: (10 + index) as PlanRowId,
            pageId,
            siteId: ((index % SITE_COUNT) + 1) as SiteId,
            path: PATHS[index % 2] as string,
            during: { from: at(0), until: null },
            leaves: null,
          },
        ],
      },
    ]),
  );
}

export function ids(start = 1000): IdSource {
  let last = start;
  return () => ++last as PlanRowId;
}

/** Something that was decided: what it changed, and how it was before. */
export interface Done {
  readonly n: number;
  readonly page: PageId;
  readonly before: PagePlan;
  /** What the page had before it went into the bin, where it was there before. */
  readonly stay: PagePlan | null;
  readonly undoes: number | null;
}

/** All that was decided, as the product keeps it: plans, releases, what is in the bin. */
export interface State {
  readonly plans: Plans;
  readonly done: readonly Done[];
  readonly binned: ReadonlyMap<PageId, PagePlan>;
}

export const firstState = (pages: readonly PageId[]): State => ({
  plans: firstPlans(pages),
  done: [],
  binned: new Map(),
});

/** What can be undone: what is in force and followed by nothing of the same page that is in force too (rule 8). */
export function undoable({ done }: State): Done[] {
  const isInForce = (n: number): boolean => !done.some((one) => one.undoes === n && isInForce(one.n));
  return done.filter(
    ({ n, page }) =>
      isInForce(n) &&
      !done.some(
        (later) =>
          later.page === page && later.n > n && isInForce(later.n) && !(later.undoes !== null && later.undoes > n),
      ),
  );
}

export type Decision =
  | { readonly kind: 'done'; readonly state: State; readonly undone: Done | null }
  | { readonly kind: 'clash'; readonly undone: Done | null }
  | { readonly kind: 'refused' };

/** What becomes of an act that is decided at `now`, through the real functions. */
export function decide(state: State, act: Act, now: number, nextId: IdSource): Decision {
  const { plans, binned } = state;
  const choice = act.kind === 'undo' ? undoable(state) : [];
  const undone = act.kind === 'undo' ? (choice[act.pick % Math.max(1, choice.length)] ?? null) : null;
  if (act.kind === 'undo' && !undone) return { kind: 'refused' };
  const page = act.kind === 'undo' ? (undone as Done).page : act.page;
  const plan = plans.get(page) as PagePlan;
  const stay = binned.get(page) ?? null;
  if (act.kind !== 'undo' && (stay !== null) !== (act.kind === 'restore')) return { kind: 'refused' };
  const next = planAfter(plan, act, now, undone, stay, nextId);
  if (!next || reachesTooFar(next)) return { kind: 'refused' };
  const all = new Map(plans).set(page, next);
  if (conflicts(claims(all))) return { kind: 'clash', undone };
  if (faultsOf(plans, all, [page], now, act).length) return { kind: 'refused' };
  const after =
    act.kind === 'bin' ? plan : act.kind === 'undo' ? (undone as Done).stay : act.kind === 'restore' ? null : stay;
  const stays = new Map(binned);
  if (after) stays.set(page, after);
  else stays.delete(page);
  const done = [...state.done, { n: state.done.length, page, before: plan, stay, undoes: undone?.n ?? null }];
  return { kind: 'done', state: { plans: all, done, binned: stays }, undone };
}

function planAfter(
  plan: PagePlan,
  act: Act,
  now: number,
  undone: Done | null,
  beforeBin: PagePlan | null,
  nextId: IdSource,
): PagePlan | null {
  switch (act.kind) {
    case 'release': {
      const { revision, from, until, afterwards } = act;
      const paint = { revisionId: revision as RevisionId, from: at(from), until: until as Instant | null, afterwards };
      return paintRelease(plan, paint, nextId).plan;
    }
    case 'off':
      return paintTakeOff(
        plan,
        { from: at(act.from), until: act.until as Instant | null, afterwards: act.afterwards },
        nextId,
      ).plan;
    case 'move':
      return movePage(plan, { at: at(act.at), siteId: act.site as SiteId, path: act.path, leaves: act.leaves }, nextId);
    case 'shift': {
      const shifted = shiftPlan(plan, at(now), (t) => at(t + act.by), nextId);
      return 'kind' in shifted ? null : shifted;
    }
    case 'afterwards':
      return setAfterwards(plan, at(now), act.answer, SITES, nextId);
    case 'bin': {
      const end = lastEnd(plan);
      const isOff = end !== null && end <= now;
      return isOff ? plan : paintTakeOff(plan, { from: at(now), until: null, afterwards: act.answer }, nextId).plan;
    }
    case 'restore':
      return act.isPlanned && beforeBin ? putBack(beforeBin, plan, at(now), SITES, nextId, false) : plan;
    case 'undo':
      return undone && putBack(undone.before, plan, at(now), SITES, nextId, act.leavesRedirect);
  }
}

const reachesTooFar = ({ placements, periods, statements }: PagePlan) =>
  [...placements, ...periods, ...statements].some(
    ({ during: { from, until } }) => from >= END - 2 || (until !== null && until >= END - 2),
  );

/** What blocks a change: circles, and chosen redirects that lead nowhere at their start. */
export function faultsOf(before: Plans, after: Plans, changed: readonly PageId[], now: number, act: Act) {
  // Undo and restore choose no redirect: what they put back was chosen before.
  const isChoice = act.kind !== 'undo' && act.kind !== 'restore';
  const ordersIn = (plans: Plans) =>
    new Set(isChoice ? changed.flatMap((id) => chosenIn(plans.get(id) as PagePlan)) : []);
  const known = ordersIn(before);
  const touched = [...new Set([...claims(before), ...claims(after)].map(({ hostId, path }) => `${hostId} ${path}`))];
  return redirectFindingsOf({
    current: table(before),
    planned: table(after),
    touched: touched.map((key) => {
      const [host, path] = key.split(' ') as [string, string];
      return { host: HOSTS[Number(host) - 1] as string, path };
    }),
    chosen: new Set([...ordersIn(after)].filter((order) => !known.has(order))),
    changed,
    now: at(now),
    nameOf: (id) => `page ${id}`,
    write: String,
  }).filter(({ severity }) => severity === 'blocks');
}

const chosenIn = (plan: PagePlan) => answersOf(inputsOf([plan], SITES)).map(({ order }) => order);

export const claims = (plans: Plans): Claim[] => claimsOf(inputsOf(plans.values(), SITES));

export function conflicts(all: readonly Claim[]): boolean {
  const live = all.filter(({ layer }) => layer === 'page');
  return live.some((a, i) =>
    live.some(
      (b, j) =>
        i < j &&
        a.hostId === b.hostId &&
        a.path === b.path &&
        a.during.from < endOf(b.during) &&
        b.during.from < endOf(a.during),
    ),
  );
}

export function table(plans: Plans): RouteTable {
  const all = claims(plans);
  const pages = pageAddressesOf(
    [...plans.values()].flatMap((plan) => plan.placements),
    SITES,
  );
  return compile(
    HOSTS.map((host, index): HostRoutes => ({
      host,
      version: 1,
      portfolioId: 1 as PortfolioId,
      routes: all
        .filter(({ hostId }) => hostId === index + 1)
        .map((claim) => ({
          path: claim.path,
          layer: claim.layer,
          during: claim.during,
          answer:
            claim.layer === 'page'
              ? {
                  kind: 'page',
                  pageId: claim.pageId,
                  revisionId: claim.revisionId,
                  claimId: claim.sourceId,
                  artifact: null,
                }
              : { ...claim.answer, pageId: claim.pageId, sourceId: claim.sourceId },
        })),
      sites: sitesOn(index + 1),
      pages: pages.filter(({ hostId }) => hostId === index + 1),
    })),
    STYLE,
  );
}

const sitesOn = (host: number): HostRoutes['sites'] =>
  SITES.filter(({ hostId }) => hostId === host).flatMap((one) =>
    SITES.filter(({ siteId, isPrimary }) => isPrimary && siteId === one.siteId).flatMap((primary) => {
      const during = interval(
        Math.max(one.during.from, primary.during.from),
        Math.min(endOf(one.during), endOf(primary.during)),
      );
      const there = { host: HOSTS[primary.hostId - 1] as string, basePath: primary.basePath };
      return during ? [{ basePath: one.basePath, isPrimary: one.isPrimary, during, primary: there }] : [];
    }),
  );

export const placeAt = (plan: PagePlan, t: number) => addressAt(plan, at(t), SITES);
