import { randomBytes } from 'node:crypto';
import type { AddressCheck, HistoryEntry, NewPageBody, PageLink, PageSheet, SheetLine } from '@domatium/contracts';
import { checkTypedPath, joinPath, readablePath } from '@domatium/core/address';
import { pageReferencesOf, type PageDocument } from '@domatium/core/document';
import { startDocument } from '@domatium/core/starts';
import { addressAt, type PageId, type PortfolioId, type RevisionId } from '@domatium/core/plan';
import {
  followedOver,
  resolutionWords,
  resolvedOver,
  stretchesOf,
  type Followed,
  type RouteTable,
} from '@domatium/core/routing';
import { contains, endOf, intersect, writeInstant, writeEnd, type Instant } from '@domatium/core/time';
import { compareDays } from '@domatium/core/traffic';
import { writeAudit } from '../../platform/database/audit.js';
import { inTransaction, setInstant, type Context, type Db } from '../../platform/database/context.js';
import { findingsOfPage } from '../../heart/checks/index.js';
import { notifyEvent } from '../../platform/events/index.js';
import { InvalidError, NotFoundError, StaleError } from '../../platform/errors.js';
import { claimsAt, hostNamesOf, neighbourhoodOf, siteAddressesOf, tableOf, takeIds } from '../../heart/plans/index.js';
import {
  draftStates,
  namesOfPages,
  referrersOf,
  historyOf,
  revisionNumbers,
  revisionsById,
  wallZonesOf,
  zoneOf,
} from '../../heart/releases/index.js';
import { leadingTo } from '../../heart/stock/index.js';
import { dailyVisits } from '../visits/index.js';
import { addressViews, otherAddresses } from './addresses.js';
import * as store from './store.js';
import * as templates from './templates.js';
import { say } from '@domatium/core/words/answers/pages';
import { UNNAMED } from '@domatium/core/words';

const newBlockId = () => randomBytes(6).toString('hex');

/** Makes a page with the draft of its start. It has no period yet: visitors get nothing of it. */
export async function newPage(context: Context, portfolioId: PortfolioId, body: NewPageBody): Promise<{ id: number }> {
  const own = (await siteAddressesOf(context.database, portfolioId)).filter(({ siteId }) => siteId === body.siteId);
  const bases = own.map(({ basePath }) => basePath);
  const checked = checkTypedPath(body.path, bases);
  if (!checked.ok) throw new InvalidError([{ path: 'path', ...checked.why }]);
  const document = body.templateId
    ? await templates.documentOfTemplate(context, portfolioId, body.templateId)
    : startDocument(body.start, body.name, newBlockId);
  return {
    id: await makePage(context, portfolioId, {
      name: body.name,
      role: checked.path === '/' ? 'home' : 'ordinary',
      document,
      siteId: body.siteId,
      path: checked.path,
      templateId: body.templateId ?? null,
    }),
  };
}

/** Makes a page that says something already; its path is taken as it is, so that a site's not-found page can be made. */
export async function makePage(
  context: Context,
  portfolioId: PortfolioId,
  page: Omit<store.NewPage, 'placementId'>,
): Promise<PageId> {
  const { now, account } = context;
  return inTransaction(context.database, async (trx) => {
    if (!(await store.siteExists(trx, portfolioId, page.siteId)))
      throw new InvalidError([{ path: 'siteId', message: say.thatSiteIsntInThisPortfolio }]);
    await setInstant(trx, now);
    const nextId = await takeIds(trx, 1);
    const id = await store.insertPage(trx, portfolioId, { ...page, placementId: nextId() }, now, account);
    const { name, siteId, path, role } = page;
    await writeAudit(trx, {
      portfolioId,
      at: now,
      accountId: account,
      act: 'new-page',
      object: 'page',
      objectId: id,
      after: { name, siteId, path, role },
    });
    await notifyEvent(trx, { portfolioId, kind: 'page', pageIds: [id], by: account });
    return id;
  });
}

