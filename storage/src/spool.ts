import { appendFile, mkdir, readdir, readFile, rename, stat, unlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { groupBy } from '@domatium/core/plan';
import { OUTCOMES, type VisitLine } from '@domatium/core/traffic';
import PQueue from 'p-queue';
import { absent } from './log.js';
import type { Query } from './query.js';

/** Of addresses that don't exist, so many a host and day are counted by themselves: those most asked for. */
export const MOST_NOT_FOUND = 300;
/** Where all others that don't exist are counted; no path begins so. */
export const OTHER_PATHS = '*';
const LONGEST_PATH = 1_024;
/** The kind of the lock under which a host's addresses that don't exist are ranked; any number of its own. */
const MADE_UP_LOCK = 4605;
/** Lines that are counted in one transaction. */
const BATCH = 2_000;

/**
 * The visitors' spool: what an edge counted goes to an append-only file first and is shipped to the database in
 * batches. A file is shipped once: its name is written down in the same transaction as its figures. Lines that can't be
 * read are set aside in a file that ends in `.unread`, and the others go on.
 */
export class Spool {
  private sequence = Date.now();
  private current: string | null = null;
  /** A file is closed between two writes and never within one: what came after its closing would be read by nobody. */
  private readonly turns = new PQueue({ concurrency: 1 });

  constructor(
    private readonly folder: string,
    private readonly edgeId: string,
  ) {}

  async append(lines: readonly VisitLine[]): Promise<void> {
    if (!lines.length) return;
    await this.turns.add(async () => {
      await mkdir(this.folder, { recursive: true });
      this.current ??= `${this.edgeId}-${++this.sequence}.open`;
      await appendFile(join(this.folder, this.current), lines.map((line) => JSON.stringify(line) + '\n').join(''));
    });
  }

  /** Closes the file that is written to. Files left open by an edge that was killed are closed too at its next start. */
  close(all = false): Promise<void> {
    return this.turns.add(() => this.closeNow(all));
  }

  private async closeNow(all: boolean): Promise<void> {
    const open = all
      ? (await this.names('.open')).filter((name) => name.startsWith(`${this.edgeId}-`))
      : this.current
        ? [this.current]
        : [];
    this.current = null;
    for (const name of open)
      await rename(join(this.folder, name), join(this.folder, name.replace(/\.open$/, '.ready'))).catch(
        absent('closing the spool', undefined),
      );
  }

  /** How many bytes wait to be shipped or are being written. */
  async bytes(): Promise<number> {
    const names = [...(await this.names('.ready')), ...(await this.names('.open'))];
    const sizes = await Promise.all(
      names.map((name) => stat(join(this.folder, name)).then(({ size }) => size, absent('size of the spool', 0))),
    );
    return sizes.reduce((sum, size) => sum + size, 0);
  }

  /** Whether anything waits to be shipped. */
  async hasReady(): Promise<boolean> {
    return (await this.names('.ready')).length > 0;
  }

  /** Files of lines that could not be read: they stay until somebody looked at them and took them away. */
  unread(): Promise<string[]> {
    return this.names('.unread');
  }

  /** Ships every closed file; gives how many lines. A file that can't be shipped stays. */
  async ship(inTransaction: <T>(work: (query: Query) => Promise<T>) => Promise<T>): Promise<number> {
    let shipped = 0;
    for (const name of await this.names('.ready')) {
      const path = join(this.folder, name);
      const texts = (await readFile(path, 'utf8')).split('\n');
      // The last line of a killed edge may be cut short: it was never whole, so it is left out.
      const whole = texts.slice(0, -1).filter((text) => text !== '');
      const parsed = whole.map(parseLine);
      const unread = whole.filter((_, index) => parsed[index] === null);
      if (unread.length)
        await writeFile(join(this.folder, name.replace(/\.ready$/, '.unread')), unread.join('\n') + '\n');
      const lines = parsed.flatMap((line) => line ?? []);
      for (let first = 0, part = 0; first < Math.max(1, lines.length); first += BATCH, part++)
        await inTransaction(async (query) => {
          const [fresh] = await query(
            'INSERT INTO shipped_spool (name) VALUES ($1) ON CONFLICT DO NOTHING RETURNING name',
            [part ? `${name} ${part}` : name],
          );
          if (fresh) await countLines(query, lines.slice(first, first + BATCH));
        });
      await unlink(path);
      shipped += lines.length;
    }
    return shipped;
  }

  private async names(ending: string): Promise<string[]> {
    return (await readdir(this.folder).catch(absent<string[]>('spool', [])))
      .filter((name) => name.endsWith(ending))
      .sort();
  }
}

/** A line of the spool, or `null` where it is not one. */
function parseLine(text: string): VisitLine | null {
  try {
    const line = JSON.parse(text) as VisitLine;
    const isCount = (value: unknown) => Number.isSafeInteger(value) && (value as number) >= 0;
    const isWhole =
      /^\d{4}-\d\d-\d\d$/.test(line.day) &&
      isCount(line.portfolioId) &&
      typeof line.host === 'string' &&
      typeof line.path === 'string' &&
      OUTCOMES.includes(line.outcome) &&
      (line.pageId === null || isCount(line.pageId)) &&
      typeof line.isBot === 'boolean' &&
      isCount(line.count) &&
      Array.isArray(line.visitors) &&
      line.visitors.every((visitor) => typeof visitor === 'string' && visitor.length <= 100);
    return isWhole ? line : null;
  } catch {
    return null;
  }
}

interface DayCount extends Omit<VisitLine, 'visitors'> {
  visits: number;
}

async function countLines(query: Query, lines: readonly VisitLine[]): Promise<void> {
  const seen = await newVisitors(query, lines);
  const sums = new Map<string, DayCount>();
  for (const { visitors, ...line } of lines) {
    const path = Buffer.byteLength(line.path) > LONGEST_PATH ? OTHER_PATHS : line.path;
    const key = JSON.stringify([line.portfolioId, line.day, line.host, path, line.outcome, line.pageId, line.isBot]);
    const visits = visitors.filter((visitor) => seen.delete(`${line.day} ${line.pageId} ${visitor}`)).length;
    const known = sums.get(key);
    sums.set(key, {
      ...line,
      path,
      count: line.count + (known?.count ?? 0),
      visits: visits + (known?.visits ?? 0),
    });
  }
  const rows = [...sums.values()];
  const madeUp = groupBy(
    rows.filter(isMadeUp).sort((a, b) => (placeOf(a) < placeOf(b) ? -1 : 1)),
    placeOf,
  );
  const kept: DayCount[] = [];
  // In the order of their places, so that two edges wait for each other and never in a circle.
  for (const some of madeUp.values()) kept.push(...(await mostAskedFor(query, some)));
  await addCounts(query, [...rows.filter((row) => !isMadeUp(row)), ...kept]);
}

const isMadeUp = ({ outcome, pageId }: DayCount) => outcome === 'not-found' && pageId === null;
const placeOf = ({ portfolioId, day, host }: DayCount) => `${portfolioId} ${day} ${host}`;

/** Visitors of a day and page that were not seen before, by day, page and hash. */
async function newVisitors(query: Query, lines: readonly VisitLine[]): Promise<Set<string>> {
  const all = lines.flatMap(({ day, pageId, visitors }) =>
    pageId === null ? [] : visitors.map((visitor) => ({ day, page_id: pageId, visitor })),
  );
  if (!all.length) return new Set();
  const rows = await query<{ day: string; page_id: number; visitor: string }>(
    `INSERT INTO visitor_seen (day, page_id, visitor)
     SELECT day, page_id, visitor FROM json_populate_recordset(NULL::visitor_seen, $1) ON CONFLICT DO NOTHING RETURNING day, page_id, visitor`,
    [JSON.stringify(all)],
  );
  return new Set(rows.map(({ day, page_id, visitor }) => `${day} ${page_id} ${visitor}`));
}

async function addCounts(query: Query, rows: readonly DayCount[]): Promise<void> {
  await query(
    `INSERT INTO visit_day (portfolio_id, day, host, path, outcome, page_id, is_bot, answers, visits)
     SELECT r.portfolio_id, day, host, path, outcome, page_id, is_bot, answers, visits
     FROM json_populate_recordset(NULL::visit_day, $1) r JOIN portfolio p ON p.id = r.portfolio_id
     ON CONFLICT (portfolio_id, day, host, path, outcome, page_id, is_bot)
     DO UPDATE SET answers = visit_day.answers + excluded.answers, visits = visit_day.visits + excluded.visits`,
    [
      JSON.stringify(
        rows.map(({ portfolioId, day, host, path, outcome, pageId, isBot, count, visits }) => ({
          ...{ portfolio_id: portfolioId, day, host, path, outcome, page_id: pageId, is_bot: isBot },
          ...{ answers: count, visits },
        })),
      ),
    ],
  );
}

/**
 * Of addresses that don't exist, those most asked for a host and day are counted by themselves and all others in one
 * row, as lossy counting does: an address that comes back often enough stays, whatever flood passes by. What is rare
 * is gathered before it is written, so that a flood leaves no dead rows. Gives what to add; takes rows away that are
 * rare by now.
 */
async function mostAskedFor(query: Query, fresh: readonly DayCount[]): Promise<readonly DayCount[]> {
  const [first] = fresh;
  if (!first) return [];
  await query('SELECT pg_advisory_xact_lock(hashtextextended($1, $2))', [placeOf(first), MADE_UP_LOCK]);
  const stored = await query<{ path: string; is_bot: boolean; answers: string }>(
    `SELECT path, is_bot, answers FROM visit_day
     WHERE portfolio_id = $1 AND day = $2 AND host = $3 AND outcome = 'not-found' AND page_id IS NULL AND path <> $4`,
    [first.portfolioId, first.day, first.host, OTHER_PATHS],
  );
  const keyOf = (path: string, isBot: boolean) => `${isBot ? 1 : 0} ${path}`;
  const known = new Map(stored.map((row) => [keyOf(row.path, row.is_bot), Number(row.answers)]));
  const added = new Map(fresh.map((row) => [keyOf(row.path, row.isBot), row]));
  const ranked = [...new Set([...known.keys(), ...added.keys()])]
    .filter((key) => added.get(key)?.path !== OTHER_PATHS)
    .map((key) => ({ key, answers: (known.get(key) ?? 0) + (added.get(key)?.count ?? 0) }))
    // Of two alike, the one that has its row keeps it.
    .sort((a, b) => b.answers - a.answers || Number(known.has(b.key)) - Number(known.has(a.key)));
  const rare = new Set(ranked.slice(MOST_NOT_FOUND).map(({ key }) => key));
  const gone = stored.filter((row) => rare.has(keyOf(row.path, row.is_bot)));
  const others = new Map<boolean, number>();
  const gather = (isBot: boolean, answers: number) => others.set(isBot, (others.get(isBot) ?? 0) + answers);
  for (const { path, isBot, count } of fresh)
    if (path === OTHER_PATHS || rare.has(keyOf(path, isBot))) gather(isBot, count);
  for (const { is_bot, answers } of gone) gather(is_bot, Number(answers));
  if (gone.length)
    await query(
      `DELETE FROM visit_day v USING json_to_recordset($4) AS r(path text, is_bot boolean)
       WHERE v.portfolio_id = $1 AND v.day = $2 AND v.host = $3 AND v.outcome = 'not-found' AND v.page_id IS NULL
         AND v.path = r.path AND v.is_bot = r.is_bot`,
      [first.portfolioId, first.day, first.host, JSON.stringify(gone)],
    );
  return [
    ...fresh.filter(({ path, isBot }) => path !== OTHER_PATHS && !rare.has(keyOf(path, isBot))),
    ...[...others].map(([isBot, count]) => ({ ...first, path: OTHER_PATHS, isBot, count })),
  ];
}
