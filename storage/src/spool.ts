import { appendFile, mkdir, readdir, readFile, rename, stat, unlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Outcome, VisitLine } from '@domatium/core/traffic';
import { absent } from './log.js';
import type { Query } from './query.js';

const OUTCOMES: readonly Outcome[] = ['page', 'redirect', 'gone', 'not-found'];
/** Of addresses that don't exist, so many a host and day are counted by themselves: those most asked for. */
export const MOST_NOT_FOUND = 300;
/** Where all others that don't exist are counted; no path begins so. */
export const OTHER_PATHS = '*';
const LONGEST_PATH = 1_024;
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

  constructor(
    private readonly folder: string,
    private readonly edgeId: string,
  ) {}

  async append(lines: readonly VisitLine[]): Promise<void> {
    if (!lines.length) return;
    await mkdir(this.folder, { recursive: true });
    this.current ??= `${this.edgeId}-${++this.sequence}.open`;
    await appendFile(join(this.folder, this.current), lines.map((line) => JSON.stringify(line) + '\n').join(''));
  }

  /** Closes the file that is written to. Files left open by an edge that was killed are closed too at its next start. */
  async close(all = false): Promise<void> {
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
  await addCounts(query, rows);
  const touched = new Map(
    rows
      .filter(isMadeUp)
      .map(({ portfolioId, day, host }) => [`${portfolioId} ${day} ${host}`, { portfolioId, day, host }]),
  );
  for (const one of touched.values()) await gatherRarest(query, one);
}

const isMadeUp = ({ outcome, pageId }: DayCount) => outcome === 'not-found' && pageId === null;

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
 * Of addresses that don't exist, keeps those most asked for a host and day and gathers the others in one row, as lossy
 * counting does: an address that comes back often enough stays, whatever flood passes by.
 */
async function gatherRarest(
  query: Query,
  { portfolioId, day, host }: { readonly portfolioId: number; readonly day: string; readonly host: string },
): Promise<void> {
  await query(
    `WITH rare AS (
       DELETE FROM visit_day WHERE ctid = ANY(ARRAY(
         SELECT ctid FROM visit_day WHERE portfolio_id = $1 AND day = $2 AND host = $3 AND outcome = 'not-found' AND page_id IS NULL AND path <> $4
         ORDER BY answers DESC, path OFFSET $5)) RETURNING is_bot, answers)
     INSERT INTO visit_day (portfolio_id, day, host, path, outcome, page_id, is_bot, answers, visits)
     SELECT $1, $2, $3, $4, 'not-found', NULL, is_bot, sum(answers), 0 FROM rare GROUP BY is_bot
     ON CONFLICT (portfolio_id, day, host, path, outcome, page_id, is_bot) DO UPDATE SET answers = visit_day.answers + excluded.answers`,
    [portfolioId, day, host, OTHER_PATHS, MOST_NOT_FOUND],
  );
}
