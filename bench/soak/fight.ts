import { randomBytes } from 'node:crypto';
import type { AnswerInput, ReleaseChange } from '@domatium/contracts';
import { absoluteAddress, withRest } from '@domatium/core/address';
import { pageAddressesOf, type PageId } from '@domatium/core/plan';
import { compile, compileHost, resolve, RouteTable, type Resolution } from '@domatium/core/routing';
import { instant, MINUTE, wallOf, type Instant } from '@domatium/core/time';
import { siteAddressesOf, verifyPortfolio } from '@domatium/server';
import { answerOfRow, queryOfKnex, readHostRoutes } from '@domatium/storage';
import { PASSWORD, ZONE } from '../../server/test/process/harness.js';
import { ask, PORTS, Stack, tools } from '../stack.js';

/**
 * Eight clients change twelve pages on six addresses of two hosts through the real processes, as fast as they can, while
 * others ask the edge without end. What it answers must be what some state gave that it can have been in: of all the
 * database committed, those between the one it had acknowledged before the question and the newest at the answer.
 */
const CLIENTS = 8;
const VISITORS = 4;
const PAGES = 12;
const MINUTES = Number(process.env['FIGHT_MINUTES'] ?? 2);
const PATHS = ['/f1', '/f2', '/f3'];
const HOSTS: readonly [string, string, number][] = [
  ['one.example', '', 1],
  ['x.one.example', '/below', 2],
];
const ACCOUNTS = ['owner', 'publisher', 'second'];

const stack = await Stack.open();
const { world } = stack;
const { database } = world;
world.now = instant(Date.now());
const pages: PageId[] = [];
for (let n = 0; n < PAGES; n++)
  pages.push(await world.page(PATHS[n % PATHS.length] as string, { site: (n % 2) + 1, name: `Page ${n}` }));
await keepStates();
await stack.start('server', 'worker', 'edge');
await tools.until(async () => (await ask('one.example', '/f1')).status < 500, 'edge', 60_000);

/** Each commit that changed what edges read leaves the whole of it behind, numbered in the order of the commits. */
async function keepStates(): Promise<void> {
  await database.raw(`
CREATE TABLE soak_state (n bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, versions jsonb NOT NULL, routes jsonb NOT NULL, places jsonb NOT NULL);
CREATE FUNCTION soak_keep() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE now_versions jsonb := (SELECT jsonb_object_agg(id, version) FROM host);
BEGIN
  IF now_versions = (SELECT versions FROM soak_state ORDER BY n DESC LIMIT 1) THEN RETURN NULL; END IF;
  INSERT INTO soak_state (versions, routes, places) SELECT now_versions,
    (SELECT coalesce(jsonb_agg(r), '[]') FROM route r), (SELECT coalesce(jsonb_agg(p), '[]') FROM page_route p);
  RETURN NULL;
END $$;
CREATE CONSTRAINT TRIGGER soak_keep AFTER UPDATE OF version ON host DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION soak_keep();
CREATE TABLE soak_plan (n bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, release_id bigint, claims jsonb NOT NULL, placements jsonb NOT NULL);
CREATE FUNCTION soak_keep_plan() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO soak_plan (release_id, claims, placements) SELECT NEW.id,
    (SELECT coalesce(jsonb_agg(to_jsonb(c) || jsonb_build_object('host_id', a.host_id, 'path', a.path)), '[]') FROM claim c JOIN address a ON a.id = c.address_id),
    (SELECT coalesce(jsonb_agg(p), '[]') FROM placement p);
  RETURN NULL;
END $$;
CREATE CONSTRAINT TRIGGER soak_keep_plan AFTER INSERT ON release DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION soak_keep_plan();
INSERT INTO soak_plan (claims, placements) SELECT '[]', (SELECT coalesce(jsonb_agg(p), '[]') FROM placement p);
INSERT INTO soak_state (versions, routes, places) SELECT (SELECT jsonb_object_agg(id, version) FROM host),
  (SELECT coalesce(jsonb_agg(r), '[]') FROM route r), (SELECT coalesce(jsonb_agg(p), '[]') FROM page_route p);`);
}

const pick = <T>(list: readonly T[]): T => list[Math.floor(Math.random() * list.length)] as T;
const until = Date.now() + MINUTES * 60_000;
const outcomes = new Map<string, number>();
const note = (what: string) => void outcomes.set(what, (outcomes.get(what) ?? 0) + 1);

