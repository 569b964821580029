import { createHash, randomBytes } from 'node:crypto';
import { absoluteAddress, readablePath } from '@domatium/core/address';
import { EMPTY_DOCUMENT } from '@domatium/core/document';
import { settingCells, writePeriodsCell } from '@domatium/core/exchange';
import type { PageId, PagePlan, PortfolioId } from '@domatium/core/plan';
import {
  furtherPeriods,
  marksOf,
  placeAt,
  questionOf,
  rowOf,
  rowState,
  rowUnfound,
  shownPeriod,
  tableOf,
  viewOf,
  type RegisterRow,
  type RegisterTable,
  type ViewParts,
} from '@domatium/core/register';
import { SEARCH_WORDS } from '@domatium/core/words';
import { DAY, isoInstant, later, wallOf, type Instant } from '@domatium/core/time';
import ical, { ICalCalendarMethod } from 'ical-generator';
import type { Context } from '../../platform/database/context.js';
import { NotFoundError } from '../../platform/errors.js';
import { afterwardsCell, plansOf } from '../../heart/plans/index.js';
import { zoneOf } from '../../heart/releases/index.js';
import { register } from '../register/index.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/views';

/** How far a calendar reaches: what was a month ago, and what is planned two years ahead. */
const BACK = 31 * DAY;
const AHEAD = 730 * DAY;
/** Pages whose plans are read at once for a file. */
const AT_ONCE = 500;

export const EXPORTED = [
  'id',
  'name',
  'address',
  'site',
  'state',
  'from',
  'until',
  'afterwards',
  'further periods',
  'revision',
  'visits 30 days',
  'visits 30 before',
  'campaign',
  'owner',
  'labels',
  'template',
  'blocks a release',
  'worth fixing',
  'search engines',
  'changed',
  'changed by',
  'draft title',
  'draft description',
  'draft shared title',
  'draft shared description',
  'draft robots',
] as const;
export type ExportedRow = Record<(typeof EXPORTED)[number], string | number>;

/** The rows of a view at a moment, one by one in its order: the same functions as the list in the browser. */
export async function* exported(
  context: Context,
  portfolioId: PortfolioId,
  parts: ViewParts,
  at: Instant,
  /** As people read times, in the portfolio's zone; else as programs do. */
  isForPeople = true,
): AsyncGenerator<ExportedRow> {
  const { table, rows } = await answered(context, portfolioId, parts, at);
  const zone = await zoneOf(context.database, portfolioId);
  const write = (instant: Instant) => (isForPeople ? wallOf(instant, zone).replace('T', ' ') : isoInstant(instant));
  const address = (id: PageId) => {
    const target = table.rowOfId.get(id);
    if (target === undefined) return say.page(id);
    const { host, path } = placeAt(table, target, at);
    return host + readablePath(path);
  };
  for (let first = 0; first < rows.length; first += AT_ONCE) {
    const pages = [...rows.slice(first, first + AT_ONCE)].map((row) => rowOf(table, row, at));
    const plans = await plansOf(
      context.database,
      portfolioId,
      pages.map(({ id }) => id as PageId),
    );
    const settings = await store.settingsOf(
      context.database,
      pages.map(({ id }) => id),
    );
    for (const page of pages) {
      const { title, description, shareTitle, shareDescription, robots } = settingCells(
        settings.get(page.id) ?? EMPTY_DOCUMENT.metadata,
      );
      yield {
        ...exportedRow(page, at, write, plans.get(page.id as PageId), address),
        ...{ 'draft title': title, 'draft description': description, 'draft robots': robots },
        ...{ 'draft shared title': shareTitle, 'draft shared description': shareDescription },
      };
    }
  }
}

async function answered(
  context: Context,
  portfolioId: PortfolioId,
  parts: ViewParts,
  at: Instant,
): Promise<{ table: RegisterTable; rows: Int32Array }> {
  const table = tableOf((await register(context, portfolioId)).columns);
  return { table, rows: viewOf(table, questionOf(parts, table.columns, { at, now: context.now })).rows };
}

