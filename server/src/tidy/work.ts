import type { Instant } from '@domatium/core/time';
import { DAY, later } from '@domatium/core/time';
import type { BlobKind, BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import { BACKUP_LOCK, dateOf, rowsOf } from '../database/context.js';
import { thinStates } from '../drafts/index.js';
import { regularWork, type Work } from '../work/index.js';

const HOUR = 3_600_000;
/** Bytes that belong to nothing are kept for a day: what was just written is written down a moment later. */
const GRACE = DAY;
/** Addresses that don't exist are counted for so long. */
const NOT_FOUND_DAYS = 90;
const HASHES_AT_A_TIME = 500;
/** Mail that was sent is kept for so long, to see what went out. */
const MAIL_DAYS = 30;
const SPOOL_DAYS = 90;

/** Takes away what nobody needs any more: bytes of what was deleted, halves of killed writes, old figures and failures. */
export const tidyWork = (database: Knex, blobs: BlobStore, clock: () => Instant): Work =>
  regularWork('tidy', HOUR, () =>
    database.transaction(async (trx) => {
      // What a backup counts on stays until it is through; the next round does it.
      const [lock] = await rowsOf<{ held: boolean }>(trx, 'SELECT pg_try_advisory_xact_lock(?, 0) AS held', [
        BACKUP_LOCK,
      ]);
      return lock?.held ? tidy(database, blobs, clock()) : 0;
    }),
  );

/** One round of it; gives how many files were removed. */
export async function tidy(database: Knex, blobs: BlobStore, now: Instant): Promise<number> {
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
      for (const hash of some.filter((one) => !used.has(one))) {
        await blobs.remove(kind, hash);
        removed++;
      }
    }
  // What was removed is made anew where it is wanted again.
  await database.raw('DELETE FROM render k WHERE NOT EXISTS (SELECT FROM route r WHERE r.artifact = k.artifact)');
  await database.raw(
    `DELETE FROM render k USING route r JOIN page p ON p.id = r.page_id AND p.deleted_at <= now() - interval '1 day' WHERE r.artifact = k.artifact`,
  );
  // A file of the spool is named by when it was begun; one that was shipped is gone long before its mark.
  await database.raw("DELETE FROM shipped_spool WHERE substring(name FROM '-(\\d{13})\\.')::bigint < ?", [
    later(now, -SPOOL_DAYS * DAY),
  ]);
  await database('mail')
    .where('sent_at', '<', dateOf(later(now, -MAIL_DAYS * DAY)))
    .delete();
  return removed + (await removeDropped(database, blobs, before));
}

type Uses = (database: Knex, hashes: readonly string[]) => Promise<string[]>;

const hashesOf =
  (sql: string): Uses =>
  async (database, hashes) =>
    (await rowsOf<{ hash: string }>(database, sql, [hashes])).map(({ hash }) => hash);

/** Bytes that only rows of these tables lead to, and which of some they still lead to. */
const KEPT: readonly (readonly [BlobKind, Uses])[] = [
  [
    // What visitors get, will get, or got: of pages that were deleted for ever nothing is left, a day after.
    'pages',
    hashesOf(
      `WITH asked AS (SELECT unnest(?::text[]) AS hash) SELECT hash FROM asked WHERE EXISTS (
        SELECT FROM route r LEFT JOIN page p ON p.id = r.page_id WHERE r.artifact = asked.hash
        AND (p.deleted_at IS NULL OR p.deleted_at > now() - interval '1 day'))`,
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

/** Removes the bytes of files that were deleted or replaced. What pages showed to visitors stays open under a name of its own. */
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
