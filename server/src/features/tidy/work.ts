import type { Instant } from '@domatium/core/time';
import { DAY, later } from '@domatium/core/time';
import type { BlobKind, BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import { BACKUP_LOCK, dateOf, rowsOf } from '../../platform/database/context.js';
import { thinStates } from '../drafts/index.js';
import { fileHref, filesAskedFor, type Publisher } from '../../heart/publishing/index.js';
import { regularWork, type Work } from '../../platform/work/index.js';

const HOUR = 3_600_000;
/** Bytes that belong to nothing are kept for a day: what was just written is written down a moment later. */
const GRACE = DAY;
/** Addresses that don't exist are counted for so long. */
const NOT_FOUND_DAYS = 90;
const HASHES_AT_A_TIME = 500;
/** Mail that was sent is kept for so long, to see what went out. */
const MAIL_DAYS = 30;
const SPOOL_DAYS = 90;
/** A text that another’s took the place of is among the states of its page; that it happened is told for so long. */
const OVERRIDDEN_DAYS = 90;

/** Takes away what nobody needs any more: bytes of what was deleted, halves of killed writes, old figures and failures. */
export const tidyWork = (publisher: Publisher): Work =>
  regularWork('tidy', HOUR, () =>
    publisher.database.transaction(async (trx) => {
      // What a backup counts on stays until it is through; the next round does it.
      const [lock] = await rowsOf<{ held: boolean }>(trx, 'SELECT pg_try_advisory_xact_lock(?, 0) AS held', [
        BACKUP_LOCK,
      ]);
      return lock?.held ? tidy(publisher, publisher.clock()) : 0;
    }),
  );

/** One round of it; gives how many files were removed. */
export async function tidy({ database, blobs, files }: Publisher, now: Instant): Promise<number> {
  await database('visit_day')
    .where({ outcome: 'not-found' })
    .whereNull('page_id')
    .where('day', '<', dateOf(later(now, -NOT_FOUND_DAYS * DAY)))
    .delete();
  await database('sign_in_failure')
    .where('last_at', '<', dateOf(later(now, -DAY)))
    .delete();
  await thinStates(database, now);
  await database('session').where('expires_at', '<', dateOf(now)).delete();
  const before = now - GRACE;
  let removed = await blobs.removeHalves(before);
  for (const [kind, usedOf] of KEPT)
    for await (const some of blobs.oldOnes(kind, before, HASHES_AT_A_TIME)) {
      const used = new Set(await usedOf(database, some));
      for (const hash of some.filter((one) => !used.has(one) && !files.shipped.has(one))) {
        await blobs.remove(kind, hash);
        removed++;
      }
    }
  // What was removed is made anew where it is wanted again.
  await database.raw(
    `DELETE FROM render k WHERE made_at < ? AND NOT EXISTS (SELECT FROM ${KEPT_ROUTES} AND r.artifact = k.artifact)`,
    [dateOf(before)],
  );
  await database.raw(
    `DELETE FROM frame_line l WHERE NOT EXISTS (SELECT FROM frame_place f WHERE l.id IN (f.icons, f.head, f.above, f.below, f.nav, f.codes, f.root))
     AND NOT EXISTS (SELECT FROM frame_stretch s WHERE s.line_id = l.id AND s.from_at >= ?)`,
    [dateOf(before)],
  );
  await database.raw(
    `DELETE FROM frame_before b USING release r JOIN portfolio o ON o.id = r.portfolio_id
     WHERE r.id = b.release_id AND r.out_at < now() - interval '1 day' * (o.keep_days + 1)`,
  );
  await database.raw(
    `DELETE FROM part WHERE made_at < ?
     AND hash NOT IN (SELECT unnest(parts) FROM frame_stretch UNION SELECT unnest(parts) FROM frame_before)`,
    [dateOf(before)],
  );
  // A file of the spool is named by when it was begun; one that was shipped is gone long before its mark.
  await database.raw("DELETE FROM shipped_spool WHERE substring(name FROM '-(\\d{13})\\.')::bigint < ?", [
    later(now, -SPOOL_DAYS * DAY),
  ]);
  await database('overridden')
    .where('at', '<', dateOf(later(now, -OVERRIDDEN_DAYS * DAY)))
    .delete();
  await database('end_told')
    .where('until_at', '<', dateOf(later(now, -DAY)))
    .delete();
  await database('mail')
    .where('sent_at', '<', dateOf(later(now, -MAIL_DAYS * DAY)))
    .delete();
  removed += await closeUnused(database, blobs, before);
  return removed + (await removeDropped(database, blobs, before));
}

/**
 * Closes files to visitors that no page asks for any more: none they get, will get, or got within the keeping period.
 * Gives how many.
 */
async function closeUnused(database: Knex, blobs: BlobStore, before: number): Promise<number> {
  const pages = await rowsOf<{ portfolio_id: number; artifact: string; files: string[] | null }>(
    database,
    `WITH kept AS (SELECT DISTINCT r.portfolio_id, r.artifact FROM ${KEPT_ROUTES} AND r.artifact IS NOT NULL)
     SELECT kept.*, k.files FROM kept LEFT JOIN render k USING (artifact)`,
  );
  const fresh = await rowsOf<{ files: string[] }>(
    database,
    'SELECT files FROM render WHERE made_at >= ? AND files IS NOT NULL',
    [dateOf(before)],
  );
  const rendered = new Set(fresh.flatMap(({ files }) => files));
  const used = new Map<number, Set<string>>();
  for (const { portfolio_id, artifact, files } of pages) {
    const own = used.get(portfolio_id) ?? new Set<string>();
    used.set(portfolio_id, own);
    for (const href of files ?? (await noteFiles(database, blobs, artifact))) own.add(href);
  }
  for (const { portfolio_id, files } of await rowsOf<{ portfolio_id: number; files: string[] }>(
    database,
    `WITH kept AS (SELECT l.portfolio_id, f.parts FROM ${KEPT_FRAMES}
      UNION SELECT r.portfolio_id, b.parts FROM frame_before b JOIN release r ON r.id = b.release_id)
     SELECT DISTINCT kept.portfolio_id, p.files FROM kept JOIN part p ON p.hash = ANY(kept.parts)`,
  )) {
    const own = used.get(portfolio_id) ?? new Set<string>();
    used.set(portfolio_id, own);
    for (const href of files) own.add(href);
  }
  let closed = 0;
  for await (const { portfolioId, hash, ending } of blobs.opened(before))
    if (!used.get(portfolioId)?.has(fileHref(hash, ending)) && !rendered.has(fileHref(hash, ending))) {
      await blobs.closeTo(portfolioId, hash, ending);
      closed++;
    }
  return closed;
}

/**
 * Routes whose pages visitors get, will get, or got within the portfolio's keeping period; of pages that were deleted for
 * ever nothing is left, a day after.
 */
const KEPT_ROUTES = `route r JOIN portfolio o ON o.id = r.portfolio_id LEFT JOIN page p ON p.id = r.page_id
  WHERE (p.deleted_at IS NULL OR p.deleted_at > now() - interval '1 day')
  AND (o.keep_days IS NULL OR r.until_at IS NULL OR r.until_at > now() - interval '1 day' * (o.keep_days + 1))`;

/** Frames that visitors get, will get, or got within the keeping period. */
const KEPT_FRAMES = `frame_line l JOIN frame_stretch f ON f.line_id = l.id JOIN portfolio o ON o.id = l.portfolio_id
  AND (o.keep_days IS NULL OR f.until_at IS NULL OR f.until_at > now() - interval '1 day' * (o.keep_days + 1))`;

type Uses = (database: Knex, hashes: readonly string[]) => Promise<string[]>;

const hashesOf =
  (sql: string): Uses =>
  async (database, hashes) =>
    (await rowsOf<{ hash: string }>(database, sql, [hashes])).map(({ hash }) => hash);

/** Bytes that only rows of these tables lead to, and which of some they still lead to. */
const KEPT: readonly (readonly [BlobKind, Uses])[] = [
  [
    'pages',
    hashesOf(
      `WITH asked AS (SELECT unnest(?::text[]) AS hash) SELECT hash FROM asked WHERE EXISTS (
        SELECT FROM ${KEPT_ROUTES} AND r.artifact = asked.hash)`,
    ),
  ],
  [
    // Those that visitors may have have a second name, and are not among those that are asked about.
    'files',
    hashesOf(
      `WITH asked AS (SELECT unnest(?::text[]) AS hash) SELECT hash FROM asked
       WHERE EXISTS (SELECT FROM dropped_blob d WHERE d.hash = asked.hash)
       OR EXISTS (SELECT FROM stored_file f WHERE f.hash = asked.hash OR f.former ->> 'hash' = asked.hash)
       OR hash IN (SELECT v ->> k FROM picture p, jsonb_array_elements(p.variants) v, unnest(ARRAY['hash', 'avif']) k)`,
    ),
  ],
  [
    'originals',
    hashesOf(
      `WITH asked AS (SELECT unnest(?::text[]) AS hash) SELECT hash FROM asked WHERE EXISTS (SELECT FROM picture p WHERE p.original = asked.hash OR p.former ->> 'hash' = asked.hash)`,
    ),
  ],
  [
    'thumbnails',
    hashesOf(
      'WITH asked AS (SELECT unnest(?::text[]) AS hash) SELECT hash FROM asked WHERE EXISTS (SELECT FROM thumbnail t WHERE t.file = asked.hash)',
    ),
  ],
];

/** Finds what a page asks for that was rendered before that was noted, and notes it. */
async function noteFiles(database: Knex, blobs: BlobStore, artifact: string): Promise<string[]> {
  const files = await filesAskedFor(blobs, artifact);
  await database.raw('UPDATE render SET files = ? WHERE artifact = ? AND files IS NULL', [files, artifact]);
  return files;
}

/** Removes the bytes of files that were deleted or replaced. What kept pages ask for stays open under a name of its own. */
async function removeDropped(database: Knex, blobs: BlobStore, before: number): Promise<number> {
  const dropped = await rowsOf<{ hash: string; is_used: boolean }>(
    database,
    `DELETE FROM dropped_blob d WHERE at < ? RETURNING hash,
       EXISTS (SELECT FROM stored_file f WHERE f.hash = d.hash OR f.former ->> 'hash' = d.hash)
       OR EXISTS (SELECT FROM picture p, jsonb_array_elements(p.variants) v WHERE v ->> 'hash' = d.hash OR v ->> 'avif' = d.hash) AS is_used`,
    [dateOf(before)],
  );
  const unused = dropped.filter(({ is_used }) => !is_used);
  for (const { hash } of unused) await blobs.remove('files', hash);
  return unused.length;
}
