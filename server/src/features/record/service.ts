import { type RecordEntry } from '@domatium/contracts';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { instantOfWall, startOfDay, wallOf, type Instant } from '@domatium/core/time';
import { recordWords } from '@domatium/core/words';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { ConflictError, NotFoundError } from '../../platform/errors.js';
import { releasesById, summaryOfRow, writePlan, zoneOf } from '../../heart/releases/index.js';
import { arrange, lockArranged } from '../pages/index.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/record';

/** Acts of one part of the record. */
const AT_ONCE = 100;

export interface Asked extends Pick<store.Filters, 'by' | 'kind' | 'page' | 'before'> {
  /** Days in the portfolio's zone, both included. */
  readonly from?: string | undefined;
  readonly until?: string | undefined;
}

/** Who did what, a part at a time. `isOwner`: what concerns people is told too. */
export function recordOf(
  context: Context,
  portfolioId: PortfolioId,
  asked: Asked,
  isOwner: boolean,
): Promise<{ entries: RecordEntry[]; earlier: number | null }> {
  return inTransaction(
    context.database,
    async (db) => {
      const zone = await zoneOf(db, portfolioId);
      const dayStart = (day: string | undefined, later: number) => {
        const at = day ? instantOfWall({ local: `${day}T00:00`, zone }) : null;
        return at === null ? undefined : later ? startOfDay(at, zone, later) : at;
      };
      const filters = { ...asked, from: dayStart(asked.from, 0), until: dayStart(asked.until, 1) };
      const { rows, looked, last } = await store.recorded(
        db,
        portfolioId,
        { ...filters, isWithoutPeople: !isOwner },
        AT_ONCE,
      );
      const entries = await entriesOf(db, portfolioId, rows, zone, context.now);
      const end = rows.at(-1);
      const hasMore = rows.length === AT_ONCE || looked === store.LOOKED;
      // Savings of a draft lie between other entries: what is left of them comes again with the next part.
      const next = rows.length === AT_ONCE && end ? (end.act === 'save-draft' ? end.id : end.first) : last;
      return { entries, earlier: hasMore ? next : null };
    },
    'repeatable read',
  );
}

async function entriesOf(
  db: Db,
  portfolioId: PortfolioId,
  rows: readonly store.RecordRow[],
  zone: string,
  now: Instant,
): Promise<RecordEntry[]> {
  const names = await store.namesFor(db, portfolioId, rows);
  const { campaigns, people } = await store.namesOfArranged(db, portfolioId);
  const releases = await releasesById(
    db,
    portfolioId,
    rows.flatMap(({ release_id }) => release_id ?? []),
  );
  const write = writePlan(zone, now);
  const nameIn = (map: ReadonlyMap<number, string>, none: string, gone: string) => (id: unknown) =>
    typeof id === 'number' ? (map.get(id) ?? gone) : none;
  return rows.map((row): RecordEntry => {
    const release = row.release_id === null ? undefined : releases.get(row.release_id);
    const isPage = row.object === 'page' || row.object === 'draft';
    const subject =
      row.count > 1 && row.act !== 'save-draft'
        ? say.things(row.count, isPage)
        : (names.get(`${row.object === 'draft' ? 'page' : row.object} ${row.object_id}`) ??
          nameSaid(row.after) ??
          nameSaid(row.before));
    return {
      ...{ id: row.id, at: row.at, by: row.by, kind: store.kindOf(row), act: row.act, count: row.count, subject },
      words: release
        ? summaryOfRow(release, write)
        : recordWords(row.act, {
            ...{ before: row.before ?? {}, after: row.after ?? {}, count: row.count },
            campaign: nameIn(campaigns, say.noCampaign, say.campaignThatIsGone),
            person: nameIn(people, say.nobody, say.somebodyWhoLeft),
          }),
      pageId: isPage && (row.count === 1 || row.act === 'save-draft') ? row.object_id : null,
      releaseId: row.release_id,
      canUndo: row.act === 'arrange',
    };
  });
}

const nameSaid = (values: Readonly<Record<string, unknown>> | null): string | null =>
  typeof values?.['name'] === 'string' ? values['name'] : typeof values?.['text'] === 'string' ? values['text'] : null;

const CSV_COLUMNS = ['at', 'by', 'kind', 'what', 'of', 'count'] as const;
export const RECORD_COLUMNS: readonly string[] = CSV_COLUMNS;

/** All of it as rows of a file, the newest first; times on the portfolio's clock. */
export async function* recordRows(
  context: Context,
  portfolioId: PortfolioId,
  asked: Asked,
  isOwner: boolean,
): AsyncGenerator<Record<(typeof CSV_COLUMNS)[number], string | number>> {
  const zone = await zoneOf(context.database, portfolioId);
  let before: number | null | undefined;
  while (before !== null) {
    const part = await recordOf(context, portfolioId, { ...asked, ...(before ? { before } : {}) }, isOwner);
    for (const { at, by, kind, words, subject, count } of part.entries)
      yield {
        at: wallOf(at as Instant, zone).replace('T', ' '),
        by: by ?? '',
        kind,
        what: words,
        of: subject ?? '',
        count,
      };
    before = part.earlier;
  }
}

/** Gives the pages of an act back the owner, campaign and labels they had; refused whole where one was changed since. */
export async function undoRecorded(
  context: Context,
  portfolioId: PortfolioId,
  entryId: number,
): Promise<{ pages: number }> {
  return inTransaction(context.database, async (trx) => {
    const entries = await store.arrangedBy(trx, portfolioId, entryId);
    if (!entries.length) throw new NotFoundError();
    const known = new Map(
      (
        await lockArranged(
          trx,
          portfolioId,
          entries.map(({ page_id }) => page_id),
        )
      ).map((page) => [page.id, page]),
    );
    const isSame = (entry: store.ArrangedEntry) => {
      const page = known.get(entry.page_id);
      return (
        page?.campaign_id === entry.after.campaignId &&
        page.owner_id === entry.after.ownerId &&
        [...page.labels].sort().join('\n') === [...entry.after.labels].sort().join('\n')
      );
    };
    const changed = entries.filter((entry) => !isSame(entry));
    if (changed.length)
      throw new ConflictError(say.changedSince(known.get(changed[0]?.page_id as PageId)?.name ?? '', changed.length));
    await arrange({ ...context, database: trx as never }, portfolioId, {
      pages: entries.map(({ page_id, before }) => ({
        ...{ id: page_id, version: known.get(page_id)?.version ?? 0 },
        ...{ campaignId: before.campaignId, ownerId: before.ownerId, labels: before.labels },
      })),
    });
    return { pages: entries.length };
  });
}