export async function rename(
  context: Context,
  portfolioId: PortfolioId,
  pageId: number,
  name: string,
  version: number,
): Promise<{ version: number }> {
  const { now, account } = context;
  return inTransaction(context.database, async (trx) => {
    const page = await store.pageById(trx, portfolioId, pageId);
    if (!page) throw new NotFoundError();
    const next = await store.renamePage(trx, portfolioId, pageId, name, version, now, account);
    if (next === null)
      throw new StaleError(say.thisPageHasBeenChangedBy(page.name), {
        name: page.name,
        version: page.version,
      });
    await writeAudit(trx, {
      portfolioId,
      at: now,
      accountId: account,
      act: 'rename',
      object: 'page',
      objectId: pageId,
      before: { name: page.name },
      after: { name },
    });
    await notifyEvent(trx, { portfolioId, kind: 'page', pageIds: [pageId], by: account });
    return { version: next };
  });
}

/** What visitors of the page's address get, over time, and all that hangs together with the page, seen at a moment. */
export async function sheet(
  context: Context,
  portfolioId: PortfolioId,
  pageId: PageId,
  at: Instant = context.now,
): Promise<PageSheet> {
  const { now } = context;
  return inTransaction(
    context.database,
    async (db) => {
      const page = await store.pageById(db, portfolioId, pageId);
      const [draft] = await draftStates(db, portfolioId, [pageId]);
      if (!page || !draft) throw new NotFoundError();
      const zone = await zoneOf(db, portfolioId);
      const document = await shownDocument(db, portfolioId, pageId, at, draft.document);
      const targets = pageReferencesOf(document);
      const referrers = (await referrersOf(db, [pageId], at))
        .map(({ referrer }) => referrer)
        .filter((id) => id !== pageId);
      const source = { db, portfolioId, style: context.style };
      const others = await otherAddresses(db, portfolioId, pageId, at);
      const around = await neighbourhoodOf(source, [pageId, ...targets, ...referrers], { extra: others });
      const plan = around.plans.get(pageId);
      const place = plan && addressAt(plan, at, around.siteAddresses);
      const placement = plan?.placements.find(({ during }) => contains(during, at));
      if (!plan || !place || !placement) throw new NotFoundError();
      const routes = tableOf(around);
      const host = around.hosts.get(place.hostId) ?? '';
      const names = await namesOfPages(db, portfolioId, [...around.plans.keys()]);
      const nameOf = (id: PageId) => names.get(id) ?? UNNAMED.page;
      const numbers = await revisionNumbers(
        db,
        [...around.plans.values()].flatMap(({ periods }) => periods.map(({ revisionId }) => revisionId)),
      );
      const daily = (await dailyVisits(db, portfolioId, [pageId], zone, now, 60)).get(pageId) ?? [];
      const sites = await db('site')
        .where({ portfolio_id: portfolioId, id: placement.siteId })
        .select<{ name: string }[]>('name');
      const [row] = await db('draft').where({ page_id: pageId }).select<{ version: number }[]>('version');
      return {
        id: page.id,
        name: page.name,
        role: page.role,
        version: page.version,
        siteId: placement.siteId,
        siteName: sites[0]?.name ?? '',
        host,
        path: place.path,
        now: at,
        draftVersion: row?.version ?? 1,
        draftDiffers: !draft.is_same,
        latestRevision: draft.latest_number,
        findings: await findingsOfPage(db, portfolioId, pageId, (when) => writeInstant(when, zone, at), now),
        campaign: page.campaign,
        owner: page.owner,
        bin: await store.binStay(db, pageId, at),
        template: page.template_id === null ? null : { id: page.template_id, name: page.template_name ?? '' },
        isTemplate: page.is_template,
        lines: linesAt(routes, { host, path: place.path }, pageId, at, nameOf, (id) => numbers.get(id) ?? 0),
        addresses: await addressViews(
          db,
          portfolioId,
          routes,
          others,
          (id) => around.hosts.get(id) ?? '',
          place,
          nameOf,
          { zone, at },
        ),
        zones: [...((await wallZonesOf(db, [pageId])).get(pageId) ?? [])].flatMap(([at, own]) =>
          own === zone ? [] : [{ at, zone: own }],
        ),
        moves: plan.placements
          .filter(({ during }) => during.from > at)
          .flatMap(({ during }) => {
            const next = addressAt(plan, during.from, around.siteAddresses);
            return next ? [{ at: during.from, host: around.hosts.get(next.hostId) ?? '', path: next.path }] : [];
          }),
        visits: compareDays(daily, 30),
        linksTo: targets.map((target): PageLink => ({
          pageId: target,
          name: nameOf(target),
          note: linkNote(routes, target, { from: at, until: null }, zone, at, false),
        })),
        linkedFrom: referrers.map((referrer): PageLink => ({
          pageId: referrer,
          name: nameOf(referrer),
          note: inboundNote(routes, around.plans.get(referrer)?.periods ?? [], pageId, zone, at),
        })),
        ledFrom: await ledFrom(db, portfolioId, pageId, at),
      };
    },
    'repeatable read',
  );
}

