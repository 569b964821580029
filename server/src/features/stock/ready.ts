import type { NewStockBody } from '@domatium/contracts';
import { normalisePath } from '@domatium/core/address';
import type { Code } from '@domatium/core/codes';
import type { PortfolioId } from '@domatium/core/plan';
import { PAGE_ROLES } from '@domatium/core/register';
import {
  isMenuName,
  isMetadataScope,
  menuFaults,
  pagesOfEntries,
  partsNamed,
  ruleFor,
  ruleKeyOf,
  type LegalPage,
  type Menu,
  type Part,
  type PartKind,
  type SiteProfile,
  type Standing,
} from '@domatium/core/stock';
import { isThemeKey } from '@domatium/core/theme';
import { say } from '@domatium/core/words/answers/stock';
import type { Knex } from 'knex';
import type { Context } from '../../platform/database/context.js';
import { InvalidError } from '../../platform/errors.js';
import * as store from '../../heart/stock/index.js';
import { faceForm } from '../pictures/index.js';

/** The key that something new in the stock is kept under, where its kind has one. */
export async function readyKey(
  trx: Knex.Transaction,
  context: Context,
  portfolioId: PortfolioId,
  { kind, key = null, siteId = null }: NewStockBody,
): Promise<string | null> {
  if (kind === 'theme') return key ?? `own-${context.now.toString(36)}`;
  if (kind === 'standing' || kind === 'metadata') return readyRule(trx, portfolioId, kind, key, siteId);
  if (kind !== 'menu') return null;
  if (key === null || !isMenuName(key)) throw new InvalidError([{ path: 'key', message: say.aMenuIsNamed }]);
  return key;
}

/** What something of the stock names is there. */
export async function readyContent(
  trx: Knex.Transaction,
  context: Context,
  portfolioId: PortfolioId,
  { kind, key, draft }: Pick<store.ItemRow, 'kind' | 'key' | 'site_id' | 'draft'>,
): Promise<void> {
  if (kind === 'profile') await readyProfile(trx, context, portfolioId, draft as SiteProfile);
  if (kind === 'standing') await readyStanding(trx, portfolioId, draft as Standing);
  if (kind === 'band') await readySites(trx, portfolioId, draft as Part);
  if (kind === 'code') await readyReach(trx, portfolioId, draft as Code);
  if (kind === 'menu') await readyMenu(trx, portfolioId, key ?? '', draft as Menu);
  if (kind === 'legal')
    await readyPages(
      trx,
      portfolioId,
      (draft as readonly LegalPage[]).map(({ pageId }) => pageId),
    );
}

async function readyMenu(trx: Knex.Transaction, portfolioId: PortfolioId, key: string, menu: Menu): Promise<void> {
  const faults = menuFaults(key, menu);
  if (faults.length) throw new InvalidError(faults.map((fault) => ({ ...fault, path: `content.${fault.path}` })));
  await readyPages(trx, portfolioId, pagesOfEntries(menu.entries));
}

/** Pages are of the portfolio, in the bin or not. */
async function readyPages(
  trx: Knex.Transaction,
  portfolioId: PortfolioId,
  ids: readonly (number | null)[],
): Promise<void> {
  const wanted = [...new Set(ids.flatMap((id) => id ?? []))];
  const count = await store.pagesKnown(trx, portfolioId, wanted);
  if (count < wanted.length) throw new InvalidError([{ path: 'content', message: say.unknownPage }]);
}

/** The sites on which a band stands are there. */
async function readySites(trx: Knex.Transaction, portfolioId: PortfolioId, { sites }: Part): Promise<void> {
  const ids = sites === 'all' ? [] : [...new Set(sites)];
  if (!(await store.sitesExist(trx, portfolioId, ids)))
    throw new InvalidError([{ path: 'content.sites', message: say.unknownSite }]);
}

/** The sites and pages on which a code runs, or does not, are there. */
async function readyReach(trx: Knex.Transaction, portfolioId: PortfolioId, { on, except }: Code): Promise<void> {
  for (const [field, reaches] of [['on', on === 'all' ? [] : on] as const, ['except', except] as const]) {
    const sites = [...new Set(reaches.flatMap((reach) => ('siteId' in reach ? reach.siteId : [])))];
    if (!(await store.sitesExist(trx, portfolioId, sites)))
      throw new InvalidError([{ path: `content.${field}`, message: say.unknownSite }]);
    await readyPages(
      trx,
      portfolioId,
      reaches.flatMap((reach) => ('pageId' in reach ? reach.pageId : [])),
    );
  }
}

/** What a rule is about is there; gives its key as it is kept. */
async function readyRule(
  trx: Knex.Transaction,
  portfolioId: PortfolioId,
  kind: 'standing' | 'metadata',
  key: string | null,
  siteId: number | null,
): Promise<string | null> {
  const about = ruleFor(key, siteId);
  const wrong = (message: string) => new InvalidError([{ path: 'key', message }]);
  if (!about || (kind === 'metadata' && !isMetadataScope(about))) throw wrong(say.sayOfWhichPages);
  const { scope, of } = about;
  if (scope === 'role' && !(PAGE_ROLES as readonly string[]).includes(of)) throw wrong(say.sayOfWhichPages);
  if (scope === 'page' && !(await store.isThere(trx, portfolioId, 'page', of))) throw wrong(say.unknownPage);
  if (scope === 'domain' && !(/^[a-z0-9.-]+$/.test(of) && (await store.isThere(trx, portfolioId, 'domain', of))))
    throw wrong(say.unknownDomain);
  if (scope === 'label' && !(await store.isThere(trx, portfolioId, 'label', of))) throw wrong(say.unknownLabel);
  if (scope !== 'path') return key;
  const path = normalisePath(of);
  if (path === null) throw wrong(say.aPathBeginsWith);
  return ruleKeyOf({ scope, of: path });
}

/** The parts that are to stand there are there. */
async function readyStanding(trx: Knex.Transaction, portfolioId: PortfolioId, standing: Standing): Promise<void> {
  const ids = partsNamed(standing);
  const rows = await store.itemsById(trx, portfolioId, ids);
  const isOf = (id: number, kind: PartKind) => rows.some((row) => row.id === id && row.kind === kind);
  const wrong = [
    ...(['header', 'footer'] as const).filter((kind) => {
      const id = standing[kind];
      return typeof id === 'number' && !isOf(id, kind);
    }),
    ...(standing.bands?.every((id) => isOf(id, 'band')) === false ? ['bands'] : []),
  ];
  if (wrong.length)
    throw new InvalidError(wrong.map((field) => ({ path: `content.${field}`, message: say.unknownPart })));
}

/** What a profile names is there, and its pictures are made in the forms they are shown in. */
async function readyProfile(
  trx: Knex.Transaction,
  context: Context,
  portfolioId: PortfolioId,
  { theme, iconId, shareId }: SiteProfile,
): Promise<void> {
  if (!isThemeKey(theme) && !(await store.itemOfKey(trx, portfolioId, theme)))
    throw new InvalidError([{ path: 'content.theme', message: say.unknownTheme }]);
  if (iconId !== null) await faceForm(trx, context, portfolioId, iconId, 'icon');
  if (shareId !== null) await faceForm(trx, context, portfolioId, shareId, 'share');
}
