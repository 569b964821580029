import type { ImportField, ImportRow, ReleaseChange } from '@domatium/contracts';
import { checkTypedPath, slugOf } from '@domatium/core/address';
import { newBlock, type PageDocument } from '@domatium/core/document';
import type { PageId } from '@domatium/core/plan';
import { dayOf, instantOfWall, parseMoment, wallOf, type Instant, type WallTime } from '@domatium/core/time';
import { fold } from '@domatium/core/text';
import type { KnownPage } from './store.js';
import { say } from '@domatium/core/words/answers/imports';

export interface Known {
  readonly sites: readonly {
    readonly id: number;
    readonly name: string;
    readonly host: string;
    readonly base_path: string;
  }[];
  readonly campaigns: readonly { readonly id: number; readonly name: string }[];
  readonly pages: readonly KnownPage[];
  readonly zone: string;
  readonly now: Instant;
}

export interface RowError {
  readonly field: ImportField | null;
  readonly message: string;
}

/** What a row asks for, as far as it can be read. */
export interface ReadRow {
  readonly row: ImportRow;
  readonly errors: readonly RowError[];
  readonly siteId: number;
  readonly address: string;
  readonly path: string;
  /** The page that lies there already; `null` makes one. */
  readonly page: KnownPage | null;
  readonly name: string;
  readonly title: string | null;
  readonly labels: readonly string[] | null;
  /** `undefined` leaves it as it is. */
  readonly campaignId: number | null | undefined;
  readonly from: 'now' | WallTime | null;
  readonly until: WallTime | null;
}

/** Sites by name or address, and the path below: "Ferries" and "/winter", or "marrowick.example/winter" alone. */
function placeOf(
  { site, path, name }: ImportRow,
  sites: Known['sites'],
  fault: (field: ImportField, message: string) => void,
): { siteId: number; host: string; base: string; path: string } {
  const addressOf = (one: Known['sites'][number]) => one.host + (one.base_path === '/' ? '' : one.base_path);
  const bare = (text: string) => text.replace(/^https?:\/\//i, '').replace(/\/+$/, '');
  const asked = fold(bare(site));
  let found = asked ? sites.filter((one) => fold(one.name) === asked || addressOf(one).toLowerCase() === asked) : [];
  let below = path;
  if (!asked && path) {
    const whole = bare(path);
    found = sites
      .filter((one) => `${whole}/`.toLowerCase().startsWith(`${addressOf(one)}/`))
      .sort((a, b) => addressOf(b).length - addressOf(a).length)
      .slice(0, 1);
    const [one] = found;
    if (one) below = whole.slice(addressOf(one).length) || '/';
  }
  const [only] = found;
  if (!only || found.length > 1) {
    const message = !asked
      ? say.enterASiteOrTheFull
      : found.length
        ? say.sitesAreCalledWriteTheAddress(found.length, site)
        : say.noSiteIsCalled(site);
    fault('site', message);
  }
  const typed = checkTypedPath(below ? (below.startsWith('/') ? below : `/${below}`) : `/${slugOf(name)}`, [
    only?.base_path ?? '/',
  ]);
  if (!typed.ok) fault('path', typed.why);
  return {
    siteId: only?.id ?? 0,
    host: only?.host ?? '',
    base: only?.base_path ?? '/',
    path: typed.ok ? typed.path : below,
  };
}

/** Reads one row against what is there; everything that is wrong with it is named. */
export function readRow(row: ImportRow, known: Known): ReadRow {
  const errors: RowError[] = [];
  const fault = (field: ImportField | null, message: string) => void errors.push({ field, message });
  const place = placeOf(row, known.sites, fault);
  const page = known.pages.find(({ site_id, path }) => site_id === place.siteId && path === place.path) ?? null;
  const name = row.name || page?.name || '';
  if (!name) fault('name', say.aNewPageNeedsAName);
  if (name.length > 200) fault('name', say.atMost200Characters);
  if (row.title.length > 200) fault('title', say.atMost200Characters);
  const labels = row.labels
    ? [
        ...new Set(
          row.labels
            .split(/[,;|]/)
            .map((label) => label.trim())
            .filter(Boolean),
        ),
      ].sort()
    : null;
  if (labels?.some((label) => label.length > 60)) fault('labels', say.aLabelHasAtMost60Characters);
  const campaign = known.campaigns.find((one) => fold(one.name) === fold(row.campaign));
  if (row.campaign && row.campaign !== '-' && !campaign) fault('campaign', say.noCampaignIsCalled(row.campaign));
  const { from, until } = timesOf(row, known, fault);
  return {
    row,
    errors,
    siteId: place.siteId,
    address:
      place.host +
      (place.base === '/' ? '' : place.base) +
      (place.path === '/' && place.base !== '/' ? '' : place.path),
    path: place.path,
    page,
    name,
    title: row.title || null,
    labels,
    campaignId: row.campaign === '-' ? null : row.campaign ? (campaign?.id ?? null) : undefined,
    from,
    until,
  };
}

function timesOf(
  row: ImportRow,
  { zone, now }: Known,
  fault: (field: ImportField, message: string) => void,
): Pick<ReadRow, 'from' | 'until'> {
  const today = dayOf(now, zone);
  const moment = (field: 'from' | 'until'): WallTime | null => {
    if (!row[field]) return null;
    const iso = /[zZ]$|[+-]\d\d:?\d\d$/.test(row[field]) ? Date.parse(row[field]) : Number.NaN;
    if (!Number.isNaN(iso)) return { local: wallOf(iso as Instant, zone), zone };
    const local = parseMoment(row[field], today, field === 'until');
    if (local === null) fault(field, say.isntADateOrTimeUse(row[field]));
    return local === null ? null : { local, zone };
  };
  const isNow = row.from.toLowerCase() === 'now';
  const from = isNow ? ('now' as const) : moment('from');
  const until = moment('until');
  const start = from === 'now' ? now : from && instantOfWall(from);
  const end = until && instantOfWall(until);
  if (until && !from) fault('from', say.anEndNeedsAStart);
  if (from !== 'now' && start !== null && start < now) fault('from', say.thatTimeIsInThePast);
  if (start !== null && end !== null && end <= start) fault('until', say.itEndsBeforeItStarts);
  return { from, until };
}

/** What a page made from a row says: its title as heading, to be filled. */
export function documentOf(name: string, title: string | null, newId: () => string): PageDocument {
  const heading = title ?? name;
  return {
    metadata: { title: heading.slice(0, 200), description: '' },
    blocks: [newBlock('opening', newId(), { heading: heading.slice(0, 160) })],
  };
}

/** The release a row asks for, `null` where it touches no visitor. */
export function changeOf({ from, until }: ReadRow, pageId: PageId): ReleaseChange | null {
  if (from === null) return null;
  return {
    act: 'release',
    pageId,
    from,
    until,
    afterwards: until === null ? null : { kind: 'not-found' },
    cutsLater: false,
  };
}
