import { randomBytes } from 'node:crypto';
import type { AddressStyle } from '@domatium/core/address';
import { compileHost, RouteTable, type HostRoutes, type Route } from '@domatium/core/routing';
import { DAY, dayOf, later, type Instant } from '@domatium/core/time';
import {
  answerQuestions,
  Listener,
  queryOf,
  readFrameLines,
  readHostFrames,
  readHostRoutes,
  readHostVersions,
  readParts,
  smallPool,
  tellTroubles,
  transact,
  type Query,
  type StoredHost,
  type Trouble,
  swallowed,
  warn,
} from '@domatium/storage';
import type pg from 'pg';
import type { Artifacts } from './artifacts.js';
import { LEAP } from './clock.js';
import { Frames, NO_FRAMES, type TakenFrames } from './frames.js';
import { Snapshot } from './snapshot.js';
import { troublesOf } from './trouble-words.js';
import type { Visits } from './visits.js';

/** A lost notice is harmless: versions are compared this often anyway. */
const COMPARE = 3_000;
/** A database that doesn't answer is waited for so long before the machine's own clock is believed, in milliseconds. */
const TIME_PATIENCE = 2_000;
/** Ended routes are kept this long, in case the clock is set back. */
const KEEP = 3_600_000;

export interface FollowerParts {
  readonly url: string;
  readonly edgeId: string;
  readonly folder: string;
  readonly style: AddressStyle;
  readonly artifacts: Artifacts;
  readonly visits: Visits;
  readonly clock: () => Instant;
  /** Takes what the database's clock says; gives by how many milliseconds the machine's clock leads. */
  readonly followClock?: (databaseNow: number) => number;
  /** Files of the spool in which something could not be read. */
  readonly unread?: () => readonly string[];
}

/** Keeps an edge's tables true to the database while there is one, and goes on without it. */
export class Follower {
  readonly table: RouteTable;
  readonly frames = new Frames();
  /** What figures need of a host, by its name. */
  readonly hosts = new Map<string, StoredHost>();
  isLoaded = false;
  private readonly versions = new Map<number, { name: string; version: number; frameVersion: number }>();
  /** Pages that were whole here once, or were lacking from the start: those don't give way to what was there before them. */
  private readonly known = new Set<string>();
  /** Hosts of which a page is held back. */
  private readonly held = new Set<string>();
  private salts = new Map<string, string>();
  private readonly snapshot: Snapshot;
  private readonly listener: Listener;
  private readonly pool: pg.Pool;
  private isStopped = false;
  private isConnected = false;
  private syncing: Promise<void> | null = null;
  private again = false;
  private clockLeads = 0;
  private timeKnown: () => void = () => undefined;
  private readonly firstTime = new Promise<void>((known) => (this.timeKnown = known));
  private snapshotFailure: string | null = null;
  private toldLacks = '';
  private readonly timer = setInterval(() => void this.sync(), COMPARE);

  constructor(private readonly parts: FollowerParts) {
    this.table = new RouteTable(parts.style);
    this.snapshot = new Snapshot(parts.folder);
    this.pool = smallPool(parts.url, 'domatium edge', 1);
    this.listener = new Listener({
      url: parts.url,
      name: 'domatium edge notices',
      channel: 'domatium_routes',
      onNotice: () => void this.sync(),
      onConnect: () => void this.sync(),
    });
    parts.artifacts.onLack = () => {
      this.retake();
      void this.sync();
    };
  }

  /**
   * Loads the snapshot first, so that visitors are answered before the database is there; but where it is there, it is
   * asked for the time before anybody is answered, so that a wrong clock of this machine shows nothing early.
   */
  async start(): Promise<void> {
    await this.loadSnapshot();
    void this.listener.start();
    const synced = this.sync();
    await Promise.race([this.firstTime, synced, new Promise((done) => setTimeout(done, TIME_PATIENCE).unref())]);
  }