function answer(): AnswerInput {
  const kind = pick(['gone', 'not-found', 'page', 'page', 'page', 'own', 'out']);
  if (kind === 'gone' || kind === 'not-found') return { kind };
  if (kind === 'page')
    return { kind: 'redirect', status: pick([301, 302]), target: { kind: 'page', pageId: pick(pages) } };
  const [host, base] = pick(HOSTS);
  const url = kind === 'own' ? `https://${host}${base}${pick(PATHS)}` : 'https://elsewhere.example/';
  return { kind: 'redirect', status: 301, target: { kind: 'outside', url } };
}

function change(pageId: PageId): ReleaseChange {
  const minute = Math.ceil(Date.now() / MINUTE) * MINUTE;
  const wall = (n: number) => ({ local: wallOf((minute + n * MINUTE) as Instant, ZONE), zone: ZONE });
  const from = Math.random() < 0.6 ? ('now' as const) : wall(Math.floor(Math.random() * 3));
  const kind = pick([
    'release',
    'release',
    'release',
    'take-off',
    'move',
    'move',
    'afterwards',
    'shift',
    'bin',
    'restore',
  ]);
  if (kind === 'move') return { act: 'move', pageId, at: from, siteId: pick([1, 2]), path: pick(PATHS), leaves: null };
  if (kind === 'take-off') return { act: 'take-off', pageId, from, until: null, afterwards: answer() };
  if (kind === 'afterwards') return { act: 'afterwards', pageId, afterwards: answer() };
  if (kind === 'shift') return { act: 'shift', pageId, days: 1 };
  if (kind === 'bin') return { act: 'bin', pageId, afterwards: answer() };
  if (kind === 'restore') return { act: 'restore', pageId, isPlanned: Math.random() < 0.5, path: null };
  const end = Math.random() < 0.5 ? null : wall(3 + Math.floor(Math.random() * 4));
  return { act: 'release', pageId, from, until: end, afterwards: end && answer(), cutsLater: true };
}

