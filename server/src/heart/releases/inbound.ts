import type { PreviewLine } from '@domatium/contracts';
import { NOT_FOUND_PATH, readablePath } from '@domatium/core/address';
import { pageAddressesOf, type PageId, type PagePlan } from '@domatium/core/plan';
import { followedOver, stableOver, type Followed, type RouteTable } from '@domatium/core/routing';
import { endOf, intersect, type Instant, type Interval } from '@domatium/core/time';
import { givenWords, type GivenCode } from '@domatium/core/words';
import { neighbourhoodOf, type Neighbourhood, type PlanSource } from '../plans/index.js';
import { leadingTo } from '../stock/index.js';
import type { Judged } from './judge.js';
import { referrersOf } from './store.js';
import { say } from '@domatium/core/words/answers/releases';

type Leads = 'direct' | 'redirect' | 'nowhere';

/** A link to a page that changes: what is said of it, and how it leads then. */
export interface InboundLine {
  readonly line: PreviewLine;
  readonly leads: Leads;
}

/** What becomes of links that other pages have to the pages that change. */
export async function inboundLines(
  source: PlanSource,
  { current, planned, applied }: Judged,
  now: Instant,
): Promise<InboundLine[]> {
  const changed = [...applied.plans.keys()];
  const pairs = (await referrersOf(source.db, changed, now)).filter(({ referrer }) => !applied.plans.has(referrer));
  const around = await neighbourhoodOf(
    source,
    pairs.map(({ referrer }) => referrer),
  );
  const said = new Set<string>();
  return pairs
    .flatMap(({ referrer, target }) => {
      const plan = around.plans.get(referrer);
      const live = plan ? liveStretches(plan, around, now) : [];
      return live.flatMap(({ during, address }) =>
        stableOver(
          during,
          (at, witness) => [followAt(current, target, at, witness), followAt(planned, target, at, witness)] as const,
          (a, b) => describe(a[0]) === describe(b[0]) && describe(a[1]) === describe(b[1]),
        )
          .filter(({ value: [was, becomes] }) => describe(was) !== describe(becomes))
          .map(({ during: part, value: [, becomes] }): InboundLine => {
            const leads = describe(becomes);
            const given = { code: LINKS[leads], params: {} };
            const line = { ...given, at: part.from, address, words: givenWords(given), isWarning: leads !== 'direct' };
            return { line, leads };
          }),
      );
    })
    .filter(({ line: { at, address }, leads }) => {
      const key = `${at} ${address} ${leads}`;
      return !said.has(key) && said.add(key);
    });
}

/** What becomes of menus, headers, footers, bands and pieces that lead to the pages that change. */
export async function leadingLines(
  { db, portfolioId }: PlanSource,
  { current, planned, applied }: Judged,
  now: Instant,
): Promise<PreviewLine[]> {
  const leading = await leadingTo(db, portfolioId, [...applied.plans.keys()], now);
  const said = new Set<string>();
  return leading.flatMap(({ kind, name, target, during }) => {
    const ahead = intersect(during, { from: now, until: null });
    if (!ahead) return [];
    // A menu shows what is live at its own address, and leaves out everything else.
    const isMenu = kind === 'menu' || kind === 'legal';
    const shownAs = (routes: RouteTable, at: Instant, witness: Witness): GivenCode => {
      const leads = describe(followAt(routes, target, at, witness));
      return isMenu && leads !== 'direct' ? 'left-out' : LINKS[leads];
    };
    return stableOver(
      ahead,
      (at, witness) => [shownAs(current, at, witness), shownAs(planned, at, witness)] as const,
      (a, b) => a[0] === b[0] && a[1] === b[1],
    ).flatMap(({ during: part, value: [was, code] }): PreviewLine[] => {
      const key = `${part.from} ${name} ${code}`;
      if (was === code || said.has(key)) return [];
      said.add(key);
      const given = { code, params: {} };
      const isWarning = code !== LINKS.direct;
      return [{ ...given, at: part.from, address: name, words: givenWords(given), isWarning }];
    });
  });
}

type Witness = (from: number, until: number) => void;
const followAt = (routes: RouteTable, target: PageId, at: Instant, witness: Witness): Followed => {
  const [first] = followedOver(routes, target, { from: at, until: null });
  if (first) witness(first.during.from, endOf(first.during));
  return first?.value ?? { kind: 'nothing' };
};

/** Only how a link works matters here, not where to: it follows a move by itself. */
const describe = (end: Followed): Leads =>
  end.kind === 'address' ? (end.isDirect ? 'direct' : 'redirect') : end.kind === 'outside' ? 'redirect' : 'nowhere';

const LINKS: Readonly<Record<Leads, GivenCode>> = {
  direct: 'link-works',
  redirect: 'link-redirects',
  nowhere: 'link-broken',
};

/** Nobody asks for a site's not-found page by its place. */
const addressWords = (host: string, path: string) =>
  path.endsWith(NOT_FOUND_PATH)
    ? say.notFoundPage(host, readablePath(path.slice(0, -NOT_FOUND_PATH.length)))
    : `${host}${readablePath(path)}`;

function liveStretches(
  plan: PagePlan,
  { siteAddresses, hosts }: Neighbourhood,
  now: Instant,
): { during: Interval; address: string }[] {
  return pageAddressesOf(plan.placements, siteAddresses).flatMap(({ hostId, path, during }) =>
    plan.periods.flatMap((period) => {
      const both = intersect(intersect(period.during, during) ?? { from: 0 as Instant, until: 0 as Instant }, {
        from: now,
        until: null,
      });
      return both && intersect(period.during, during)
        ? [{ during: both, address: addressWords(hosts.get(hostId) ?? '', path) }]
        : [];
    }),
  );
}