  private async loadSnapshot(): Promise<void> {
    const kept = await this.snapshot.read();
    if (!kept) return;
    try {
      await this.parts.artifacts.look(artifactsOf(kept.hosts));
      this.take(kept.hosts, [], { ...kept.frames, texts: new Map(kept.frames.texts) });
      this.setSalts(kept.salts);
      this.isLoaded = true;
    } catch (error) {
      // Whatever is wrong with it, the database has all of it.
      warn('the snapshot is thrown away', error);
      this.take([], [...this.versions.keys()]);
    }
  }

  async stop(): Promise<void> {
    this.isStopped = true;
    clearInterval(this.timer);
    await this.listener.stop();
    await this.syncing;
    // Who leaves says so: no release waits for it.
    if (this.isConnected)
      await Promise.race([
        this.pool.query('DELETE FROM edge WHERE id = $1', [this.parts.edgeId]).catch(swallowed('saying goodbye')),
        new Promise((done) => setTimeout(done, 1_000)),
      ]);
    await this.pool.end().catch(swallowed('ending the pool'));
  }

  /** What goes wrong here just now, as sentences. */
  troubles(): string[] {
    const away = this.isConnected ? [] : ['The database can’t be reached; visitors get what was decided before.'];
    return [...away, ...this.toldTroubles().map(({ words }) => words)];
  }

  private toldTroubles(): Trouble[] {
    const { edgeId, artifacts, visits, unread } = this.parts;
    return troublesOf({
      edgeId,
      lacks: artifacts.lacks.size,
      disk: this.snapshotFailure ?? visits.failure,
      unread: unread?.().length ?? 0,
      lost: visits.lost,
      clockLeads: this.clockLeads,
    });
  }

  /** Compares versions and takes what is new; a call while it runs makes it look once more. */
  sync(): Promise<void> {
    this.again = true;
    this.syncing ??= this.run()
      .catch(swallowed('following'))
      .finally(() => (this.syncing = null));
    return this.syncing;
  }

  private async run(): Promise<void> {
    while (this.again && !this.isStopped) {
      this.again = false;
      const client = await this.pool.connect().catch((error: unknown) => {
        this.isConnected = false;
        throw error;
      });
      try {
        await this.compare(queryOf(client));
        client.release();
      } catch (error) {
        this.isConnected = false;
        client.release(true);
        throw error;
      }
    }
  }

  private async compare(query: Query): Promise<void> {
    await this.askClock(query);
    await this.takeNew(query);
    this.isConnected = true;
    await this.refreshSalts(query);
    await tellTroubles(query, this.parts.edgeId, this.toldTroubles());
    await answerQuestions(query, this.parts.edgeId, this.table, () => this.hostVersions());
  }

  private async askClock(query: Query): Promise<void> {
    const asked = performance.now();
    const [row] = await query<{ now: string }>('SELECT extract(epoch FROM clock_timestamp()) * 1000 AS now');
    const way = performance.now() - asked;
    if (!row || way >= LEAP) return;
    this.clockLeads = this.parts.followClock?.(Number(row.now) + way / 2) ?? 0;
    this.timeKnown();
  }

  private async takeNew(query: Query): Promise<void> {
    const { artifacts, clock } = this.parts;
    const stored = await readHostVersions(query);
    const differing = (of: (row: (typeof stored)[number]) => boolean) => stored.filter(of).map(({ id }) => id);
    const wanted = differing(({ id, version }) => this.versions.get(id)?.version !== version);
    const framed = differing(({ id, frame_version }) => this.versions.get(id)?.frameVersion !== frame_version);
    const removed = [...this.versions.keys()].filter((id) => !stored.some((row) => row.id === id));
    const since = later(clock(), -KEEP);
    const { hosts, frames } =
      wanted.length || framed.length || removed.length
        ? await transact(
            query,
            async () => {
              return {
                hosts: await readHostRoutes(query, wanted, since),
                frames: framed.length ? await this.framesOf(query, framed, since) : NO_FRAMES,
              };
            },
            'ISOLATION LEVEL REPEATABLE READ READ ONLY',
          )
        : { hosts: [], frames: NO_FRAMES };
    await artifacts.look(artifactsOf(hosts));
    this.take(hosts, removed, frames);
    if (artifacts.lacks.size) {
      artifacts.keepLacks(new Set(artifactsOf([...this.hosts.values()])));
      await artifacts.lookAgain();
    }
    this.retake();
    this.isLoaded = true;
    if (hosts.length || frames.hosts.length || removed.length || this.snapshotFailure)
      await this.writeSnapshot(hosts, removed, frames.hosts.length + removed.length > 0);
    await this.tellLacks(query);
    await this.acknowledge(
      query,
      [...hosts, ...frames.hosts].map(({ hostId }) => hostId),
    );
  }

