import type { CopySiteBody, StockChange } from '@domatium/contracts';
import { mapBlock } from '@domatium/core/document';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import {
  byReach,
  isCovered,
  mapMenu,
  PART_KINDS,
  partsNamed,
  placeOnSite,
  ruleFor,
  standingOf,
  type LegalPage,
  type Menu,
  type Part,
  type SiteProfile,
  type Standing,
  type StockContent,
  type StockKind,
} from '@domatium/core/stock';
import { endOf, wallOf, type Instant, type Interval } from '@domatium/core/time';
import { say } from '@domatium/core/words/answers/copies';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { InvalidError, NotFoundError } from '../../platform/errors.js';
import { prepareIn } from '../../heart/prepared/index.js';
import { zoneOf } from '../../heart/releases/index.js';
import { insertItem, itemsOf, periodsOf, type ItemRow } from '../../heart/stock/index.js';
import { newSiteIn, setRulesIn } from '../people/index.js';
import { copyIn } from './service.js';
import * as store from './store.js';

export interface CopiedSite {
  readonly id: number;
  readonly pages: number;
  readonly preparedId: number | null;
}

/**
 * A site once more, somewhere else: what it is, its own values, CSS, menus, legal pages and what is said of where parts
 * stand, with its pages as drafts where that is wanted. Headers, footers and bands are shared with it, or copied and then
 * changed on their own. All of it in one transaction; what visitors would see of it is one prepared release.
 */
export function copySite(
  context: Context,
  portfolioId: PortfolioId,
  siteId: number,
  { parts, withPages, ...site }: CopySiteBody,
): Promise<CopiedSite> {
  return inTransaction(context.database, async (trx) => {
    const items = await itemsOf(trx, portfolioId);
    const profile = items.find((one) => one.kind === 'profile' && one.site_id === siteId);
    if (!profile) throw new NotFoundError('site');
    const of = profile.draft as SiteProfile;
    const id = await newSiteIn(trx, context, portfolioId, { ...site, consent: site.consent ?? null, theme: of.theme });
    await setRulesIn(trx, context, portfolioId, id, await store.siteRules(trx, siteId));
    const made = { at: context.now, by: context.account };
    const ownProfile = (await itemsOf(trx, portfolioId)).find((one) => one.kind === 'profile' && one.site_id === id);
    if (!ownProfile) throw new Error('A new site has no profile');
    await store.saveDraft(trx, ownProfile.id, { ...of, brand: site.name }, made);
    const held = await heldFrom(trx, items, context.now);
    const own = [...held.values()].map(({ item }) => item).filter((one) => one.site_id === siteId && isOfSite(one));
    const standing = standsOn(held, siteId, await store.hostOfSite(trx, siteId));
    const put = [{ id: ownProfile.id, during: { from: context.now, until: null as Instant | null } }];
    const hold = (itemId: number, like: number) => {
      const during = held.get(like)?.during;
      if (during) put.push({ id: itemId, during });
    };
    const insert = async (item: Pick<ItemRow, 'kind' | 'key' | 'name'>, onSite: number | null, draft: unknown) =>
      insertItem(trx, portfolioId, { ...item, siteId: onSite, draft: draft as ItemRow['draft'] }, made);
    const partOf = new Map<number, number>();
    if (parts === 'copy')
      for (const { id: from, kind, name, draft } of partsOfSite(held, own, standing, siteId)) {
        const called = say.partOfSite(name, site.name).slice(0, 200);
        partOf.set(from, await insert({ kind, key: null, name: called }, null, draft));
      }
    const copies = withPages ? await copyPages(trx, context, portfolioId, [siteId, id], partOf) : new Map();
    const pageOf = (pageId: PageId): PageId => (copies.get(pageId) as PageId | undefined) ?? pageId;
    for (const [from, to] of partOf) {
      await store.saveDraft(trx, to, partOfCopy(held.get(from)?.item.draft as Part, pageOf, id), made);
      hold(to, from);
    }
    for (const item of own) {
      // What stood there because all sites say so is said of this one, where it is to be changed on its own.
      const isWhole = isRuleOfSite(item) && partsNamed(standing).some((one) => partOf.has(one));
      const { isLocked } = item.draft as Standing;
      const draft = isWhole ? { ...remappedStanding(standing, partOf), isLocked } : ofCopy(item, pageOf, partOf);
      hold(await insert(item, id, draft), item.id);
    }
    if (partsNamed(standing).some((one) => partOf.has(one)) && !own.some(isRuleOfSite)) {
      const rule = { kind: 'standing' as const, key: null, name: site.name };
      const draft = remappedStanding(standing, partOf);
      put.push({ id: await insert(rule, id, draft), during: { from: context.now, until: null } });
    }
    // Shared bands that stand on single sites by themselves stand on this one too.
    if (parts === 'share')
      for (const { item } of held.values()) {
        const sites = item.kind === 'band' ? ownSites(item.draft as Part) : [];
        if (!sites.includes(siteId)) continue;
        await store.saveDraft(trx, item.id, { ...(item.draft as Part), sites: [...sites, id] }, made);
        hold(item.id, item.id);
      }
    const zone = await zoneOf(trx, portfolioId);
    const wall = (at: Instant) => ({ local: wallOf(at, zone), zone });
    const stock = put.map(({ id: itemId, during: { from, until } }): StockChange => {
      const times = { from: from <= context.now ? ('now' as const) : wall(from), until: until && wall(until) };
      return { act: 'put', itemId, ...times };
    });
    const name = say.siteLike(site.name).slice(0, 200);
    const preparedId = await prepareIn(trx, context, portfolioId, { name, changes: [], stock });
    return { id, pages: copies.size, preparedId };
  });
}

