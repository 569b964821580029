import type { HistoryEntry } from '@domatium/contracts';
import type { PortfolioId, ReleaseId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import type { WritePlan } from '@domatium/core/words';
import type { Db } from '../../platform/database/context.js';
import { summaryOfRow, writePlan } from './fault-words.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/releases';

/** What releases change, and may be undone for: a page, or a thing of the stock. */
export interface Subject {
  readonly kind: 'page' | 'item';
  readonly id: number;
}

/** Releases and undos that changed something, newest first, each with whether it can be undone. */
export async function historyOf(
  db: Db,
  portfolioId: PortfolioId,
  subject: Subject,
  now: Instant,
): Promise<HistoryEntry[]> {
  const { all, undos } = await releasesAndUndos(db, portfolioId, subject);
  const zone = await store.zoneOf(db, portfolioId);
  const write = writePlan(zone, now);
  return all.map((release): HistoryEntry => ({
    releaseId: release.id,
    at: release.at,
    by: release.account_name,
    act: release.act,
    summary: summaryOfRow(release, write),
    outAt: release.out_at,
    failure: release.failure,
    undoes: release.undoes_id,
    undoneBy: undos.find(({ undoes_id }) => undoes_id === release.id)?.id ?? null,
    undoRefusal: refusalAmong(all, undos, subject, release.id, write),
  }));
}

/** Why a release can't be undone for something, or `null`: a later one, not itself undone, changed the same. */
export async function undoRefusal(
  db: Db,
  portfolioId: PortfolioId,
  subject: Subject,
  releaseId: ReleaseId,
  now: Instant,
): Promise<string | null> {
  const { all, undos } = await releasesAndUndos(db, portfolioId, subject);
  const zone = await store.zoneOf(db, portfolioId);
  return refusalAmong(all, undos, subject, releaseId, writePlan(zone, now));
}

type Undos = readonly { readonly id: ReleaseId; readonly undoes_id: ReleaseId }[];

async function releasesAndUndos(db: Db, portfolioId: PortfolioId, subject: Subject) {
  const all = await store.releasesOf(db, portfolioId, subject);
  const ids = all.map(({ id }) => id);
  return { all, undos: await store.undosOf(db, ids) };
}

function refusalAmong(
  all: readonly store.ReleaseRow[],
  undos: Undos,
  { kind }: Subject,
  releaseId: ReleaseId,
  write: WritePlan,
): string | null {
  const isInForce = (id: ReleaseId): boolean => !undos.some((one) => one.undoes_id === id && isInForce(one.id));
  const own = all.find(({ id }) => id === releaseId);
  if (own && !isInForce(releaseId)) return say.itHasBeenUndoneAlready;
  // A later release and its undo cancel each other; an undo of something earlier is a change like any other.
  const blocking = all.find(
    ({ id, undoes_id }) => id > releaseId && isInForce(id) && !(undoes_id !== null && undoes_id > releaseId),
  );
  if (!blocking) return null;
  const what = kind === 'page' ? say.theSamePage : say.theSame;
  return say.cantBeUndoneByOnChanged(
    summaryOfRow(blocking, write),
    blocking.account_name ?? say.theSystem,
    write.at(blocking.at),
    what,
  );
}