/** The period that holds the moment, or else the next, or else the last. */
function exportedRow(
  page: RegisterRow,
  at: Instant,
  write: (instant: Instant) => string,
  plan: PagePlan | undefined,
  addressOf: (id: PageId) => string,
): Omit<ExportedRow, `draft ${string}`> {
  const period = shownPeriod(page.periods, at);
  const time = (instant: number | null | undefined) => (typeof instant === 'number' ? write(instant as Instant) : '');
  return {
    id: page.id,
    name: page.name,
    address: page.host + readablePath(page.path),
    site: page.siteName,
    state: page.binnedSince === null ? rowState(page, at) : 'binned',
    from: time(period?.from),
    until: time(period?.until),
    afterwards: plan && period ? afterwardsCell(plan, period, addressOf) : '',
    'further periods': writePeriodsCell(
      furtherPeriods(page.periods, at).map(({ from, until }) => ({
        from: write(from as Instant),
        until: until === null ? null : write(until as Instant),
      })),
    ),
    revision: period?.revision ?? '',
    'visits 30 days': page.visits,
    'visits 30 before': page.visitsBefore,
    campaign: page.campaign ?? '',
    owner: page.owner ?? '',
    labels: page.labels.join(', '),
    template: page.template ?? '',
    'blocks a release': page.findings?.blocks ?? 0,
    'worth fixing': page.findings?.worthFixing ?? 0,
    'search engines': SEARCH_WORDS[rowUnfound(page, at) ?? 'found'],
    changed: time(page.changedAt),
    'changed by': page.changedBy ?? '',
  };
}

export const namedViews = ({ database, account }: Context, portfolioId: PortfolioId) =>
  store.namedViewsOf(database, portfolioId, account);

export async function nameView(
  { database, account, now }: Context,
  portfolioId: PortfolioId,
  view: { readonly name: string; readonly isShared: boolean; readonly parts: ViewParts },
): Promise<{ id: number }> {
  return { id: await store.saveView(database, portfolioId, account, view, now) };
}

export async function removeOwn(
  { database, account }: Context,
  what: 'named_view' | 'calendar_feed',
  portfolioId: PortfolioId,
  id: number,
): Promise<{ id: number }> {
  if (!(await store.removeOwn(database, what, portfolioId, account, id)))
    throw new NotFoundError(what === 'named_view' ? 'view' : 'feed');
  return { id };
}

export const feeds = ({ database, account }: Context, portfolioId: PortfolioId) =>
  store.feedsOf(database, portfolioId, account);

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** A calendar feed of a view. The address is told once; only its hash is kept. */
export async function newFeed(
  { database, account, now }: Context,
  portfolioId: PortfolioId,
  feed: { readonly name: string; readonly parts: ViewParts },
): Promise<{ id: number; path: string }> {
  const token = randomBytes(24).toString('base64url');
  const id = await store.insertFeed(database, portfolioId, account, { ...feed, tokenHash: hashOf(token) }, now);
  return { id, path: `/api/calendars/${token}.ics` };
}

/** How long a happening is in calendars, in milliseconds. */
const SHOWN_FOR = 900_000;

/** What goes live and comes off in a feed's view. The same happening keeps its identity from one reading to the next. */
export async function calendar(context: Context, token: string): Promise<string> {
  const feed = await store.feedByToken(context.database, hashOf(token.replace(/\.ics$/, '')));
  if (!feed) throw new NotFoundError('calendar');
  const { now } = context;
  const seen = { ...context, account: feed.account_id };
  const { table, rows } = await answered(seen, feed.portfolio_id, feed.parts, now);
  const calendar = ical({ name: `${feed.name} · ${feed.portfolio}`, method: ICalCalendarMethod.PUBLISH });
  calendar.prodId({ company: 'Domatium', product: say.pagesOverTime, language: 'EN' });
  const span = { from: later(now, -BACK), until: later(now, AHEAD) };
  for (const row of rows) {
    const page = rowOf(table, row, now);
    for (const { at, kind } of marksOf(table, Int32Array.of(row), span))
      calendar.createEvent({
        id: `${kind}-${page.id}-${at}@domatium`,
        // What has no length is not seen in most calendars; what comes off at midnight does so on the day that ends.
        start: new Date(kind === 'live' ? at : at - SHOWN_FOR),
        end: new Date(kind === 'live' ? at + SHOWN_FOR : at),
        stamp: new Date(page.changedAt),
        summary: `${page.name} ${kind === 'live' ? 'goes live' : 'comes off'}`,
        description: page.host + readablePath(page.path),
        url: absoluteAddress(context.style, page.host, page.path),
      });
  }
  return calendar.toString();
}