async function client(account: string): Promise<void> {
  const app = `http://localhost:${PORTS.app}/api`;
  const signedIn = await fetch(`${app}/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: `${account}@one.example`, password: PASSWORD }),
  });
  const headers = {
    Cookie: signedIn.headers.get('set-cookie')?.split(';')[0] ?? '',
    'X-Csrf-Token': ((await signedIn.json()) as { csrf: string }).csrf,
    'Content-Type': 'application/json',
  };
  const post = (path: string, body: object) =>
    fetch(`${app}/portfolios/1/releases${path}`, { method: 'POST', headers, body: JSON.stringify(body) });
  const done: number[] = [];
  while (Date.now() < until) {
    const key = { idempotencyKey: randomBytes(8).toString('hex') };
    const undone = Math.random() < 0.15 ? done.pop() : undefined;
    const chosen = [...new Set(Array.from({ length: pick([1, 1, 2, 3]) }, () => pick(pages)))];
    const response = undone
      ? await post(`/${undone}/undo`, { ...key, leavesRedirect: true })
      : await post('', { ...key, changes: chosen.map(change) });
    const body = (await response.json()) as { id?: number; detail?: string };
    note(`${undone ? 'undo' : 'release'} ${response.status}`);
    if (response.status >= 500) console.error(`  ${response.status}: ${JSON.stringify(body)}`);
    if (body.id) done.push(body.id);
  }
}

interface Asked {
  readonly host: string;
  readonly path: string;
  /** The newest state the edge had acknowledged before, and the newest there was afterwards. */
  readonly states: readonly [number, number];
  /** The newest plan that was out, with all before it, before the question, and the newest decided at the answer. */
  readonly plans: readonly [number, number];
  readonly times: readonly [number, number];
  readonly got: string;
}
const asked: Asked[] = [];

async function visitor(): Promise<void> {
  const newest = async (table: string) => ((await database(table).max('n as n').first()) as { n: number }).n;
  const out = async () => {
    const rows = (await database.raw(
      'SELECT coalesce(min(s.n) - 1, (SELECT max(n) FROM soak_plan)) AS n FROM soak_plan s JOIN release r ON r.id = s.release_id WHERE r.out_at IS NULL',
    )) as { rows: { n: number }[] };
    return rows.rows[0]?.n ?? 1;
  };
  const acknowledged = async () => {
    const rows = (await database.raw(
      `SELECT max(s.n) AS n FROM soak_state s WHERE NOT EXISTS (
        SELECT FROM jsonb_each_text(s.versions) v LEFT JOIN edge_host e ON e.host_id = v.key::bigint WHERE coalesce(e.version, 0) < v.value::bigint)`,
    )) as { rows: { n: number | null }[] };
    return rows.rows[0]?.n ?? 1;
  };
  while (Date.now() < until) {
    const [host, base] = pick(HOSTS);
    const path = base + pick(PATHS);
    const first = await acknowledged();
    const plan = await out();
    const began = Date.now();
    const { status, location, etag } = await ask(host, path);
    const ended = Date.now();
    const got = status === 200 ? `page ${etag?.slice(1, 17)}` : `${status} ${location ?? ''}`.trim();
    const last = await newest('soak_state');
    asked.push({
      host,
      path,
      states: [first, last],
      plans: [plan, await newest('soak_plan')],
      times: [began, ended],
      got,
    });
  }
}

function shown(answer: Resolution): string {
  switch (answer.kind) {
    case 'page':
      return `page ${answer.artifact?.slice(0, 16)}`;
    case 'redirect': {
      const { to } = answer;
      const place = to.kind === 'outside' ? to.url : absoluteAddress(world.publisher.style, to.host, to.path) + to.rest;
      return `${answer.status} ${withRest(place, '')}`;
    }
    case 'gone':
      return '410';
    default:
      return '404';
  }
}

console.log(`fight: ${CLIENTS} clients, ${VISITORS} visitors, ${MINUTES} minutes`);
await Promise.all([
  ...Array.from({ length: CLIENTS }, (_, n) => client(ACCOUNTS[n % ACCOUNTS.length] as string)),
  ...Array.from({ length: VISITORS }, visitor),
]);
await tools.until(
  async () =>
    Number(((await database('release').whereNull('out_at').count('* as n').first()) as { n: number }).n) === 0,
  'all out',
  60_000,
);

/** Tables of the states, as the edge made them. */
const tables = new Map<number, RouteTable>();
async function tableOf(n: number): Promise<RouteTable> {
  const known = tables.get(n);
  if (known) return known;
  const table = new RouteTable(world.publisher.style);
  const hosts = await database.transaction(async (trx) => {
    await trx.raw(
      'CREATE TEMP TABLE route ON COMMIT DROP AS SELECT r.* FROM public.soak_state s, jsonb_populate_recordset(NULL::public.route, s.routes) r WHERE s.n = ?',
      [n],
    );
    await trx.raw(
      'CREATE TEMP TABLE page_route ON COMMIT DROP AS SELECT r.* FROM public.soak_state s, jsonb_populate_recordset(NULL::public.page_route, s.places) r WHERE s.n = ?',
      [n],
    );
    const ids = (await trx('host').select('id')) as { id: number }[];
    return readHostRoutes(
      queryOfKnex(trx),
      ids.map(({ id }) => id),
      0 as Instant,
    );
  });
  table.replaceHosts(hosts.map(compileHost));
  tables.set(n, table);
  return table;
}

/** Tables of the plans, as each release left them; what a page looks like is known from any route of its revision. */
const plans = new Map<number, RouteTable>();
const revisionOf = new Map<string, number>();
for (const { artifact, revision_id } of (
  (await database.raw(
    "SELECT DISTINCT r.value->>'artifact' AS artifact, (r.value->>'revision_id')::bigint AS revision_id FROM soak_state s, jsonb_array_elements(s.routes) r WHERE r.value->>'artifact' IS NOT NULL",
  )) as { rows: { artifact: string; revision_id: number }[] }
).rows)
  revisionOf.set(`page ${artifact.slice(0, 16)}`, revision_id);
async function planTableOf(n: number): Promise<RouteTable> {
  const known = plans.get(n);
  if (known) return known;
  const [row] = (await database('soak_plan').where({ n })) as { claims: Row[]; placements: Row[] }[];
  const hosts = (await database('host').where({ portfolio_id: 1 }).select('id', 'name')) as {
    id: number;
    name: string;
  }[];
  const sites = await siteAddressesOf(database, world.one);
  const during = (one: Row) =>
    ({ from: Date.parse(one.from_at), until: one.until_at === null ? null : Date.parse(one.until_at) }) as never;
  const placements = (row?.placements ?? []).map(
    (one) => ({ ...one, pageId: one.page_id, siteId: one.site_id, during: during(one) }) as never,
  );
  const places = pageAddressesOf(placements, sites);
  const table = compile(
    hosts.map(({ id, name }) => ({
      ...{ host: name, version: 1, portfolioId: world.one, sites: [] },
      pages: places.filter(({ hostId }) => hostId === id),
      routes: (row?.claims ?? [])
        .filter(({ host_id }) => host_id === id)
        .map((one) => ({
          ...{ path: one.path, layer: one.layer, during: during(one) },
          answer:
            one.layer === 'page'
              ? ({
                  kind: 'page',
                  pageId: one.page_id,
                  revisionId: one.revision_id,
                  claimId: 0,
                  artifact: null,
                } as never)
              : answerOfRow(one as never),
        })),
    })),
    world.publisher.style,
  );
  plans.set(n, table);
  return table;
}
interface Row {
  readonly host_id: number;
  readonly path: string;
  readonly layer: 'page' | 'after';
  readonly from_at: string;
  readonly until_at: string | null;
  readonly page_id: number;
  readonly site_id: number;
  readonly revision_id: number;
}

/** Instants at which an answer can have been made: every flip lies on a whole minute, or at a state's own beginning. */
function instantsOf([began, ended]: readonly [number, number]): number[] {
  const minute = Math.floor(ended / MINUTE) * MINUTE;
  const step = Math.max(1, Math.floor((ended - began) / 20));
  const between = Array.from({ length: Math.floor((ended - began) / step) + 1 }, (_, n) => began + n * step);
  return [began - 1, ...between, ended, ...(minute > began ? [minute - 1, minute] : [])];
}

let strange = 0;
let halves = 0;
let spread = 0;
for (const {
  host,
  path,
  states: [first, last],
  plans: [plan, decided],
  times,
  got,
} of asked) {
  const allowed = new Set<string>();
  for (let n = first; n <= last; n++) {
    const table = await tableOf(n);
    for (const at of instantsOf(times)) allowed.add(shown(resolve(table, { host, path }, instant(at))));
  }
  const planned = new Set<string>();
  for (let n = plan; n <= decided; n++) {
    const table = await planTableOf(n);
    for (const at of instantsOf(times)) {
      const answer = resolve(table, { host, path }, instant(at));
      planned.add(answer.kind === 'page' ? `revision ${answer.revisionId}` : shown(answer));
    }
  }
  const revision = revisionOf.get(got);
  if (!planned.has(revision === undefined ? got : `revision ${revision}`)) {
    halves++;
    if (halves <= 10)
      console.error(
        `  ${new Date(times[0]).toISOString()} ${host}${path}: ${got}, planned ${plan} to ${decided} only ${[...planned].join(' or ')}`,
      );
  }
  spread = Math.max(spread, last - first);
  if (allowed.has(got)) continue;
  strange++;
  if (strange <= 10)
    console.error(
      `  ${new Date(times[0]).toISOString()} ${host}${path}: ${got}, in states ${first} to ${last} only ${[...allowed].join(' or ')}`,
    );
}
const states = ((await database('soak_state').max('n as n').first()) as { n: number }).n;
const total = [...outcomes].sort().map(([what, count]) => `${what}: ${count.toLocaleString('en')}`);
console.log(`  ${total.join(', ')}`);
console.log(
  `  ${asked.length.toLocaleString('en')} answers over ${states.toLocaleString('en')} states, at most ${spread} states apart: ${strange} outside of them, ${halves} of no plan there was`,
);
const parts = { database, style: world.publisher.style, clock: () => instant(Date.now()) };
const found = await verifyPortfolio(parts, world.one);
for (const { kind, address, words } of found.differences.slice(0, 10)) console.error(`  ${kind} ${address}: ${words}`);
console.log(
  `  verified: ${found.checked.claims} claims, ${found.checked.routes} routes, ${found.checked.answers} answers of the edge; ${found.differences.length} differences`,
);
await stack.close();
const failed =
  strange || halves || found.differences.length || [...outcomes.keys()].some((what) => / 5\d\d$/.test(what));
console.log(failed ? 'fight: failed' : 'fight: nothing strange');
process.exit(failed ? 1 : 0);
