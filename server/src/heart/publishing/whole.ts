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
  type FrameParts,
  type Nav,
} from '@domatium/core/frame';
import type { HostId, PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { queryOfKnex, readFrameLines, readHostFrames, readParts, unpackPage, type BlobStore } from '@domatium/storage';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

/** A page as visitors get it: what is stored of it, and the frame around it. */
export interface StoredPage {
  readonly artifact: string;
  readonly pageId: PageId;
  /** `null` where there was none, as around pages that were stored whole. */
  readonly parts: FrameParts | null;
}

/** The frame that stands around a page at a place and an instant. */
export async function partsAt(
  db: Db,
  { hostId, path, pageId }: { readonly hostId: HostId; readonly path: string; readonly pageId: PageId },
  at: Instant,
): Promise<FrameParts | null> {
  const [own] = await readHostFrames(queryOfKnex(db), [hostId], at);
  if (!own) return null;
  const variant = variantAt(
    own.pages.filter((page) => page.pageId === (pageId as number)),
    at,
  );
  const route = frameAt(inOrder(own.routes), path, at, variant);
  if (!route) return null;
  const lines = await readFrameLines(queryOfKnex(db), Object.values(route.lines), at);
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
