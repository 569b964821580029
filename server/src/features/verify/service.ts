import { absoluteAddress, readablePath, type AddressStyle } from '@domatium/core/address';
import {
  claimsOf,
  inputsOf,
  pageAddressesOf,
  type Claim,
  type HostId,
  type PageId,
  type PagePlan,
  type PortfolioId,
  type SiteAddress,
  type Statement,
} from '@domatium/core/plan';
import { compile } from '@domatium/core/routing';
import { DAY, isoInstant, later, MINUTE, type Instant } from '@domatium/core/time';
import { answersTo, queryOfKnex, readHostRoutes, rowOfAnswer, type EdgeQuestion, log } from '@domatium/storage';
import type { Knex } from 'knex';
import { inTransaction, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { exactOf, plansOf, siteAddressesOf } from '../../heart/plans/index.js';
import { framesDerived, openPlans, openReleases, type Publisher } from '../../heart/publishing/index.js';
import type { Work } from '../../platform/work/index.js';
import { sampled } from './sample.js';
import * as store from './store.js';

/** Something that is not as it is derived, in words for whoever looks after the installation. */
export interface Difference {
  readonly kind: 'claim' | 'route' | 'place' | 'frame' | 'edge';
  readonly address: string;
  readonly words: string;
}

export interface Verification {
  readonly portfolioId: PortfolioId;
  readonly at: Instant;
  readonly checked: {
    readonly pages: number;
    readonly claims: number;
    readonly routes: number;
    readonly places: number;
    readonly frames: number;
    readonly edges: number;
    readonly answers: number;
  };
  readonly differences: readonly Difference[];
}

export interface VerifyParts {
  readonly database: Knex;
  readonly style: AddressStyle;
  readonly clock: () => Instant;
  /** Where files lie, and those that pages share: frames are derived with them, and not without. */
  readonly shared?: Pick<Publisher, 'blobs' | 'files'>;
  /** How many addresses and instants edges are asked. */
  readonly questions?: number;
  /** How long edges have to answer, in milliseconds. */
  readonly patience?: number;
}

const QUESTIONS = 2_000;
const PATIENCE = 15_000;
const PAGES_AT_ONCE = 5_000;
const LIVING = 30_000;
const TRIES = 5;

/**
 * Derives everything of a portfolio anew and compares: stored claims with derived ones, routes with claims, places with
 * what routes refer to, frames with what is derived of them for a year, and what each living edge answers at sampled addresses and instants with `resolve` over the
 * database. All is read at one moment; releases that are not ready for visitors yet are left out of routes.
 */
export async function verifyPortfolio(parts: VerifyParts, portfolioId: PortfolioId): Promise<Verification> {
  const { clock } = parts;
  let at = clock();
  let read = await readNow(parts, portfolioId, at);
  let edges = await askEdges(parts, read);
  // A release that went out between reading and asking says nothing: asked again, a few times.
  for (let tries = 1; edges.isStale && tries < TRIES; tries++) {
    at = clock();
    read = await readNow(parts, portfolioId, at);
    edges = await askEdges(parts, read);
  }
  const derived = claimsOf(inputsOf(read.plans.values(), read.siteAddresses, read.exact));
  const published = claimsOf(inputsOf(read.published.values(), read.siteAddresses, read.exact));
  const nameOf = new Map(read.hosts.map(({ id, name }) => [id, name]));
  const addressOf = (hostId: HostId, path: string) =>
    absoluteAddress({ ...parts.style, port: null, suffix: '' }, nameOf.get(hostId) ?? '?', readablePath(path));
  const rows = [
    ...differing('claim', read.claims.map(claimKey), derived.map(rowOf).map(claimKey), 'stored', 'derived'),
    ...differing('route', stretchesOf(read.routes), stretchesOf(published.map(rowOf)), 'routed', 'claimed'),
    ...differing('place', read.places.map(placeKey), placesWanted(read), 'placed', 'lies'),
  ].map(({ kind, key, words }): Difference => {
    const [hostId, path] = key.split(' ') as [string, string];
    return { kind, address: addressOf(Number(hostId) as HostId, path), words };
  });
  const frames = parts.shared ? await framesDerived({ ...parts, ...parts.shared }, portfolioId) : null;
  const amiss = (frames?.amiss ?? []).map(({ hostId, basePath, at: from, slots }): Difference => {
    const words = `another ${slots.join(', ')} stands there from ${isoInstant(from)} on than is derived`;
    return { kind: 'frame', address: addressOf(hostId, basePath), words };
  });
  const { pages, claims, routes, places } = read;
  return {
    portfolioId,
    at,
    checked: {
      ...{ pages: pages.length, claims: claims.length, routes: routes.length, places: places.length },
      ...{ frames: frames?.count ?? 0, edges: edges.count, answers: edges.answers },
    },
    differences: [...rows, ...amiss, ...edges.differences],
  };
}

interface Read {
  readonly pages: readonly PageId[];
  readonly siteAddresses: readonly SiteAddress[];
  readonly exact: readonly Statement[];
  readonly plans: ReadonlyMap<PageId, PagePlan>;
  /** Plans without what is not ready for visitors yet. */
  readonly published: ReadonlyMap<PageId, PagePlan>;
  readonly claims: readonly Omit<store.RouteRow, 'artifact'>[];
  readonly routes: readonly store.RouteRow[];
  readonly places: Awaited<ReturnType<typeof store.placesOfPortfolio>>;
  readonly hosts: Awaited<ReturnType<typeof store.hostsOf>>;
  readonly questions: readonly EdgeQuestion[];
  /** What `resolve` over the database gives for the questions. */
  readonly answers: readonly string[];
}

const readNow = ({ database, ...parts }: VerifyParts, portfolioId: PortfolioId, at: Instant): Promise<Read> =>
  inTransaction(database, (db) => readAll(db, { database, ...parts }, portfolioId, at), 'repeatable read');

async function readAll(db: Knex.Transaction, parts: VerifyParts, portfolioId: PortfolioId, at: Instant): Promise<Read> {
  const pages = await store.pageIdsOf(db, portfolioId);
  const plans = new Map<PageId, PagePlan>();
  for (let first = 0; first < pages.length; first += PAGES_AT_ONCE)
    for (const [id, plan] of await plansOf(db, portfolioId, pages.slice(first, first + PAGES_AT_ONCE)))
      plans.set(id, plan);
  const instead = await openPlans(db, await openReleases(db, portfolioId), []);
  const hosts = await store.hostsOf(db, portfolioId);
  const routes = await store.routesOfPortfolio(db, portfolioId);
  const hostRoutes = await readHostRoutes(
    queryOfKnex(db),
    hosts.map(({ id }) => id),
    at,
  );
  const questions = sampled(hostRoutes, at, parts.questions ?? QUESTIONS);
  return {
    ...{ pages, plans, hosts, routes, questions },
    siteAddresses: await siteAddressesOf(db, portfolioId),
    exact: await exactOf(db, portfolioId),
    published: new Map([...plans, ...instead]),
    claims: await store.claimsOfPortfolio(db, portfolioId),
    places: await store.placesOfPortfolio(db, portfolioId),
    answers: answersTo(compile(hostRoutes, parts.style), questions),
  };
}

type Rowed = Omit<store.RouteRow, 'artifact'>;

const givenBy = (row: Rowed) =>
  `${row.host_id} ${row.path} ${row.layer} ${row.page_id} ${row.revision_id} ${row.answer} ${row.target_page_id} ${row.target_url} ${row.status}`;
const span = (from: Instant, until: Instant | null) => `${from}-${until ?? ''}`;
/** A claim with what it comes from. */
const claimKey = (row: Rowed) => `${givenBy(row)} of ${row.claim_id} ${span(row.from_at, row.until_at)}`;

function rowOf(claim: Claim): Rowed {
  const { hostId: host_id, path, layer, pageId: page_id, sourceId: claim_id, during } = claim;
  const place = { host_id, path, layer, page_id, claim_id, from_at: during.from, until_at: during.until };
  if (claim.layer === 'after') return { ...place, revision_id: null, ...rowOfAnswer(claim.answer) } as Rowed;
  const none = { target_page_id: null, target_url: null, status: null };
  return { ...place, answer: 'page', revision_id: claim.revisionId, ...none };
}

/**
 * Stretches in which an address gives the same: routes of a page are split where anything it shows changes, and one that
 * gives what the one before it gave goes on whatever it comes from.
 */
function stretchesOf(rows: readonly Rowed[]): string[] {
  const whole: { key: string; from: Instant; until: Instant | null }[] = [];
  const sorted = rows.map((row) => ({ row, key: givenBy(row) }));
  sorted.sort((a, b) => (a.key < b.key ? -1 : a.key > b.key ? 1 : a.row.from_at - b.row.from_at));
  for (const { row, key } of sorted) {
    const last = whole.at(-1);
    if (last && last.key === key && last.until === row.from_at) last.until = row.until_at;
    else whole.push({ key, from: row.from_at, until: row.until_at });
  }
  return whole.map(({ key, from, until }) => `${key} ${span(from, until)}`);
}

const placeKey = ({ page_id, host_id, path, from_at, until_at }: Read['places'][number]) =>
  `${host_id} ${path} page ${page_id} ${span(from_at, until_at)}`;

/** Every page that a route is of or leads to has all its places, live or not; so has any other that has some. */
function placesWanted({ routes, places, published, siteAddresses }: Read): string[] {
  const wanted = new Set<PageId>(places.map(({ page_id }) => page_id));
  for (const { page_id, target_page_id } of routes) {
    if (page_id !== null) wanted.add(page_id);
    if (target_page_id !== null) wanted.add(target_page_id);
  }
  const placements = [...wanted].flatMap((id) => published.get(id)?.placements ?? []);
  return pageAddressesOf(placements, siteAddresses).map(
    ({ pageId, hostId, path, during }) => `${hostId} ${path} page ${pageId} ${span(during.from, during.until)}`,
  );
}

function differing(
  kind: Difference['kind'],
  is: readonly string[],
  wanted: readonly string[],
  has: string,
  lacks: string,
): { kind: Difference['kind']; key: string; words: string }[] {
  const [found, asked] = [new Set(is), new Set(wanted)];
  const said = (key: string) =>
    key
      .split(' ')
      .slice(2)
      .join(' ')
      .replaceAll(' null', '')
      .replace(/(\d{12,})/g, (ms) => isoInstant(Number(ms) as Instant));
  return [
    ...is
      .filter((key) => !asked.has(key))
      .map((key) => ({ kind, key, words: `${has}, but not ${lacks}: ${said(key)}` })),
    ...wanted
      .filter((key) => !found.has(key))
      .map((key) => ({ kind, key, words: `${lacks}, but not ${has}: ${said(key)}` })),
  ];
}

/** Asks every living edge, and holds its answers against the database where it has the same versions of the hosts. */
async function askEdges(
  { database, clock, patience = PATIENCE }: VerifyParts,
  { hosts, questions, answers }: Read,
): Promise<{ count: number; answers: number; isStale: boolean; differences: Difference[] }> {
  const living = await store.livingEdges(database, later(clock(), -LIVING));
  if (!living.length || !questions.length) return { count: 0, answers: 0, isStale: false, differences: [] };
  const id = await store.ask(database, questions, clock());
  const versions = new Map(hosts.map(({ name, version }) => [name, version]));
  const until = clock() + patience;
  let given: store.EdgeAnswer[] = [];
  while (clock() < until) {
    given = await store.answersOf(database, id);
    if (living.every((edge) => given.some(({ edge_id }) => edge_id === edge))) break;
    await new Promise((done) => setTimeout(done, 100));
  }
  await store.forget(database, id, later(clock(), -DAY));
  const differences: Difference[] = [];
  let count = 0;
  let isStale = false;
  for (const edge of living) {
    const own = given.find(({ edge_id }) => edge_id === edge);
    if (!own) {
      differences.push({ kind: 'edge', address: edge, words: `did not answer within ${patience / 1000} seconds` });
      continue;
    }
    // A release may have gone out between: what rests on other versions is no difference.
    if ([...versions].some(([name, version]) => own.versions[name] !== version)) {
      isStale = true;
      continue;
    }
    questions.forEach(({ host, path, at }, index) => {
      count++;
      if (own.answers[index] !== answers[index])
        differences.push({
          kind: 'edge',
          address: `${host}${readablePath(path)}`,
          words: `${edge} gives “${own.answers[index]}” at ${isoInstant(at)}, the database “${answers[index]}”`,
        });
    });
  }
  return { count: living.length, answers: count, isStale, differences };
}

/** Verifies each portfolio that was not verified for a day; `verify` does one. */
export function verifyWork(
  { database, clock }: VerifyParts,
  verify: (portfolioId: PortfolioId) => Promise<void>,
): Work {
  return {
    name: 'verify',
    every: MINUTE,
    pauses: [MINUTE, 60 * MINUTE],
    pending: async () => (await store.unverifiedSince(database, later(clock(), -DAY))).map(({ id }) => String(id)),
    run: (key) => verify(Number(key) as PortfolioId),
  };
}

/** Verifies a portfolio here and now, and keeps what was found. */
export const verifyHere =
  (parts: VerifyParts) =>
  async (portfolioId: PortfolioId): Promise<void> =>
    keepVerification(parts.database, await verifyPortfolio(parts, portfolioId));

export async function keepVerification(database: Db, found: Verification): Promise<void> {
  const { portfolioId, at, checked, differences } = found;
  await store.keep(database, portfolioId, at, checked, differences);
  for (const { kind, address, words } of differences.slice(0, 20))
    log.error({ portfolio: portfolioId, kind, address }, `verify: ${words}`);
  await notifyEvent(database as Knex, { portfolioId, kind: 'verified' });
}
