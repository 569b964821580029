import type { FramedPage, FrameLine, FrameRoute } from '@domatium/core/frame';
import type { HostId, PageId, ReleaseId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { linesOf, type StoredFrames } from '@domatium/storage';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';
import { subjects, type KeepBefore } from './cut.js';
import { placeOf, type PlaceRow, type StretchRow } from './frame-lines.js';
import type { FramedRow } from './framed-pages.js';

/**
 * What was planned of frames before releases, kept with the first of them: until that one is out, edges serve it
 * (design rule 9), whatever has been written meanwhile.
 */
export class Before {
  private readonly kept = new Map<string, readonly object[]>();

  readonly keep: KeepBefore = (subject, rows) => void this.kept.set(subject, rows);

  async write(trx: Db, releaseIds: readonly ReleaseId[]): Promise<void> {
    const [first] = this.kept.size
      ? await rowsOf<{ id: ReleaseId }>(trx, 'SELECT id FROM release WHERE id = ANY(?) ORDER BY at, id LIMIT 1', [
          releaseIds,
        ])
      : [];
    if (!first) return;
    const rows = [...this.kept].map(([subject, held]) => ({
      ...{ release_id: first.id, subject, held },
      parts: held.flatMap((row) => ('parts' in row ? (row.parts as string[]) : [])),
    }));
    await insertRows(trx, 'frame_before', rows);
  }
}

/** What edges still served at an instant of what had been planned otherwise by then. */
export interface ServedStill {
  readonly held: ReadonlyMap<string, readonly object[]>;
  /** When the last of it was out; `null` where some is not yet. */
  readonly outAt: Instant | null;
}

/** `null` where everything that was decided by then was out, or was no change of frames. */
export async function servedStill(db: Db, hostId: HostId, at: Instant): Promise<ServedStill | null> {
  const rows = await rowsOf<{ subject: string; held: object[]; out_at: Instant | null }>(
    db,
    `SELECT DISTINCT ON (b.subject) b.subject, b.held, r.out_at FROM host h JOIN release r ON r.portfolio_id = h.portfolio_id
    JOIN frame_before b ON b.release_id = r.id
    WHERE h.id = ? AND r.at <= ? AND (r.out_at IS NULL OR r.out_at > ?) ORDER BY b.subject, r.at, r.id`,
    [hostId, dateOf(at), dateOf(at)],
  );
  if (!rows.length) return null;
  const outs = rows.map(({ out_at }) => out_at);
  const outAt = outs.includes(null) ? null : (Math.max(...outs.map(Number)) as Instant);
  return { held: new Map(rows.map(({ subject, held }) => [subject, held])), outAt };
}

const duringOf = ({ from_at: from, until_at: until }: Pick<StretchRow, 'from_at' | 'until_at'>) => ({ from, until });

/** Frames of a host as edges still had them. */
export function framesStill(own: StoredFrames, { held }: ServedStill): Pick<StoredFrames, 'routes' | 'pages'> {
  const isAnother = (subject: string) => !held.has(subject);
  const rowsOfKind = <Row>(kind: string) =>
    [...held].flatMap(([subject, rows]) => (subject.startsWith(kind) ? (rows as readonly Row[]) : []));
  const routes = rowsOfKind<PlaceRow>('place ')
    .filter(({ host_id }) => host_id === (own.hostId as HostId))
    .map((row): FrameRoute => ({
      ...{ basePath: row.base_path, variant: row.variant },
      ...{ during: duringOf(row), lines: linesOf(row) },
    }));
  const pages = rowsOfKind<FramedRow>('page ')
    .filter(({ host_id }) => host_id === (own.hostId as HostId))
    .map((row): FramedPage => ({ pageId: row.page_id, variant: row.variant, during: duringOf(row) }));
  const placeOfRoute = ({ basePath, variant }: FrameRoute) =>
    subjects.place(placeOf(own.hostId as HostId, basePath, variant));
  return {
    routes: [...own.routes.filter((route) => isAnother(placeOfRoute(route))), ...routes],
    pages: [
      ...own.pages.filter(({ pageId }) => isAnother(subjects.page(own.hostId as HostId, pageId as PageId))),
      ...pages,
    ],
  };
}

/** A line as edges still had it. */
export function lineStill(line: FrameLine, { held }: ServedStill): FrameLine {
  const rows = held.get(subjects.line(line.id)) as readonly StretchRow[] | undefined;
  return rows ? { ...line, stretches: rows.map((row) => ({ during: duringOf(row), parts: row.parts })) } : line;
}