  /** The frames on hosts, and what of it is not known here yet. */
  private async framesOf(query: Query, hostIds: readonly number[], since: Instant): Promise<TakenFrames> {
    const hosts = await readHostFrames(query, hostIds, since);
    const standing = new Set(hosts.flatMap(({ routes }) => routes.flatMap((route) => Object.values(route.lines))));
    const lines = await readFrameLines(query, [...standing], since);
    return { hosts, lines, texts: await readParts(query, this.frames.unknownOf(lines)) };
  }

  /** A disk that takes nothing holds up nothing: what visitors get is in memory. All is written again once it does. */
  private async writeSnapshot(
    hosts: readonly StoredHost[],
    removed: readonly number[],
    withFrames = false,
  ): Promise<void> {
    const isWhole = this.snapshotFailure !== null;
    const all = isWhole ? [...this.hosts.values()] : hosts;
    const frames = isWhole || withFrames ? this.frames.stored() : null;
    this.snapshotFailure = await this.snapshot.write(all, removed, this.salts, frames).then(
      () => null,
      (error: unknown) => (error instanceof Error ? error.message : String(error)),
    );
  }

  private hostVersions(): Record<string, number> {
    return Object.fromEntries([...this.versions.values()].map(({ name, version }) => [name, version]));
  }

  /** One synchronous step: no visitor sees half of a release. */
  private take(hosts: readonly StoredHost[], removed: readonly number[], frames: TakenFrames = NO_FRAMES): void {
    if (!hosts.length && !removed.length && !frames.hosts.length) return;
    const { lacks } = this.parts.artifacts;
    for (const artifact of artifactsOf(hosts)) if (!this.isLoaded || !lacks.has(artifact)) this.known.add(artifact);
    const compiled = hosts.map((host) => compileHost(this.withoutLacks(host)));
    const gone = removed.flatMap((id) => this.versions.get(id)?.name ?? []);
    this.frames.replace(frames, gone);
    for (const id of removed) {
      const old = this.versions.get(id);
      if (old) {
        this.table.removeHost(old.name);
        this.hosts.delete(old.name);
      }
      this.versions.delete(id);
    }
    this.table.replaceHosts(compiled);
    for (const host of hosts) {
      this.hosts.set(host.host, host);
      this.note(host.hostId, { name: host.host, version: host.version });
    }
    for (const { hostId, host, version } of frames.hosts) this.note(hostId, { name: host, frameVersion: version });
  }

  private note(hostId: number, known: { name: string; version?: number; frameVersion?: number }): void {
    this.versions.set(hostId, { version: -1, frameVersion: -1, ...this.versions.get(hostId), ...known });
  }

  /** Takes the hosts anew of which a page is lacking, or was. */
  private retake(): void {
    const { lacks } = this.parts.artifacts;
    if (!lacks.size && !this.held.size) return;
    const some = [...this.hosts.values()].filter(
      (host) => this.held.has(host.host) || host.routes.some((route) => isLacking(route, lacks)),
    );
    this.table.replaceHosts(some.map((host) => compileHost(this.withoutLacks(host))));
  }

  /**
   * A host whose lacking pages are shown as the newest of their versions that is whole. Where there is none, a page that
   * comes is held back and visitors keep what they had; one that was here can't be shown just now.
   */
  private withoutLacks(host: StoredHost): HostRoutes {
    const { lacks } = this.parts.artifacts;
    this.held.delete(host.host);
    if (!lacks.size || !host.routes.some((route) => isLacking(route, lacks))) return host;
    this.held.add(host.host);
    const before = this.hosts.get(host.host)?.routes ?? [];
    return {
      ...host,
      routes: host.routes.flatMap((route) => {
        if (!isLacking(route, lacks) || route.answer.kind !== 'page') return route;
        const { pageId } = route.answer;
        const [whole] = [...host.routes, ...before]
          .filter(({ answer }) => answer.kind === 'page' && answer.pageId === pageId)
          .filter((one) => !isLacking(one, lacks) && one.during.from <= route.during.from)
          .sort((a, b) => b.during.from - a.during.from);
        return whole?.answer.kind === 'page'
          ? { ...route, answer: { ...route.answer, artifact: whole.answer.artifact } }
          : this.known.has(route.answer.artifact ?? '')
            ? route
            : [];
      }),
    };
  }

