import { partsOf, SLOTS, type FrameParts, type Slot } from '@domatium/core/frame';
import { canonical, groupBy, type HostId, type PortfolioId, type SiteAddress } from '@domatium/core/plan';
import { siteFrameParts } from '@domatium/core/render';
import { stableOver } from '@domatium/core/routing';
import { scopedCss } from '@domatium/core/theme';
import { endOf, type Instant } from '@domatium/core/time';
import { sha256 } from '@domatium/storage';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';
import { saveEnds } from '../plans/index.js';
import type { ShelvedItem } from '../stock/index.js';
import { cutAt } from './cut.js';
import type { Shelves } from './input.js';
import { hrefsIn, openFiles, shelfHrefs } from './open.js';
import type { Publisher } from './publication.js';
import { profileAt, siteCssAt, themeAt } from './surroundings.js';

/** What frames are made of, as it is planned. */
export interface FrameWorld {
  readonly publisher: Publisher;
  readonly portfolioId: PortfolioId;
  readonly stock: readonly ShelvedItem[];
  readonly shelves: Shelves;
  readonly siteAddresses: readonly SiteAddress[];
}

/** Sites whose frames are made anew. */
export type FramedSites = ReadonlySet<number> | 'all';

interface FrameRow {
  readonly host_id: HostId;
  readonly base_path: string;
  readonly from_at: Instant;
  readonly until_at: Instant | null;
  readonly parts: FrameParts;
}

interface Part {
  readonly html: string;
  /** Addresses of every file it asks for. */
  readonly files: readonly string[];
}

/** Frames that are ready to be written; gives the hosts on which any is another. */
export type WriteFrames = (trx: Db) => Promise<HostId[]>;

/**
 * The frames of sites, and of those that have none yet, split where anything in them changes; their files are there and
 * open when this returns. No page is rendered for them.
 */
export async function prepareFrames(
  reader: Db,
  world: FrameWorld,
  sites: FramedSites,
  horizon: Instant,
): Promise<WriteFrames> {
  const { publisher, portfolioId, stock, shelves } = world;
  const framed = await framedPlaces(reader, portfolioId);
  const isNew = ({ hostId, basePath }: SiteAddress) => !framed.has(placeOf(hostId, basePath));
  const primary = world.siteAddresses.filter(
    (address) => address.isPrimary && (isNew(address) || endOf(address.during) > horizon),
  );
  const isAsked = (address: SiteAddress) => sites === 'all' || sites.has(address.siteId) || isNew(address);
  // Sites that lie at one place one after the other are written together.
  const places = new Set(primary.filter(isAsked).map(({ hostId, basePath }) => placeOf(hostId, basePath)));
  const due = primary.filter(({ hostId, basePath }) => places.has(placeOf(hostId, basePath)));
  const shelf = due.length ? shelfHrefs(shelves) : new Set<string>();
  const parts = new Map<string, Part>();
  const rows: FrameRow[] = [];
  for (const address of due) {
    const { siteId, hostId, basePath } = address;
    const from = isNew(address) || address.during.from > horizon ? address.during.from : horizon;
    const stretches = stableOver(
      { from, until: address.during.until },
      (at, witness) => {
        const profile = profileAt(stock, siteId, at, witness);
        const theme = themeAt(stock, profile.theme, at, witness);
        return { profile, theme, css: siteCssAt(stock, siteId, at, witness) };
      },
      (a, b) => a.profile === b.profile && a.theme === b.theme && a.css === b.css,
    );
    for (const { during, value } of stretches) {
      const { profile, theme } = value;
      const css = scopedCss(value.css);
      const made = siteFrameParts({
        siteName: profile.brand,
        homeHref: basePath,
        ...(await publisher.files.ofTheme(theme)),
        siteStyleHref: css ? await publisher.files.ofCss(css) : null,
        inlineStyle: null,
        icons: (profile.iconId && shelves.icons.get(profile.iconId)) || null,
      });
      const hashed = (slot: Slot) =>
        made[slot].map((html) => {
          const hash = sha256(html);
          const named = slot === 'head' ? hrefsIn(css).filter((href) => shelf.has(href)) : [];
          const files = [...new Set([...(parts.get(hash)?.files ?? []), ...hrefsIn(html), ...named])];
          parts.set(hash, { html, files });
          return hash;
        });
      const all = Object.fromEntries(SLOTS.map((slot) => [slot, hashed(slot)])) as unknown as FrameParts;
      rows.push({ host_id: hostId, base_path: basePath, from_at: during.from, until_at: during.until, parts: all });
    }
  }
  await openFiles(
    publisher.blobs,
    portfolioId,
    [...parts.values()].flatMap(({ files }) => files),
  );
  return (trx) => writeFrames(trx, portfolioId, { due, rows, parts }, horizon, publisher.clock());
}