/** Each thing of the stock that leads to a page once. */
async function ledFrom(db: Db, portfolioId: PortfolioId, pageId: PageId, at: Instant): Promise<PageSheet['ledFrom']> {
  const leading = await leadingTo(db, portfolioId, [pageId], at);
  return [...new Map(leading.map(({ itemId, kind, name }) => [itemId, { itemId, kind, name }])).values()];
}

/** What a page says at a moment: its live revision, or its draft. */
async function shownDocument(
  db: Db,
  portfolioId: PortfolioId,
  pageId: PageId,
  now: Instant,
  draft: PageDocument,
): Promise<PageDocument> {
  const rows = await db('period')
    .where({ portfolio_id: portfolioId, page_id: pageId })
    .whereRaw('during @> ?::timestamptz', [new Date(now)])
    .select<{ revision_id: RevisionId }[]>('revision_id');
  const [live] = await revisionsById(
    db,
    rows.map(({ revision_id }) => revision_id),
  );
  return live?.document ?? draft;
}

function linesAt(
  routes: RouteTable,
  address: { host: string; path: string },
  pageId: PageId,
  now: Instant,
  nameOf: (id: PageId) => string,
  numberOf: (id: RevisionId) => number,
): SheetLine[] {
  const first = Math.min(
    now,
    ...stretchesOf(routes.hosts.get(address.host), address.path).map(({ from }) => from),
  ) as Instant;
  return resolvedOver(routes, address, { from: first, until: null }).map(({ during, value }): SheetLine => {
    const isThisPage = value.kind === 'page' && value.pageId === pageId;
    const revision = value.kind === 'page' ? numberOf(value.revisionId) : null;
    const words =
      value.kind === 'page'
        ? say.revisionWithPageId(isThisPage ? say.thisPage : nameOf(value.pageId), revision ?? '')
        : resolutionWords(value, { page: nameOf, revision: () => '' });
    return {
      from: during.from,
      until: during.until,
      kind: value.kind === 'unknown-host' ? 'not-found' : value.kind,
      words: readableWords(words),
      isThisPage,
      revision,
    };
  });
}

const readableWords = (words: string) => words.replace(/\/[^\s,]*%[^\s,]*/g, (path) => readablePath(path));

function linkNote(
  routes: RouteTable,
  target: PageId,
  during: { from: Instant; until: Instant | null },
  zone: string,
  now: Instant,
  isInbound: boolean,
): string | null {
  const wrong = followedOver(routes, target, during).find(({ value }) => howLinked(value) !== 'direct');
  if (!wrong) return null;
  const how = howLinked(wrong.value);
  const isNow = wrong.during.from <= now;
  if (isInbound)
    return how === 'redirect'
      ? `${isNow ? say.linksHereThroughARedirect : say.willStillLinkHereAfterThrough(writeEnd(wrong.during.from, zone, now))}`
      : isNow
        ? say.linksHereButTheLinkIs
        : say.willStillLinkHereFromAnd(writeInstant(wrong.during.from, zone, now));
  if (how === 'redirect')
    return isNow ? say.throughARedirect : say.throughARedirectFrom(writeInstant(wrong.during.from, zone, now));
  return isNow ? say.offShownAsPlainText : say.offFrom(writeInstant(wrong.during.from, zone, now));
}