  /** Says which pages are lacking here; whoever makes pages makes them anew. */
  private async tellLacks(query: Query): Promise<void> {
    const lacks = [...this.parts.artifacts.lacks].sort();
    const told = lacks.join();
    if (told === this.toldLacks) return;
    const { edgeId } = this.parts;
    await query('INSERT INTO edge (id, seen_at) VALUES ($1, now()) ON CONFLICT DO NOTHING', [edgeId]);
    await query('DELETE FROM edge_lack WHERE edge_id = $1 AND NOT artifact = ANY($2)', [edgeId, lacks]);
    await query(
      'INSERT INTO edge_lack (edge_id, artifact, noted_at) SELECT $1, unnest($2::text[]), now() ON CONFLICT DO NOTHING',
      [edgeId, lacks],
    );
    await query("SELECT pg_notify('domatium_jobs', '')");
    this.toldLacks = told;
  }

  /**
   * Says which versions are served here. The worker says when a release is out: when every living edge serves it.
   */
  private async acknowledge(query: Query, hostIds: readonly number[]): Promise<void> {
    const { edgeId } = this.parts;
    await query(
      'INSERT INTO edge (id, seen_at) VALUES ($1, now()) ON CONFLICT (id) DO UPDATE SET seen_at = excluded.seen_at',
      [edgeId],
    );
    const ids = [...new Set(hostIds)];
    if (!ids.length) return;
    const versions = ids.map((id) => this.versions.get(id));
    await query(
      'INSERT INTO edge_host (edge_id, host_id, version, frame_version) SELECT $1, * FROM unnest($2::bigint[], $3::bigint[], $4::bigint[]) ON CONFLICT (edge_id, host_id) DO UPDATE SET version = excluded.version, frame_version = excluded.frame_version',
      [edgeId, ids, versions.map((one) => one?.version ?? -1), versions.map((one) => one?.frameVersion ?? -1)],
    );
    await query("SELECT pg_notify('domatium_jobs', 'out')");
  }

  /** One salt a day, there a day ahead in every zone and destroyed when the day is over everywhere. */
  private async refreshSalts(query: Query): Promise<void> {
    const now = this.parts.clock();
    const days = [-1, 0, 1, 2].map((ahead) => dayOf(later(now, ahead * DAY), 'UTC'));
    if (days.every((day) => this.salts.has(day))) return;
    for (const day of days.slice(1))
      await query('INSERT INTO visit_salt (day, salt) VALUES ($1, $2) ON CONFLICT DO NOTHING', [
        day,
        randomBytes(24).toString('base64'),
      ]);
    await query('DELETE FROM visit_salt WHERE day < $1', [days[0]]);
    await query('DELETE FROM visitor_seen WHERE day < $1', [days[0]]);
    const rows = await query<{ day: string; salt: string }>('SELECT day, salt FROM visit_salt');
    this.setSalts(new Map(rows.map(({ day, salt }) => [day, salt])));
    for (const day of days) if (!this.salts.has(day)) this.salts.set(day, randomBytes(24).toString('base64'));
    await this.writeSnapshot([], []);
  }

  private setSalts(salts: Map<string, string>): void {
    this.salts = salts;
    this.parts.visits.setSalts(salts);
  }
}

const artifactOf = ({ answer }: Route) => (answer.kind === 'page' ? answer.artifact : null);
const isLacking = (route: Route, lacks: ReadonlySet<string>) => lacks.has(artifactOf(route) ?? '');

function artifactsOf(hosts: readonly HostRoutes[]): string[] {
  return hosts.flatMap(({ routes }) => routes.flatMap((route) => artifactOf(route) ?? []));
}
