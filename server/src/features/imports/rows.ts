import type { AnswerInput, ImportField, ImportRow, ReleaseChange } from '@domatium/contracts';
import { checkOutsideAddress, checkTypedPath, slugOf } from '@domatium/core/address';
import {
  readAnswerCell,
  readPeriodsCell,
  withSettings,
  type ReadSettings,
  type Setting,
} from '@domatium/core/exchange';
import {
  EMPTY_DOCUMENT,
  MAX_DESCRIPTION,
  MAX_TITLE,
  newBlock,
  type Metadata,
  type MetadataText,
  type PageDocument,
} from '@domatium/core/document';
import type { PageId } from '@domatium/core/plan';
import {
  dayOf,
  instantOfWall,
  isoInstant,
  parseMoment,
  wallOf,
  type Instant,
  type WallTime,
} from '@domatium/core/time';
import { shownPeriod } from '@domatium/core/register';
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
  /** Who may own a page. */
  readonly people: readonly { readonly id: number; readonly name: string; readonly email: string }[];
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
  /** What it says of the page, with the settings that the row changes. */
  readonly metadata: Metadata;
  readonly settings: readonly Setting[];
  readonly labels: readonly string[] | null;
  /** `undefined` leaves it as it is. */
  readonly campaignId: number | null | undefined;
  readonly ownerId: number | null | undefined;
  /** A period that gets other times; `null` where a new one is asked for, or none. */
  readonly retimes: Instant | null;
  readonly from: 'now' | WallTime | null;
  readonly until: WallTime | null;
  /** What comes behind the period, where the row says something else than holds; `null` leaves it as it is. */
  readonly afterwards: AnswerInput | null;
  /** On whose clock, and when it was read. */
  readonly zone: string;
  readonly now: Instant;
  /** Further periods that the page has not yet. */
  readonly further: readonly { readonly from: WallTime; readonly until: WallTime | null }[];
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
  // A whole address beside a site is what a list that was brought out has.
  const whole = bare(path);
  if (found.length > 1) found = found.filter((one) => `${whole}/`.toLowerCase().startsWith(`${addressOf(one)}/`));
  const [only] = found;
  if (only && asked && `${whole}/`.toLowerCase().startsWith(`${addressOf(only)}/`) && !path.startsWith('/'))
    below = whole.slice(addressOf(only).length) || '/';
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
  if (!typed.ok) fault('path', typed.why.message);
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
  const lies = known.pages.find(({ site_id, path }) => site_id === place.siteId && path === place.path) ?? null;
  const named = row.id ? (known.pages.find(({ id }) => String(id) === row.id) ?? null) : null;
  if (row.id && !named) fault('id', say.noPageHasThatId(row.id));
  // A row is told by its id first: one that says another address is not another page.
  if (named && lies !== named) fault('path', say.thatPageLiesElsewhere(named.name));
  const page = named ?? lies;
  // Programs for tables are kept from reading a name as a formula by a stroke before it.
  const name = row.name.replace(/^'(?=[=+\-@])/, '') || page?.name || '';
  if (!name) fault('name', say.aNewPageNeedsAName);
  if (name.length > 200) fault('name', say.atMost200Characters);
  const settings = settingsOf(row, page, known, fault);
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
  const owner = known.people.find((one) => fold(one.name) === fold(row.owner) || one.email === row.owner.toLowerCase());
  if (row.owner && row.owner !== '-' && !owner) fault('owner', say.nobodyIsCalled(row.owner));
  const { from, until, retimes } = timesOf(row, page, known, fault);
  const further = furtherOf(row, page, known, fault);
  const afterwards = afterwardsOf(row, page, until, known, fault);
  if (retimes !== null && further.length) fault('further', say.timesOrFurtherPeriods);
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
    metadata: settings.metadata,
    settings: settings.changed,
    labels,
    campaignId: row.campaign === '-' ? null : row.campaign ? (campaign?.id ?? null) : undefined,
    ownerId: row.owner === '-' ? null : row.owner ? (owner?.id ?? null) : undefined,
    retimes,
    from,
    until,
    afterwards,
    further,
    zone: known.zone,
    now: known.now,
  };
}

type Faulty = (field: ImportField, message: string) => void;