const howLinked = (end: Followed) =>
  end.kind === 'address' ? (end.isDirect ? 'direct' : 'redirect') : end.kind === 'outside' ? 'redirect' : 'nowhere';

function inboundNote(
  routes: RouteTable,
  periods: readonly { during: { from: Instant; until: Instant | null } }[],
  pageId: PageId,
  zone: string,
  now: Instant,
): string | null {
  for (const { during } of periods) {
    const ahead = intersect(during, { from: now, until: null });
    const note = ahead && linkNote(routes, pageId, ahead, zone, now, true);
    if (note) return note;
  }
  return null;
}

/** Who lies at an address over time, in words for the field and as data. Only the press of a release binds. */
export async function addressCheck(
  context: Context,
  portfolioId: PortfolioId,
  siteId: number,
  typed: string,
  pageId: number | null,
): Promise<AddressCheck> {
  const { database, now } = context;
  const site = (await siteAddressesOf(database, portfolioId)).find(
    (address) => address.siteId === siteId && address.isPrimary && contains(address.during, now),
  );
  if (!site) throw new InvalidError([{ path: 'siteId', message: say.thatSiteIsntInThisPortfolio }]);
  const host = (await hostNamesOf(database, portfolioId)).get(site.hostId) ?? '';
  const checked = checkTypedPath(typed, [site.basePath]);
  if (!checked.ok)
    return { address: host + typed, isValid: false, isFreeNow: false, words: checked.why.message, holders: [] };
  const path = joinPath(site.basePath, checked.path);
  const address = host + readablePath(path);
  const claims = (await claimsAt(database, [{ hostId: site.hostId, path }]))
    .filter((claim) => claim.layer === 'page' && endOf(claim.during) > now && claim.pageId !== pageId)
    .sort((a, b) => a.during.from - b.during.from);
  const lying = (await store.pagesLyingAt(database, site.hostId, path, now)).filter(({ id }) => id !== pageId);
  const names = await namesOfPages(
    database,
    portfolioId,
    claims.map((claim) => claim.pageId as PageId),
  );
  const zone = await zoneOf(database, portfolioId);
  const holders = claims.map((claim) => ({
    from: claim.during.from,
    until: claim.during.until,
    pageId: claim.pageId as number,
    name: names.get(claim.pageId as PageId) ?? say.anotherPage,
  }));
  return {
    address,
    isValid: true,
    isFreeNow: !holders.some(({ from }) => from <= now),
    holders,
    words: holdersWords(
      holders,
      lying.filter(({ id }) => !holders.some((holder) => holder.pageId === id)),
      zone,
      now,
    ),
  };
}

function holdersWords(
  holders: AddressCheck['holders'],
  lying: readonly { name: string }[],
  zone: string,
  now: Instant,
): string {
  const parts = holders.map(({ from, until, name }) => {
    const to = until === null ? '' : say.to(writeEnd(until as Instant, zone, now));
    return from <= now
      ? say.todayItIs(name, until === null ? say.withNoEndPlanned : to)
      : say.fromItIs(writeInstant(from as Instant, zone, now), to, name);
  });
  const draft = lying.length
    ? say.hereTooWithNothingLiveOr(lying.map(({ name }) => name).join(', '), lying.length === 1 ? say.lies : say.lie)
    : null;
  if (!parts.length) return draft ? say.free(draft) : say.freeNowAndForEverythingPlanned;
  const isFree = (holders[0]?.from ?? 0) > now;
  const words = [...(isFree ? [say.freeToday] : []), ...parts].join('; ');
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
}

/** Releases and undos that changed a page, newest first, each with whether it can be undone. */
export async function history(context: Context, portfolioId: PortfolioId, pageId: PageId): Promise<HistoryEntry[]> {
  const { database, now } = context;
  if (!(await store.pageById(database, portfolioId, pageId))) throw new NotFoundError();
  return historyOf(database, portfolioId, { kind: 'page', id: pageId }, now);
}
