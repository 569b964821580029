import { appendFile, mkdir, readdir, readFile, rename, unlink } from 'node:fs/promises';
import { join } from 'node:path';
import type { VisitLine } from '@domatium/core/traffic';
import type { Query } from './query.js';

/**
 * The visitors' spool: what an edge counted goes to an append-only file first and is shipped to the database in
 * batches. A file is shipped once: its name is written down in the same transaction as its figures.
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
        () => undefined,
      );
  }

  /** Ships every closed file; gives how many lines went. A file that can't be shipped stays. */
  async ship(inTransaction: <T>(work: (query: Query) => Promise<T>) => Promise<T>): Promise<number> {
    let shipped = 0;
    for (const name of await this.names('.ready')) {
      const path = join(this.folder, name);
      const lines = (await readFile(path, 'utf8')).split('\n').flatMap(parseLine);
      await inTransaction(async (query) => {
        const [first] = await query(
          'INSERT INTO shipped_spool (name) VALUES ($1) ON CONFLICT DO NOTHING RETURNING name',
          [name],
        );
        if (first) await countLines(query, lines);
      });
      await unlink(path);
      shipped += lines.length;
    }
    return shipped;
  }

  private async names(ending: string): Promise<string[]> {
    return (await readdir(this.folder).catch(() => [])).filter((name) => name.endsWith(ending)).sort();
  }
}

/** The last line of a killed edge may be cut short: it is left out. */
function parseLine(text: string): VisitLine[] {
  if (!text) return [];
  try {
    return [JSON.parse(text) as VisitLine];
  } catch {
    return [];
  }
}

async function countLines(query: Query, lines: readonly VisitLine[]): Promise<void> {
  for (const { day, portfolioId, host, path, outcome, pageId, isBot, count, visitors } of lines) {
    const seen = visitors.length
      ? await query(
          'INSERT INTO visitor_seen (day, page_id, visitor) SELECT $1, $2, unnest($3::text[]) ON CONFLICT DO NOTHING RETURNING 1',
          [day, pageId, visitors],
        )
      : [];
    await query(
      `INSERT INTO visit_day (portfolio_id, day, host, path, outcome, page_id, is_bot, answers, visits)
       SELECT $1, $2, $3, $4, $5, $6, $7, $8, $9 WHERE EXISTS (SELECT FROM portfolio WHERE id = $1)
       ON CONFLICT (portfolio_id, day, host, path, outcome, page_id, is_bot)
       DO UPDATE SET answers = visit_day.answers + excluded.answers, visits = visit_day.visits + excluded.visits`,
      [portfolioId, day, host, path, outcome, pageId, isBot, count, seen.length],
    );
  }
}