const MOST: Readonly<Record<MetadataText, number>> = {
  ...{ title: MAX_TITLE, shareTitle: MAX_TITLE },
  ...{ description: MAX_DESCRIPTION, shareDescription: MAX_DESCRIPTION },
};

/** The settings of a page as the row wants them; those of a new page begin with nothing. */
function settingsOf(row: ImportRow, page: KnownPage | null, { zone }: Known, fault: Faulty): ReadSettings {
  const read = withSettings(page?.document.metadata ?? EMPTY_DOCUMENT.metadata, row, { zone, most: MOST });
  for (const key of read.wrong) {
    if (key === 'robots') fault(key, say.robotsUnreadable);
    else fault(key, row[key].length > MOST[key] ? say.tooLong(MOST[key]) : say.aTitleCantBeTakenAway);
  }
  return read;
}

/** A cell with a time as people or programs write it; what is none is named. */
function momentOf(
  text: string,
  field: ImportField,
  isEnd: boolean,
  { zone, now }: Known,
  fault: Faulty,
): WallTime | null {
  if (!text) return null;
  const iso = /[zZ]$|[+-]\d\d:?\d\d$/.test(text) ? Date.parse(text) : Number.NaN;
  if (!Number.isNaN(iso)) return { local: wallOf(iso as Instant, zone), zone };
  const local = parseMoment(text, dayOf(now, zone), isEnd);
  if (local === null) fault(field, say.isntADateOrTimeUse(text));
  return local === null ? null : { local, zone };
}

/** The further periods a row asks for that the page has not. Those it has and the row leaves out stay. */
function furtherOf(row: ImportRow, page: KnownPage | null, known: Known, fault: Faulty): ReadRow['further'] {
  const wall = (at: number | null) => (at === null ? null : wallOf(at as Instant, known.zone));
  return readPeriodsCell(row.further).flatMap((typed) => {
    const from = momentOf(typed.from, 'further', false, known, fault);
    const until = momentOf(typed.until, 'further', true, known, fault);
    if (!from) return [];
    const has = page?.periods.some(
      (one) => wall(one.from) === from.local && wall(one.until) === (until?.local ?? null),
    );
    if (has) return [];
    const [start, end] = [instantOfWall(from), until && instantOfWall(until)];
    if (start !== null && start < known.now) fault('further', say.thatTimeIsInThePast);
    if (start !== null && end !== null && end <= start) fault('further', say.itEndsBeforeItStarts);
    return [{ from, until }];
  });
}

/** What a row wants behind the period, where that is not what holds. */
function afterwardsOf(
  row: ImportRow,
  page: KnownPage | null,
  until: WallTime | null,
  known: Known,
  fault: Faulty,
): AnswerInput | null {
  const cell = readAnswerCell(row.afterwards);
  if (!cell || row.afterwards === page?.afterwards) return null;
  const shown = page ? shownPeriod(page.periods, known.now) : null;
  if (!until && (shown?.until ?? null) === null) fault('afterwards', say.anAnswerNeedsAnEnd);
  if (cell.kind !== 'redirect') return cell;
  const place = placeOf({ ...row, site: '', path: cell.to }, known.sites, () => undefined);
  const { status } = cell;
  if (place.siteId) {
    const target = known.pages.find(({ site_id, path }) => site_id === place.siteId && path === place.path);
    if (!target) fault('afterwards', say.noPageLiesAt(cell.to));
    return target ? { kind: 'redirect', status, target: { kind: 'page', pageId: target.id } } : null;
  }
  const outside = checkOutsideAddress(cell.to, 'redirect');
  if (!outside.ok) fault('afterwards', outside.why.message);
  return outside.ok ? { kind: 'redirect', status, target: { kind: 'outside', url: outside.url } } : null;
}

/** The path of the page of ours that a row redirects to, where that may be one. */
export function targetPathOf(row: ImportRow, sites: Known['sites']): string | null {
  const cell = readAnswerCell(row.afterwards);
  if (cell?.kind !== 'redirect') return null;
  const place = placeOf({ ...row, site: '', path: cell.to }, sites, () => undefined);
  return place.siteId ? place.path : null;
}