const placeOf = (hostId: HostId, basePath: string) => `${hostId} ${basePath}`;

/** Where a portfolio has frames already. */
async function framedPlaces(db: Db, portfolioId: PortfolioId): Promise<Set<string>> {
  const rows = await rowsOf<{ host_id: HostId; base_path: string }>(
    db,
    'SELECT DISTINCT host_id, base_path FROM frame_route WHERE portfolio_id = ?',
    [portfolioId],
  );
  return new Set(rows.map(({ host_id, base_path }) => placeOf(host_id, base_path)));
}

async function writeFrames(
  trx: Db,
  portfolioId: PortfolioId,
  made: {
    readonly due: readonly SiteAddress[];
    readonly rows: readonly FrameRow[];
    readonly parts: ReadonlyMap<string, Part>;
  },
  horizon: Instant,
  now: Instant,
): Promise<HostId[]> {
  if (!made.due.length) return [];
  const keyOf = (row: FrameRow) => placeOf(row.host_id, row.base_path);
  const stored = await rowsOf<FrameRow & { id: number }>(
    trx,
    'SELECT id, host_id, base_path, from_at, until_at, parts FROM frame_route WHERE portfolio_id = ? AND host_id = ANY(?)',
    [portfolioId, made.due.map(({ hostId }) => hostId)],
  );
  const [had, coming] = [groupBy(stored, keyOf), groupBy(made.rows, keyOf)];
  const changed = new Set<HostId>();
  const [removed, ends, inserted]: [number[], { id: number; during: { until: Instant | null } }[], FrameRow[]] = [
    [],
    [],
    [],
  ];
  const places = new Map(made.due.map(({ hostId, basePath }) => [placeOf(hostId, basePath), hostId]));
  for (const [place, hostId] of places) {
    const cut = cutAt(had.get(place) ?? [], coming.get(place) ?? [], horizon, ({ parts }) => canonical(parts));
    removed.push(...cut.removed);
    ends.push(...cut.ends);
    inserted.push(...cut.inserted);
    if (cut.removed.length + cut.ends.length + cut.inserted.length) changed.add(hostId);
  }
  if (!changed.size) return [];
  const used = new Set(inserted.flatMap(({ parts }) => partsOf(parts)));
  await insertRows(
    trx,
    'part',
    [...made.parts]
      .filter(([hash]) => used.has(hash))
      .map(([hash, { html, files }]) => ({ hash, html, files, made_at: dateOf(now) })),
    'ON CONFLICT (hash) DO UPDATE SET made_at = excluded.made_at, files = excluded.files',
  );
  if (removed.length) await trx.raw('DELETE FROM frame_route WHERE id = ANY(?)', [removed]);
  await saveEnds(trx, 'frame_route', ends);
  await insertRows(
    trx,
    'frame_route',
    inserted.map(({ parts, ...row }) => ({
      ...row,
      portfolio_id: portfolioId,
      from_at: dateOf(row.from_at),
      until_at: dateOf(row.until_at),
      parts,
    })),
  );
  return [...changed];
}
