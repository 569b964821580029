import { randomBytes } from 'node:crypto';
import type { AddressStyle } from '@domatium/core/address';
import { compileHost, RouteTable } from '@domatium/core/routing';
import { DAY, dayOf, later, type Instant } from '@domatium/core/time';
import {
  answerQuestions,
  queryOf,
  readHostRoutes,
  readHostVersions,
  TYPES,
  type Query,
  type Spool,
  type StoredHost,
} from '@domatium/storage';
import pg from 'pg';
import type { Artifacts } from './artifacts.js';
import { Snapshot } from './snapshot.js';
import type { Visits } from './visits.js';

/** A lost notice is harmless: versions are compared this often anyway. */
const COMPARE = 3_000;
const RECONNECT = 1_000;
/** Ended routes are kept this long, in case the clock is set back. */
const KEEP = 3_600_000;

export interface FollowerParts {
  readonly url: string;
  readonly edgeId: string;
  readonly folder: string;
  readonly style: AddressStyle;
  readonly artifacts: Artifacts;
  readonly visits: Visits;
  readonly spool: Spool;
  readonly clock: () => Instant;
}

/** Keeps an edge's tables true to the database while there is one, and goes on without it. */
export class Follower {
  readonly table: RouteTable;
  /** What figures need of a host, by its name. */
  readonly hosts = new Map<string, StoredHost>();
  isLoaded = false;
  private readonly versions = new Map<number, { name: string; version: number }>();
  private salts = new Map<string, string>();
  private readonly snapshot: Snapshot;
  private client: pg.Client | null = null;
  private isStopped = false;
  private syncing: Promise<void> | null = null;
  private again = false;
  private readonly timer = setInterval(() => void this.sync(), COMPARE);

  constructor(private readonly parts: FollowerParts) {
    this.table = new RouteTable(parts.style);
    this.snapshot = new Snapshot(parts.folder);
  }

  /** Loads the snapshot first, so that visitors are answered before the database is there. */
  async start(): Promise<void> {
    const kept = await this.snapshot.read();
    if (kept) {
      this.take(kept.hosts, []);
      this.setSalts(kept.salts);
      this.isLoaded = true;
    }
    void this.connect();
  }

  async stop(): Promise<void> {
    this.isStopped = true;
    clearInterval(this.timer);
    await this.syncing?.catch(() => undefined);
    await this.client?.end().catch(() => undefined);
  }

  private async connect(): Promise<void> {
    if (this.isStopped) return;
    const client = new pg.Client({
      connectionString: this.parts.url,
      types: TYPES,
      application_name: 'domatium edge',
      connectionTimeoutMillis: 3000,
    });
    const again = () => {
      if (this.client === client) this.client = null;
      if (!this.isStopped) setTimeout(() => void this.connect(), RECONNECT).unref();
    };
    client.on('error', () => undefined);
    client.on('notification', () => void this.sync());
    try {
      await client.connect();
      client.once('end', again);
      await client.query('LISTEN domatium_routes');
      this.client = client;
      await this.sync();
    } catch {
      if (this.client !== client) again();
    }
  }

  /** Compares versions and takes what is new; a call while it runs makes it look once more. */
  sync(): Promise<void> {
    this.again = true;
    this.syncing ??= this.run()
      .catch(() => undefined)
      .finally(() => (this.syncing = null));
    return this.syncing;
  }

  private async run(): Promise<void> {
    while (this.again && this.client && !this.isStopped) {
      this.again = false;
      const query = queryOf(this.client);
      await this.takeNew(query);
      await this.refreshSalts(query);
      await this.parts.spool.close();
      await this.parts.spool.ship((work) => this.inTransaction(query, () => work(query)));
      await answerQuestions(query, this.parts.edgeId, this.table, () => this.hostVersions());
    }
  }

  private async takeNew(query: Query): Promise<void> {
    const now = this.parts.clock();
    const stored = await readHostVersions(query);
    const wanted = stored.filter(({ id, version }) => this.versions.get(id)?.version !== version).map(({ id }) => id);
    const removed = [...this.versions.keys()].filter((id) => !stored.some((row) => row.id === id));
    if (wanted.length || removed.length) {
      const hosts = await this.inTransaction(
        query,
        () => readHostRoutes(query, wanted, later(now, -KEEP)),
        'ISOLATION LEVEL REPEATABLE READ READ ONLY',
      );
      const artifacts = hosts.flatMap(({ routes }) =>
        routes.flatMap(({ answer }) => (answer.kind === 'page' && answer.artifact !== null ? [answer.artifact] : [])),
      );
      // Nothing of it is taken before all of it can be served; the next comparison tries again.
      if (!(await this.parts.artifacts.haveAll(artifacts))) return;
      this.take(hosts, removed);
      await this.snapshot.write(hosts, removed, this.salts);
      await this.acknowledge(query, hosts);
    } else await this.acknowledge(query, []);
    this.isLoaded = true;
  }

  private hostVersions(): Record<string, number> {
    return Object.fromEntries([...this.versions.values()].map(({ name, version }) => [name, version]));
  }

  /** One synchronous step: no visitor sees half of a release. */
  private take(hosts: readonly StoredHost[], removed: readonly number[]): void {
    const compiled = hosts.map(compileHost);
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
      this.versions.set(host.hostId, { name: host.host, version: host.version });
    }
  }

  /** Says which versions are served here; a release that is served by every living edge is out. */
  private async acknowledge(query: Query, hosts: readonly StoredHost[]): Promise<void> {
    const now = new Date(this.parts.clock());
    const { edgeId } = this.parts;
    await query(
      'INSERT INTO edge (id, seen_at) VALUES ($1, $2) ON CONFLICT (id) DO UPDATE SET seen_at = excluded.seen_at',
      [edgeId, now],
    );
    if (hosts.length)
      await query(
        'INSERT INTO edge_host (edge_id, host_id, version) SELECT $1, * FROM unnest($2::bigint[], $3::bigint[]) ON CONFLICT (edge_id, host_id) DO UPDATE SET version = excluded.version',
        [edgeId, hosts.map(({ hostId }) => hostId), hosts.map(({ version }) => version)],
      );
    await query(
      `WITH done AS (
         UPDATE release r SET out_at = $1 WHERE out_at IS NULL AND published_at IS NOT NULL AND NOT EXISTS (
           SELECT FROM release_host rh JOIN edge e ON e.seen_at > $1::timestamptz - interval '30 seconds'
           LEFT JOIN edge_host eh ON eh.edge_id = e.id AND eh.host_id = rh.host_id
           WHERE rh.release_id = r.id AND coalesce(eh.version, 0) < rh.version) RETURNING id, portfolio_id)
       SELECT pg_notify('domatium_events', json_build_object('portfolioId', portfolio_id, 'kind', 'out', 'releaseId', id)::text) FROM done`,
      [now],
    );
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
    await this.snapshot.write([], [], this.salts);
  }

  private setSalts(salts: Map<string, string>): void {
    this.salts = salts;
    this.parts.visits.setSalts(salts);
  }

  private async inTransaction<T>(query: Query, work: () => Promise<T>, mode = ''): Promise<T> {
    await query(`BEGIN ${mode}`);
    try {
      const result = await work();
      await query('COMMIT');
      return result;
    } catch (error) {
      await query('ROLLBACK').catch(() => undefined);
      throw error;
    }
  }
}
