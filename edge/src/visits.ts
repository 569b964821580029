import { createHash, randomBytes } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import { dayOf, type Instant } from '@domatium/core/time';
import { isBotAgent, OUTCOMES, type Outcome, type VisitLine } from '@domatium/core/traffic';
import { OTHER_PATHS, tally, type Spool, type StoredHost } from '@domatium/storage';
import proxyAddr from 'proxy-addr';

/** Who asked, kept for as long as a connection stays open; never written down. */
interface Visitor {
  readonly agent: string | undefined;
  /** What a proxy says of where it comes from; one connection of a proxy carries many visitors. */
  readonly forwarded: string | undefined;
  readonly network: string;
  readonly isBot: boolean;
}

interface Counted {
  readonly host: StoredHost;
  readonly path: string;
  readonly outcome: Outcome;
  readonly pageId: number | null;
  readonly visitors: Map<Visitor, number>;
  also: Counted | null;
}

/** Of addresses that don't exist, so many a host and batch are counted by themselves; the others as one. */
const MOST_NOT_FOUND = 100;
/** What could not be written to the spool waits in memory, up to so many lines; what is more is lost, and counted as lost. */
const MOST_KEPT = 50_000;

const answers = tally('domatium_edge_answers_total', 'Answers to visitors, by what they got.', 'outcome', OUTCOMES);

const SEEN = Symbol('visitor');
type Socket = IncomingMessage['socket'] & { [SEEN]?: Visitor };

/**
 * Counts answers in memory and writes them to the spool several times a second. Counting must cost next to nothing:
 * hashing and isbot's long expression run once a connection, not once a request.
 */
export class Visits {
  /** By host and path; an address that gave more than one thing in a batch goes on in `also`. */
  private batch = new Map<StoredHost, Map<string, Counted>>();
  private readonly salts = new Map<string, string>();
  /** How many addresses that don't exist a host's batch names already. */
  private readonly madeUp = new Map<StoredHost, number>();
  private unwritten: VisitLine[] = [];
  /** Answers that were not counted, because the disk took nothing for too long. */
  lost = 0;
  /** Why the spool could not be written last time. */
  failure: string | null = null;

  /** Whom a word on where a request comes from is taken from. */
  private readonly isTrusted: ((address: string, hop: number) => boolean) | null;

  /** `trustedProxies`: addresses and networks whose `X-Forwarded-For` is believed. */
  constructor(
    private readonly spool: Spool,
    trustedProxies: readonly string[] = [],
  ) {
    this.isTrusted = trustedProxies.length ? proxyAddr.compile([...trustedProxies]) : null;
  }

  /** Salts by day, as the database hands them out a day ahead; those not named are forgotten. */
  setSalts(salts: ReadonlyMap<string, string>): void {
    for (const day of this.salts.keys()) if (!salts.has(day)) this.salts.delete(day);
    for (const [day, salt] of salts) this.salts.set(day, salt);
  }

  note(host: StoredHost, asked: string, outcome: Outcome, pageId: number | null, request: IncomingMessage): void {
    answers[outcome] += 1;
    if (host.isOwn) return;
    const path = outcome === 'not-found' && pageId === null ? this.boundedPath(host, asked) : asked;
    let paths = this.batch.get(host);
    if (!paths) this.batch.set(host, (paths = new Map<string, Counted>()));
    let counted = paths.get(path);
    while (counted && (counted.outcome !== outcome || counted.pageId !== pageId) && counted.also)
      counted = counted.also;
    if (!counted || counted.outcome !== outcome || counted.pageId !== pageId) {
      const fresh: Counted = { host, path, outcome, pageId, visitors: new Map(), also: null };
      if (counted) counted.also = fresh;
      else paths.set(path, fresh);
      counted = fresh;
    }
    const visitor = this.visitorOf(request);
    counted.visitors.set(visitor, (counted.visitors.get(visitor) ?? 0) + 1);
  }

  private visitorOf(request: IncomingMessage): Visitor {
    const socket = request.socket as Socket;
    const agent = request.headers['user-agent'];
    const forwarded = this.isTrusted ? String(request.headers['x-forwarded-for'] ?? '') : undefined;
    const seen = socket[SEEN];
    if (seen && seen.agent === agent && seen.forwarded === forwarded) return seen;
    const network = this.isTrusted ? proxyAddr(request, this.isTrusted) : (socket.remoteAddress ?? '');
    return (socket[SEEN] = { agent, forwarded, network, isBot: isBotAgent(agent) });
  }

  private boundedPath(host: StoredHost, path: string): string {
    if (this.batch.get(host)?.has(path)) return path;
    const known = this.madeUp.get(host) ?? 0;
    if (known >= MOST_NOT_FOUND) return OTHER_PATHS;
    this.madeUp.set(host, known + 1);
    return path;
  }

  /** Writes what was counted; what the disk does not take is kept for the next time. */
  async flush(now: Instant): Promise<void> {
    const batch = this.batch;
    this.batch = new Map();
    this.madeUp.clear();
    const lines = [...batch.values()].flatMap((paths) =>
      [...paths.values()].flatMap((first) => chain(first).flatMap((counted) => this.linesOf(counted, now))),
    );
    const all = [...this.unwritten, ...lines];
    this.unwritten = [];
    try {
      await this.spool.append(all);
      this.failure = null;
    } catch (error) {
      this.failure = error instanceof Error ? error.message : String(error);
      this.unwritten = all.slice(-MOST_KEPT);
      this.lost += all.slice(0, -MOST_KEPT).reduce((sum, { count }) => sum + count, 0);
    }
  }

  private linesOf({ host, path, outcome, pageId, visitors }: Counted, now: Instant): VisitLine[] {
    const day = dayOf(now, host.zone);
    return [false, true].flatMap((isBot): VisitLine[] => {
      const some = [...visitors].filter(([visitor]) => visitor.isBot === isBot);
      if (!some.length) return [];
      const isVisit = !isBot && outcome === 'page' && pageId !== null;
      const hashes = isVisit ? [...new Set(some.map(([visitor]) => this.hashOf(visitor, day, pageId)))] : [];
      return [
        {
          day,
          portfolioId: host.portfolioId,
          host: host.host,
          path,
          outcome,
          pageId,
          isBot,
          count: some.reduce((sum, [, count]) => sum + count, 0),
          visitors: hashes,
        },
      ];
    });
  }

  /** Distinct a day and page, and of no use on any other: the salt is destroyed after, and the page is part of it. */
  private hashOf({ agent, network }: Visitor, day: string, pageId: number): string {
    let salt = this.salts.get(day);
    if (!salt) this.salts.set(day, (salt = randomBytes(16).toString('hex')));
    return createHash('sha256').update(`${salt} ${pageId} ${network} ${agent}`).digest('base64url').slice(0, 22);
  }
}

function chain(first: Counted): Counted[] {
  return first.also ? [first, ...chain(first.also)] : [first];
}