/** What belongs to one site alone and goes along with a copy of it. */
const isOfSite = ({ kind }: ItemRow) => ['values', 'css', 'standing', 'menu', 'legal', 'metadata'].includes(kind);
const isRuleOfSite = ({ kind, key }: ItemRow) => kind === 'standing' && key === null;

/** The sites on which a band stands by itself, where it is not all of them. */
const ownSites = ({ sites = [] }: Part): readonly number[] => (sites === 'all' ? [] : sites);

/** What of the stock is on its pages now or later, and how long from now on. */
type Held = ReadonlyMap<number, { readonly item: ItemRow; readonly during: Interval }>;

async function heldFrom(trx: Db, items: readonly ItemRow[], now: Instant): Promise<Held> {
  const periods = await periodsOf(
    trx,
    items.map(({ id }) => id),
  );
  return new Map(
    items.flatMap((item) => {
      const during = periods.get(item.id)?.find((one) => endOf(one.during) > now)?.during;
      return during ? [[item.id, { item, during }] as const] : [];
    }),
  );
}

/** What is said of all pages of a site, by its own rule and those above it; nothing of it where a lock above it forbids more. */
function standsOn(held: Held, siteId: number, host: string): Standing {
  const rules = [...held.values()].flatMap(({ item }) => {
    const about = item.kind === 'standing' ? ruleFor(item.key, item.site_id) : null;
    return about && isCovered(about, placeOnSite(siteId, host))
      ? [{ rule: { id: item.id, for: about }, standing: item.draft as Standing }]
      : [];
  });
  const { header, footer, bands, lockedBy } = standingOf(rules.sort((a, b) => byReach(a.rule, b.rule)));
  if (lockedBy?.rule && lockedBy.rule.for.scope !== 'site')
    return { header: null, footer: null, bands: null, isLocked: false };
  return { header: header.value, footer: footer.value, bands: bands.by ? bands.value : null, isLocked: false };
}

/** Parts that stand on pages of the site by what is said of them, and bands that stand on it by themselves. */
function partsOfSite(held: Held, own: readonly ItemRow[], standing: Standing, siteId: number): ItemRow[] {
  const said = own.flatMap(({ kind, draft }) => (kind === 'standing' ? [draft as Standing] : []));
  const named = new Set([...said, standing].flatMap(partsNamed));
  const items = [...held.values()].map(({ item }) => item);
  return items.filter(({ id, kind, draft }) => {
    if (!(PART_KINDS as readonly string[]).includes(kind)) return false;
    return named.has(id) || ownSites(draft as Part).includes(siteId);
  });
}

/** Its live and planned pages as drafts, at the same paths. */
async function copyPages(
  trx: Parameters<typeof copyIn>[0],
  context: Context,
  portfolioId: PortfolioId,
  [siteId, to]: readonly [from: number, to: number],
  partOf: ReadonlyMap<number, number>,
): Promise<Map<PageId, PageId>> {
  const pages = await store.pagesOfSite(trx, portfolioId, siteId, context.now);
  if (!pages.length) return new Map();
  if (pages.length > store.MOST_OF_SITE)
    throw new InvalidError([{ path: 'withPages', message: say.tooManyPagesOfASite(store.MOST_OF_SITE) }]);
  const body = {
    ...{ pages, target: { portfolioId, siteId: to }, names: '{name}', paths: '{path}', replacements: [] },
    ...{ withPeriods: false, days: 0, missing: [], texts: [] },
  };
  const { pages: made } = await copyIn(trx, context, portfolioId, body, null, partOf);
  return new Map(pages.map((id, index) => [id, made[index] as PageId]));
}

/** What is of the site as it is for its copy: pages that were copied are led to as the copies, and parts likewise. */
function ofCopy(
  { kind, draft }: ItemRow,
  pageOf: (id: PageId) => PageId,
  partOf: ReadonlyMap<number, number>,
): StockContent[StockKind] {
  if (kind === 'menu') return mapMenu(draft as Menu, pageOf);
  if (kind === 'legal')
    return (draft as readonly LegalPage[]).map((one) => ({ ...one, pageId: one.pageId && pageOf(one.pageId) }));
  return kind === 'standing' ? remappedStanding(draft as Standing, partOf) : draft;
}

function remappedStanding(said: Standing, partOf: ReadonlyMap<number, number>): Standing {
  const part = <T>(one: T) => (typeof one === 'number' ? ((partOf.get(one) ?? one) as T) : one);
  return { ...said, header: part(said.header), footer: part(said.footer), bands: said.bands?.map(part) ?? null };
}

const partOfCopy = (part: Part, pageOf: (id: PageId) => PageId, siteId: number): Part => ({
  ...part,
  ...(ownSites(part).length ? { sites: [siteId] } : {}),
  blocks: part.blocks.map((block) =>
    mapBlock(block, { link: (link) => (link.kind === 'page' ? { ...link, pageId: pageOf(link.pageId) } : link) }),
  ),
});
