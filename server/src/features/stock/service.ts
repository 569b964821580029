import type { NewStockBody } from '@domatium/contracts';
import { normalisePath } from '@domatium/core/address';
import type { PortfolioId } from '@domatium/core/plan';
import { PAGE_ROLES } from '@domatium/core/register';
import {
  contentFromJSON,
  partsNamed,
  ruleFor,
  ruleKeyOf,
  type Part,
  type PartKind,
  type SiteProfile,
  type Standing,
} from '@domatium/core/stock';
import { isThemeKey } from '@domatium/core/theme';
import type { Knex } from 'knex';
import { dateOf, inTransaction, type Context } from '../../platform/database/context.js';
import { ConflictError, InvalidError, Refused, StaleError } from '../../platform/errors.js';
import * as store from '../../heart/stock/index.js';
import { faceForm } from '../pictures/index.js';
import { found, note } from './items.js';
import { stockItem } from './views.js';
import { say } from '@domatium/core/words/answers/stock';

function checked(kind: NewStockBody['kind'], json: unknown) {
  const read = contentFromJSON(kind, json);
  if (!read.ok) throw new InvalidError(read.faults.map((fault) => ({ ...fault, path: `content.${fault.path}` })));
  return read.value;
}

export async function newStock(
  context: Context,
  portfolioId: PortfolioId,
  body: NewStockBody,
): Promise<{ id: number }> {
  const { kind, name, key = null, siteId = null } = body;
  const draft = checked(kind, body.content);
  return inTransaction(context.database, async (trx) => {
    if (kind === 'theme' && key !== null && !isThemeKey(key))
      throw new InvalidError([{ path: 'key', message: say.unknownTheme }]);
    const mayBeOfSite = kind === 'values' || kind === 'css' || kind === 'standing';
    if (kind === 'profile') throw new ConflictError(say.everySiteHasItsProfileAlready);
    if (siteId !== null && !(mayBeOfSite && (await store.sitesExist(trx, portfolioId, [siteId]))))
      throw new InvalidError([{ path: 'siteId', message: say.unknownSite }]);
    if (siteId === null && kind === 'css')
      throw new InvalidError([{ path: 'siteId', message: say.chooseTheSiteThisCSS }]);
    if (kind === 'standing') await readyStanding(trx, portfolioId, draft as Standing);
    if (kind === 'band') await readySites(trx, portfolioId, draft as Part);
    const ruleKey = kind === 'standing' ? await readyRule(trx, portfolioId, key, siteId) : null;
    const itemKey = kind === 'theme' ? (key ?? `own-${context.now.toString(36)}`) : ruleKey;
    const made = { at: context.now, by: context.account };
    const id = await store
      .insertItem(trx, portfolioId, { kind, key: itemKey, name, siteId, draft }, made)
      .catch((error: unknown) => {
        if ((error as { code?: string }).code === '23505')
          throw new ConflictError(
            kind === 'theme'
              ? say.thisThemeHasBeenChangedHere
              : itemKey === null
                ? say.thisSiteAlreadyHasItsOwn
                : say.thereIsARuleForThese,
          );
        throw error;
      });
    await note(trx, context, portfolioId, id, 'new-stock', null, { kind, name });
    return { id };
  });
}

/** The sites on which a band stands are there. */
async function readySites(trx: Knex.Transaction, portfolioId: PortfolioId, { sites }: Part): Promise<void> {
  const ids = sites === 'all' ? [] : [...new Set(sites)];
  if (!(await store.sitesExist(trx, portfolioId, ids)))
    throw new InvalidError([{ path: 'content.sites', message: say.unknownSite }]);
}

/** What a rule is about is there; gives its key as it is kept. */
async function readyRule(
  trx: Knex.Transaction,
  portfolioId: PortfolioId,
  key: string | null,
  siteId: number | null,
): Promise<string | null> {
  const about = ruleFor(key, siteId);
  const wrong = (message: string) => new InvalidError([{ path: 'key', message }]);
  if (!about) throw wrong(say.sayOfWhichPages);
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

export async function saveStock(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  { version, name, content }: { readonly version: number; readonly name: string; readonly content: unknown },
): Promise<{ version: number }> {
  return inTransaction(context.database, async (trx) => {
    const row = await found(trx, portfolioId, id, 'FOR UPDATE OF i');
    const draft = checked(row.kind, content);
    if (row.kind === 'profile') await readyProfile(trx, context, portfolioId, draft as SiteProfile);
    if (row.kind === 'standing') await readyStanding(trx, portfolioId, draft as Standing);
    if (row.kind === 'band') await readySites(trx, portfolioId, draft as Part);
    if (row.draft_version !== version)
      throw new StaleError(say.hasChangedThisSinceYouOpened(row.changed_by ?? say.someoneElse), {
        version: row.draft_version,
        name: row.name,
        content: row.draft,
      });
    const changed = { draft: JSON.stringify(draft), name, draft_version: version + 1 };
    await trx('stock_item')
      .where({ id })
      .update({ ...changed, changed_at: dateOf(context.now), changed_by: context.account });
    await note(trx, context, portfolioId, id, 'save-stock', null, { version: version + 1 });
    return { version: version + 1 };
  });
}

export async function removeStock(context: Context, portfolioId: PortfolioId, id: number): Promise<object> {
  return inTransaction(context.database, async (trx) => {
    const row = await found(trx, portfolioId, id, 'FOR UPDATE OF i');
    if (row.kind === 'profile') throw new ConflictError(say.thisIsWhatTheSiteIs);
    const isRule = row.kind === 'standing' && row.key !== null;
    if (!isRule && ['values', 'css', 'standing'].includes(row.kind))
      throw new ConflictError(say.thisBelongsToItsSiteOr);
    const item = await stockItem({ ...context, database: trx as unknown as Knex }, portfolioId, id);
    const sites =
      row.kind === 'theme' && row.key ? await store.sitesWithTheme(trx, portfolioId, row.key, context.now) : [];
    if (isRule && item.periods.some(({ until }) => until === null || until > context.now))
      throw new Refused('in-use', say.thisRuleHoldsTakeItOff);
    const users = isRule ? [] : [...sites, ...item.pages].map(({ name }) => name);
    if (users.length)
      throw new Refused(
        'in-use',
        say.itUnlinkItThereFirstOr(
          users.slice(0, 3).join(', '),
          users.length > 3 ? say.andMore(users.length - 3) : '',
          users.length === 1 ? say.uses : say.use,
        ),
      );
    await trx('stock_item')
      .where({ id })
      .update({ removed_at: dateOf(context.now), key: row.key && `${row.key} removed ${id}` });
    await note(trx, context, portfolioId, id, 'remove-stock', null, null);
    return {};
  });
}