/**
 * The times a row asks for. Those of the period that a list shows ask for nothing; another end of it, or other times of one
 * that has not begun, give that period other times. Everything else is a new period.
 */
function timesOf(
  row: ImportRow,
  page: KnownPage | null,
  known: Known,
  fault: Faulty,
): Pick<ReadRow, 'from' | 'until' | 'retimes'> {
  const { zone, now } = known;
  const shown = page ? shownPeriod(page.periods, now) : null;
  const wall = (at: number | null) => (at === null ? null : wallOf(at as Instant, zone));
  const isNow = row.from.toLowerCase() === 'now';
  const from = isNow ? ('now' as const) : momentOf(row.from, 'from', false, known, fault);
  const until = momentOf(row.until, 'until', true, known, fault);
  const isStart = !isNow && from !== 'now' && from !== null && shown !== null && from.local === wall(shown.from);
  if (isStart && (until?.local ?? null) === wall(shown.until)) return { from: null, until: null, retimes: null };
  const isOver = shown !== null && shown.until !== null && shown.until <= now;
  const retimes = shown && !isOver && (isStart || shown.from > now) && from && from !== 'now' ? shown.from : null;
  if (isStart && retimes !== null) {
    const end = until && instantOfWall(until);
    if (end !== null && end <= Math.max(shown.from, now)) fault('until', say.itEndsBeforeItStarts);
    return { from, until, retimes: retimes as Instant };
  }
  const start = from === 'now' ? now : from && instantOfWall(from);
  const end = until && instantOfWall(until);
  if (until && !from) fault('from', say.anEndNeedsAStart);
  if (from !== 'now' && start !== null && start < now) fault('from', say.thatTimeIsInThePast);
  if (start !== null && end !== null && end <= start) fault('until', say.itEndsBeforeItStarts);
  return { from, until, retimes: retimes as Instant | null };
}

/** What a page made from a row says: its title as heading, to be filled. */
export function documentOf({ name, metadata }: ReadRow, newId: () => string): PageDocument {
  const heading = metadata.title || name;
  return {
    metadata: { ...metadata, title: heading.slice(0, 200) },
    blocks: [newBlock('opening', newId(), { heading: heading.slice(0, 160) })],
  };
}

/** The release a row asks for, `null` where it touches no visitor. */
export function changeOf(read: ReadRow, pageId: PageId): ReleaseChange | null {
  const { from, until, retimes, page, afterwards } = read;
  const rest = read.further.map((one) => ({
    ...one,
    afterwards: one.until === null ? null : ({ kind: 'not-found' } as const),
  }));
  if (from === null) {
    const [first, ...further] = rest;
    if (first) return { ...first, act: 'release', pageId, cutsLater: false, ...(further.length ? { further } : {}) };
    return afterwards && page ? onlyAfterwards(page, pageId, afterwards, read) : null;
  }
  if (retimes !== null && from !== 'now') {
    const start = page?.periods.find((one) => one.from === retimes);
    const isStart =
      start !== undefined && instantOfWall(from) !== null && wallOf(start.from as Instant, from.zone) === from.local;
    const left = until === null || start?.until !== null ? null : ({ kind: 'not-found' } as const);
    return {
      ...{ act: 'retime', pageId, start: isoInstant(retimes), from: isStart ? null : from, until },
      ...{ afterwards: afterwards ?? left, cutsLater: false },
    };
  }
  return {
    act: 'release',
    pageId,
    from,
    until,
    afterwards: until === null ? null : (afterwards ?? { kind: 'not-found' }),
    cutsLater: false,
    ...(rest.length ? { further: rest } : {}),
  };
}

/** Another answer behind a period that keeps its times, or behind one that is over. */
function onlyAfterwards(
  page: KnownPage,
  pageId: PageId,
  afterwards: AnswerInput,
  { zone, now }: Pick<ReadRow, 'zone' | 'now'>,
): ReleaseChange | null {
  const shown = shownPeriod(page.periods, now);
  if (!shown || shown.until === null) return null;
  if (shown.until <= now) return { act: 'afterwards', pageId, afterwards };
  const until = { local: wallOf(shown.until as Instant, zone), zone };
  const start = isoInstant(shown.from as Instant);
  return { act: 'retime', pageId, start, from: null, until, afterwards, cutsLater: false };
}
