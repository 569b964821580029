import { SLOTS } from '@domatium/core/frame';
import type { Instant } from '@domatium/core/time';
import { sha256 } from '@domatium/storage';
import type { StoredPage } from '../../heart/publishing/index.js';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

/** Tried so often: a page that can't be drawn must not be tried for ever. */
const MOST_FAILURES = 3;

export interface Thumbnail {
  readonly file: string | null;
  readonly failures: number;
  /** What it is a picture of. */
  readonly page: StoredPage;
}

/** A picture is kept by all that is on it: the page and the parts of its frame. */
export const keyOf = ({ artifact, pageId, parts }: StoredPage): string =>
  parts
    ? sha256(JSON.stringify([artifact, pageId, SLOTS.map((slot) => parts[slot]), ...(parts.nav ? [parts.nav] : [])]))
    : artifact;

export async function thumbnailOf(db: Db, key: string): Promise<Thumbnail | null> {
  const [row] = await rowsOf<Omit<Thumbnail, 'page'> & StoredPage>(
    db,
    'SELECT file, failures, coalesce(page, artifact) AS artifact, coalesce(page_id, 0) AS "pageId", parts FROM thumbnail WHERE artifact = ?',
    [key],
  );
  return row
    ? { file: row.file, failures: row.failures, page: { artifact: row.artifact, pageId: row.pageId, parts: row.parts } }
    : null;
}

/** Wants a picture, as the newest wish; wishes beyond `most` are forgotten, the oldest first. */
export async function want(db: Db, page: StoredPage, now: Instant, most: number): Promise<void> {
  await db.raw(
    'INSERT INTO thumbnail (artifact, page, page_id, parts, wanted_at) VALUES (?, ?, ?, ?, ?) ON CONFLICT (artifact) DO UPDATE SET wanted_at = excluded.wanted_at',
    [keyOf(page), page.artifact, page.pageId, page.parts && JSON.stringify(page.parts), dateOf(now)],
  );
  await db.raw(
    `DELETE FROM thumbnail WHERE artifact IN (
      SELECT artifact FROM thumbnail WHERE file IS NULL AND failures = 0 ORDER BY wanted_at DESC OFFSET ?)`,
    [most],
  );
}

/** The newest wish that can still be met. */
export async function nextWanted(db: Db): Promise<string | null> {
  const [row] = await rowsOf<{ artifact: string }>(
    db,
    'SELECT artifact FROM thumbnail WHERE file IS NULL AND failures < ? ORDER BY wanted_at DESC LIMIT 1',
    [MOST_FAILURES],
  );
  return row?.artifact ?? null;
}

export const hasFailed = ({ failures }: Thumbnail) => failures >= MOST_FAILURES;

export async function noteMade(db: Db, artifact: string, file: string): Promise<void> {
  await db('thumbnail').where({ artifact }).update({ file });
}

export async function noteFailed(db: Db, artifact: string): Promise<void> {
  await db('thumbnail').where({ artifact }).increment('failures', 1);
}

/** Forgets made pictures beyond `most`, those longest not looked at first; gives the files nobody needs any more. */
export async function forgetOldest(db: Db, most: number): Promise<string[]> {
  const gone = await rowsOf<{ file: string }>(
    db,
    `DELETE FROM thumbnail WHERE artifact IN (
      SELECT artifact FROM thumbnail WHERE file IS NOT NULL ORDER BY wanted_at DESC OFFSET ?) RETURNING file`,
    [most],
  );
  const files = gone.map(({ file }) => file);
  const used = await rowsOf<{ file: string }>(db, 'SELECT file FROM thumbnail WHERE file = ANY(?)', [files]);
  const kept = new Set(used.map(({ file }) => file));
  return files.filter((file) => !kept.has(file));
}
