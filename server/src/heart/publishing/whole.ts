import {
  compose,
  cutPage,
  EMPTY_FRAME,
  frameAround,
  frameAt,
  frameOf,
  inOrder,
  navFromText,
  partsOf,
  partsOnLines,
  variantAt,
  type FrameLine,
  type FrameParts,
  type Nav,
} from '@domatium/core/frame';
import type { HostId, PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import {
  queryOfKnex,
  readFrameLines,
  readHostFrames,
  readParts,
  unpackPage,
  type BlobStore,
  type StoredFrames,
} from '@domatium/storage';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';
import { framesStill, lineStill, servedStill } from './before.js';

/** A page as visitors get it: what is stored of it, and the frame around it. */
export interface StoredPage {
  readonly artifact: string;
  readonly pageId: PageId;
  /** `null` where there was none, as around pages that were stored whole. */
  readonly parts: FrameParts | null;
}

interface Place {
  readonly hostId: HostId;
  readonly path: string;
  readonly pageId: PageId;
}

/** The frame that visitors got or will get around a page at a place and an instant. */
export const partsAt = async (db: Db, place: Place, at: Instant): Promise<FrameParts | null> =>
  (await framedAt(db, place, at)).parts;

/**
 * The same; `late` where it is not what was decided by then, with when the last of that was out: until then edges serve
 * what was planned before.
 */
export async function framedAt(
  db: Db,
  place: Place,
  at: Instant,
): Promise<{ readonly parts: FrameParts | null; readonly late: { readonly outAt: Instant | null } | null }> {
  const [own] = await readHostFrames(queryOfKnex(db), [place.hostId], at);
  if (!own) return { parts: null, late: null };
  const decided = await partsIn(db, own, place, at, (line) => line);
  const still = await servedStill(db, place.hostId, at);
  if (!still) return { parts: decided, late: null };
  const served = await partsIn(db, framesStill(own, still), place, at, (line) => lineStill(line, still));
  const isSame = JSON.stringify(served) === JSON.stringify(decided);
  return { parts: served, late: isSame ? null : { outAt: still.outAt } };
}

async function partsIn(
  db: Db,
  frames: Pick<StoredFrames, 'routes' | 'pages'>,
  { path, pageId }: Place,
  at: Instant,
  had: (line: FrameLine) => FrameLine,
): Promise<FrameParts | null> {
  const variant = variantAt(
    frames.pages.filter((page) => page.pageId === (pageId as number)),
    at,
  );
  const route = frameAt(inOrder(frames.routes), path, at, variant);
  if (!route) return null;
  const lines = (await readFrameLines(queryOfKnex(db), Object.values(route.lines), at)).map(had);
  return partsOnLines(route.lines, (id) => lines.find((line) => line.id === id), at).parts;
}

/** The ways through a site at an instant, as visitors get them. */
export async function waysOfSite(db: Db, portfolioId: PortfolioId, siteId: number, at: Instant): Promise<Nav | null> {
  const [row] = await rowsOf<{ html: string }>(
    db,
    `SELECT p.html FROM site_address a
    JOIN frame_place f ON f.host_id = a.host_id AND f.base_path = a.base_path AND f.variant = '' AND tstzrange(f.from_at, f.until_at, '[)') @> ?::timestamptz
    JOIN frame_stretch s ON s.line_id = f.nav AND tstzrange(s.from_at, s.until_at, '[)') @> ?::timestamptz
    JOIN part p ON p.hash = s.parts[1]
    WHERE a.portfolio_id = ? AND a.site_id = ? AND a.is_primary AND a.during @> ?::timestamptz`,
    [dateOf(at), dateOf(at), portfolioId, siteId, dateOf(at)],
  );
  return navFromText(row?.html ?? '');
}

/** The page as it is sent, `null` where its bytes are gone. */
export async function wholePage(
  db: Db,
  blobs: BlobStore,
  { artifact, pageId, parts }: StoredPage,
): Promise<string | null> {
  const packed = await blobs.read('pages', artifact);
  if (!packed) return null;
  const texts = parts ? await readParts(queryOfKnex(db), partsOf(parts)) : null;
  const frame =
    parts && texts
      ? frameAround(
          frameOf(parts, (hash) => texts.get(hash)),
          pageId,
        )
      : EMPTY_FRAME;
  return compose(cutPage(unpackPage(packed).toString()), frame);
}
