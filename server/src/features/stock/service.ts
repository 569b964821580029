import type { NewStockBody } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import { contentFromJSON, type SiteProfile } from '@domatium/core/stock';
import { isThemeKey } from '@domatium/core/theme';
import type { Knex } from 'knex';
import { dateOf, inTransaction, type Context } from '../../platform/database/context.js';
import { ConflictError, InvalidError, Refused, StaleError } from '../../platform/errors.js';
import * as store from '../../heart/stock/index.js';
import { faceForm } from '../pictures/index.js';
import { found, note } from './items.js';
import { stockItem } from './views.js';

function checked(kind: NewStockBody['kind'], json: unknown) {
  const read = contentFromJSON(kind, json);
  if (!read.ok) throw new InvalidError(read.faults.map(({ path, message }) => ({ path: `content.${path}`, message })));
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
      throw new InvalidError([{ path: 'key', message: 'Unknown theme.' }]);
    const mayBeOfSite = kind === 'values' || kind === 'css';
    if (kind === 'profile') throw new ConflictError('Every site has its profile already.');
    if (siteId !== null && !(mayBeOfSite && (await store.siteExists(trx, portfolioId, siteId))))
      throw new InvalidError([{ path: 'siteId', message: 'Unknown site.' }]);
    if (siteId === null && kind === 'css')
      throw new InvalidError([{ path: 'siteId', message: 'Choose the site this CSS is for.' }]);
    const itemKey = kind === 'theme' ? (key ?? `own-${context.now.toString(36)}`) : null;
    const made = { at: context.now, by: context.account };
    const id = await store
      .insertItem(trx, portfolioId, { kind, key: itemKey, name, siteId, draft }, made)
      .catch((error: unknown) => {
        if ((error as { code?: string }).code === '23505')
          throw new ConflictError(
            kind === 'theme' ? 'This theme has been changed here already.' : 'This site already has its own.',
          );
        throw error;
      });
    await note(trx, context, portfolioId, id, 'new-stock', null, { kind, name });
    return { id };
  });
}

/** What a profile names is there, and its pictures are made in the forms they are shown in. */
async function readyProfile(
  trx: Knex.Transaction,
  context: Context,
  portfolioId: PortfolioId,
  { theme, iconId, shareId }: SiteProfile,
): Promise<void> {
  if (!isThemeKey(theme) && !(await store.itemOfKey(trx, portfolioId, theme)))
    throw new InvalidError([{ path: 'content.theme', message: 'Unknown theme.' }]);
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
    if (row.draft_version !== version)
      throw new StaleError(`${row.changed_by ?? 'Someone else'} has changed this since you opened it.`, {
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
    if (row.kind === 'profile') throw new ConflictError('This is what the site is; it goes with the site.');
    if (row.kind === 'values' || row.kind === 'css')
      throw new ConflictError('This belongs to its site or portfolio. Empty it, and put that on its pages.');
    const item = await stockItem({ ...context, database: trx as unknown as Knex }, portfolioId, id);
    const sites =
      row.kind === 'theme' && row.key ? await store.sitesWithTheme(trx, portfolioId, row.key, context.now) : [];
    const users = [...sites, ...item.pages].map(({ name }) => name);
    if (users.length)
      throw new Refused(
        'in-use',
        `${users.slice(0, 3).join(', ')}${users.length > 3 ? ` and ${users.length - 3} more` : ''} ${users.length === 1 ? 'uses' : 'use'} it. Unlink it there first, or choose another.`,
      );
    await trx('stock_item')
      .where({ id })
      .update({ removed_at: dateOf(context.now), key: row.key && `${row.key} removed ${id}` });
    await note(trx, context, portfolioId, id, 'remove-stock', null, null);
    return {};
  });
}
