import type { NewStockBody } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import { contentFromJSON, type StockKind } from '@domatium/core/stock';
import { isThemeKey } from '@domatium/core/theme';
import type { Knex } from 'knex';
import { dateOf, inTransaction, type Context } from '../../platform/database/context.js';
import { ConflictError, InvalidError, Refused, StaleError } from '../../platform/errors.js';
import * as store from '../../heart/stock/index.js';
import { found, note } from './items.js';
import { readyContent, readyKey } from './ready.js';
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
    const mayBeOfSite = ['values', 'css', 'standing', 'menu', 'legal', 'metadata', 'root'].includes(kind);
    if (kind === 'profile') throw new ConflictError(say.everySiteHasItsProfileAlready);
    if (siteId !== null && !(mayBeOfSite && (await store.sitesExist(trx, portfolioId, [siteId]))))
      throw new InvalidError([{ path: 'siteId', message: say.unknownSite }]);
    if (siteId === null && ['css', 'menu', 'root'].includes(kind))
      throw new InvalidError([
        { path: 'siteId', message: kind === 'css' ? say.chooseTheSiteThisCSS : say.unknownSite },
      ]);
    const itemKey = await readyKey(trx, context, portfolioId, body);
    await readyContent(trx, context, portfolioId, { kind, key: itemKey, site_id: siteId, draft });
    const made = { at: context.now, by: context.account };
    const id = await store
      .insertItem(trx, portfolioId, { kind, key: itemKey, name, siteId, draft }, made)
      .catch((error: unknown) => {
        if ((error as { code?: string }).code === '23505')
          throw new ConflictError(
            kind === 'theme'
              ? say.thisThemeHasBeenChangedHere
              : kind === 'menu'
                ? say.thisSiteHasSuchAMenu
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

export async function saveStock(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  { version, name, content }: { readonly version: number; readonly name: string; readonly content: unknown },
): Promise<{ version: number }> {
  return inTransaction(context.database, async (trx) => {
    const row = await found(trx, portfolioId, id, 'FOR UPDATE OF i');
    const draft = checked(row.kind, content);
    await readyContent(trx, context, portfolioId, { ...row, draft });
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

const holdsWords = (kind: StockKind): string =>
  kind === 'menu' ? say.thisMenuHoldsTakeItOff : kind === 'code' ? say.thisCodeRuns : say.thisRuleHoldsTakeItOff;

export async function removeStock(context: Context, portfolioId: PortfolioId, id: number): Promise<object> {
  return inTransaction(context.database, async (trx) => {
    const row = await found(trx, portfolioId, id, 'FOR UPDATE OF i');
    if (row.kind === 'profile') throw new ConflictError(say.thisIsWhatTheSiteIs);
    const isRule =
      row.kind === 'code' ||
      row.kind === 'root' ||
      (row.key !== null && ['standing', 'menu', 'metadata'].includes(row.kind));
    if (!isRule && ['values', 'css', 'standing', 'legal', 'metadata'].includes(row.kind))
      throw new ConflictError(say.thisBelongsToItsSiteOr);
    const item = await stockItem({ ...context, database: trx as unknown as Knex }, portfolioId, id);
    const sites =
      row.kind === 'theme' && row.key ? await store.sitesWithTheme(trx, portfolioId, row.key, context.now) : [];
    if (isRule && item.periods.some(({ until }) => until === null || until > context.now))
      throw new Refused('in-use', holdsWords(row.kind));
    const parts = row.kind === 'piece' ? await store.partsWith(trx, portfolioId, id, context.now, true) : [];
    const users = isRule ? [] : [...parts, ...sites, ...item.pages].map(({ name }) => name);
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
