import type { ReleaseChange } from '@domatium/contracts';
import type { AddressKey, HostId, PageId, PagePlan, SiteId } from '@domatium/core/plan';
import { later, type Instant } from '@domatium/core/time';
import { setInstant, type Context } from '../../platform/database/context.js';
import {
  addressesOf,
  emptyNeighbourhood,
  leadsOf,
  neighbourhoodOf,
  type Neighbourhood,
  type PlanSource,
} from '../plans/index.js';
import { lockItems } from '../stock/index.js';
import { outsidePlacesOf, targetsOf } from './judge.js';
import * as lockStore from './lock-store.js';
import * as store from './store.js';

/** Somebody else made the change lead further than it did when its hosts were locked: it begins anew. */
class LockedTooLittle extends Error {}

const MOST_TRIES = 6;

/** The hosts a decision holds. What it turns out to need besides is held from the start when it is tried again. */
export class Locks {
  private readonly needed = new Set<HostId>();
  private held = new Set<HostId>();

  /** All hosts to be locked, with those that an earlier try turned out to need. */
  take(hosts: Iterable<HostId>): HostId[] {
    for (const host of hosts) this.needed.add(host);
    this.held = new Set(this.needed);
    return [...this.held];
  }

  /** Begins anew where one of these hosts is not held. */
  check(hosts: Iterable<HostId>): void {
    for (const host of hosts) this.needed.add(host);
    if (this.needed.size > this.held.size) throw new LockedTooLittle('Locked too few hosts');
  }
}

/** Runs a decision until it held every host it needed. */
export async function withLocks<T>(decide: (locks: Locks) => Promise<T>): Promise<T> {
  const locks = new Locks();
  for (let tries = 1; ; tries++)
    try {
      return await decide(locks);
    } catch (error) {
      if (!(error instanceof LockedTooLittle) || tries === MOST_TRIES) throw error;
    }
}

/** What a decision touches: its pages, with where they lie now and would lie, and what its changes lead to. */
export interface LockWish {
  readonly pageIds: readonly PageId[];
  readonly changes: readonly ReleaseChange[];
  /** Plans the pages had or would get. */
  readonly plans: readonly PagePlan[];
  /** Things of the stock. */
  readonly items: readonly number[];
}

/**
 * Locks things of the stock, then pages, then in the order of their identities the hosts they lie on, and with them, shared, every host that
 * their references lead through, as far as a circle could be made: two presses that would close one meet on a host.
 * Presses that only lead to the same place go on beside each other. Gives the instant of the release, later than every
 * earlier one on these hosts and things (design rule 5), and tells the guards.
 */
export async function lockAndRead(
  source: PlanSource,
  context: Context,
  locks: Locks,
  { pageIds, changes, plans, items }: LockWish,
): Promise<Instant> {
  const { db, portfolioId } = source;
  const held = await lockItems(db, portfolioId, items, context.now);
  await lockStore.lockPages(db, portfolioId, pageIds);
  const none = await emptyNeighbourhood(source);
  const { siteAddresses } = none;
  const led = plans.map((plan) => leadsOf(none, plan));
  const { targets, places } = ledToBy(none, changes);
  const around = await neighbourhoodOf(source, [...pageIds, ...targets, ...led.flatMap(({ pages }) => pages)], {
    extra: [...places, ...led.flatMap((one) => one.places)],
    known: none,
  });
  const own = new Set<HostId>();
  const stored = pageIds.flatMap((id) => around.plans.get(id) ?? []);
  for (const plan of [...plans, ...stored]) for (const { hostId } of addressesOf(plan, siteAddresses)) own.add(hostId);
  const sites = new Set(changes.flatMap((change) => (change.act === 'move' ? [change.siteId as SiteId] : [])));
  for (const { siteId, hostId } of siteAddresses) if (sites.has(siteId)) own.add(hostId);
  const all = locks.take([...own, ...hostsOf(around)]);
  const released = await lockStore.lockHosts(db, portfolioId, own, all);
  const latest = held !== null && (released === null || held > released) ? held : released;
  const read = context.clock();
  const instant = latest !== null && latest >= read ? later(latest, 1) : read;
  await setInstant(db, instant);
  await store.noteReleaseOnHosts(db, [...own], instant);
  return instant;
}

const hostsOf = ({ plans, siteAddresses }: Neighbourhood) =>
  new Set([...plans.values()].flatMap((plan) => addressesOf(plan, siteAddresses).map(({ hostId }) => hostId)));

/** What changes say they lead to. Links of a document make no circle: only redirects do. */
function ledToBy(
  around: Neighbourhood,
  changes: readonly ReleaseChange[],
): { readonly targets: readonly PageId[]; readonly places: readonly AddressKey[] } {
  return {
    targets: changes.flatMap((change) => targetsOf(change, new Map())),
    places: changes.flatMap((change) => outsidePlacesOf(around, change)),
  };
}

/** The hosts that references of pages lead through, as a neighbourhood has them: what the pages lie on included. */
export function hostsLedTo(around: Neighbourhood, pageIds: readonly PageId[]): Set<HostId> {
  const { plans, siteAddresses } = around;
  const byAddress = new Map<string, PageId[]>();
  const keyOf = ({ hostId, path }: AddressKey) => `${hostId} ${path}`;
  for (const [id, plan] of plans)
    for (const address of addressesOf(plan, siteAddresses)) {
      const known = byAddress.get(keyOf(address));
      if (known) known.push(id);
      else byAddress.set(keyOf(address), [id]);
    }
  const met = new Set<PageId>();
  const hosts = new Set<HostId>();
  for (let fresh: PageId[] = [...pageIds]; fresh.length;) {
    const next: PageId[] = [];
    for (const id of fresh) {
      const plan = plans.get(id);
      if (!plan || met.has(id)) continue;
      met.add(id);
      const { pages, places } = leadsOf(around, plan);
      for (const address of [...addressesOf(plan, siteAddresses), ...places]) {
        hosts.add(address.hostId);
        next.push(...(byAddress.get(keyOf(address)) ?? []));
      }
      next.push(...pages);
    }
    fresh = next;
  }
  return hosts;
}
