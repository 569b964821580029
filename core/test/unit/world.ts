import {
  claimsOf,
  movePage,
  paintRelease,
  paintTakeOff,
  pageAddressesOf,
  putBack,
  type Answer,
  type Claim,
  type HostId,
  type IdSource,
  type PageId,
  type PagePlan,
  type PlanRowId,
  type RevisionId,
  type SiteAddress,
  type SiteId,
} from '../../src/plan/index.js';
import { compile, type HostRoutes, type RouteTable } from '../../src/routing/index.js';
import { endOf, type Instant } from '../../src/time/index.js';

export const END = 24;
export const PAGES = [1, 2, 3] as PageId[];
export const HOSTS = ['one.example', 'two.example'];
export const PATHS = ['/a', '/b'];
/** Site s lives on host s at `/`; time runs in minutes 0 to END, one minute being one millisecond here. */
export const SITES: SiteAddress[] = [1, 2].map((n) => ({
  id: n as PlanRowId,
  siteId: n as SiteId,
  hostId: n as HostId,
  basePath: '/',
  during: { from: 0 as Instant, until: null },
  isPrimary: true,
}));

export type Act =
  | { kind: 'release'; page: PageId; revision: number; from: number; until: number | null; afterwards: Answer | null }
  | { kind: 'off'; page: PageId; from: number; until: number | null; afterwards: Answer }
  | { kind: 'move'; page: PageId; at: number; site: number; path: string };

export type Plans = Map<PageId, PagePlan>;

export function firstPlans(): Plans {
  return new Map(
    PAGES.map((pageId, index) => [
      pageId,
      {
        pageId,
        periods: [],
        answers: [],
        placements: [
          {
            id: (10 + index) as PlanRowId,
            pageId,
            siteId: ((index % 2) + 1) as SiteId,
            path: PATHS[index % 2] as string,
            during: { from: 0 as Instant, until: null },
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

/** The plans after an act through the real functions, or `null` where pages would conflict. */
export function act(plans: Plans, what: Act, nextId: IdSource): Plans | null {
  const plan = plans.get(what.page) as PagePlan;
  const next =
    what.kind === 'release'
      ? paintRelease(
          plan,
          {
            revisionId: what.revision as RevisionId,
            from: what.from as Instant,
            until: what.until as Instant | null,
            afterwards: what.afterwards,
          },
          SITES,
          nextId,
        ).plan
      : what.kind === 'off'
        ? paintTakeOff(
            plan,
            { from: what.from as Instant, until: what.until as Instant | null, afterwards: what.afterwards },
            SITES,
            nextId,
          ).plan
        : movePage(
            plan,
            { at: what.at as Instant, siteId: what.site as SiteId, path: what.path, leaves: null },
            SITES,
            nextId,
          );
  const all = new Map(plans).set(what.page, next);
  return conflicts(claims(all)) ? null : all;
}

export function undo(
  plans: Plans,
  old: Plans,
  page: PageId,
  at: number,
  nextId: IdSource,
  leavesRedirect = false,
): Plans | null {
  const next = putBack(
    old.get(page) as PagePlan,
    plans.get(page) as PagePlan,
    at as Instant,
    SITES,
    nextId,
    leavesRedirect,
  );
  const all = new Map(plans).set(page, next);
  return conflicts(claims(all)) ? null : all;
}

export function claims(plans: Plans): Claim[] {
  const all = [...plans.values()];
  const answers = all.flatMap((plan) => plan.answers);
  return claimsOf({
    placements: all.flatMap((plan) => plan.placements),
    periods: all.flatMap((plan) => plan.periods),
    siteAddresses: SITES,
    afterwards: answers.filter(({ kind }) => kind === 'afterwards'),
    moves: answers.filter(({ kind }) => kind === 'move'),
    exactRedirects: [],
  });
}

export function conflicts(all: readonly Claim[]): boolean {
  return all.some((a, i) =>
    all.some(
      (b, j) =>
        i < j &&
        a.layer === b.layer &&
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
              : { ...claim.answer, pageId: claim.pageId },
        })),
      sites: [
        {
          basePath: '/',
          during: { from: 0 as Instant, until: null },
          isPrimary: true,
          primary: { host, basePath: '/' },
        },
      ],
      pages: pages.filter(({ hostId }) => hostId === index + 1),
    })),
  );
}
