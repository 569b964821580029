import type { SiteRules } from '@domatium/contracts';
import { checkTypedPath, parseHost } from '@domatium/core/address';
import type { PortfolioId } from '@domatium/core/plan';
import { isThemeKey } from '@domatium/core/theme';
import type { Knex } from 'knex';
import { say } from '@domatium/core/words/answers/people';
import { inTransaction, setInstant, type Context, type Db } from '../../platform/database/context.js';
import { InvalidError, NotFoundError } from '../../platform/errors.js';
import { hashToken } from '../../platform/sessions/index.js';
import { itemOfKey } from '../../heart/stock/index.js';
import { newToken, tell } from './service.js';
import * as store from './store.js';

export interface NewSite {
  readonly name: string;
  readonly host: string | null;
  readonly basePath: string;
  readonly theme: string;
  /** The code by which the holder of the domain above allows this host. */
  readonly consent?: string | null;
}

/** Allows another portfolio a host under a domain of this one; the code for it works once. */
export function allowHost(context: Context, portfolioId: PortfolioId, asked: string): Promise<{ code: string }> {
  const host = parseHost(asked)?.host;
  if (!host) throw new InvalidError([{ path: 'host', message: say.writeAHostSuchAsWww }]);
  const code = newToken();
  return inTransaction(context.database, async (trx) => {
    if ((await store.domainHolder(trx, host)) !== portfolioId)
      throw new InvalidError([{ path: 'host', message: say.thatHostLiesUnderNoDomain }]);
    const consent = { host, tokenHash: hashToken(code) };
    const id = await store.insertConsent(trx, portfolioId, consent, context.now, context.account);
    await tell(trx, context, portfolioId, id, 'allow-host', { host });
    return { code };
  });
}

/** A site, on a host of its own or below the portfolio’s own host. A host belongs to one portfolio of the installation. */
export const newSite = (context: Context, portfolioId: PortfolioId, site: NewSite): Promise<{ id: number }> =>
  inTransaction(context.database, async (trx) => ({ id: await newSiteIn(trx, context, portfolioId, site) }));

/** The same inside a transaction of somebody else's. */
export async function newSiteIn(
  trx: Knex.Transaction,
  context: Context,
  portfolioId: PortfolioId,
  { consent = null, ...site }: NewSite,
): Promise<number> {
  const host = site.host ? parseHost(site.host) : null;
  if (site.host && !host) throw new InvalidError([{ path: 'host', message: say.writeAHostSuchAsWwwToo }]);
  const base = checkTypedPath(site.basePath || '/');
  if (!base.ok) throw new InvalidError([{ path: 'basePath', ...base.why }]);
  if (!isThemeKey(site.theme) && !(await itemOfKey(trx, portfolioId, site.theme)))
    throw new InvalidError([{ path: 'theme', message: say.unknownTheme }]);
  await setInstant(trx, context.now);
  const hostId = host
    ? await hostFor(trx, context, portfolioId, host, consent)
    : (await store.ownHost(trx, portfolioId))?.id;
  if (hostId === undefined) throw new InvalidError([{ path: 'host', message: say.thisPortfolioHasNoHostOf }]);
  const id = await store
    .insertSite(trx, portfolioId, { name: site.name, theme: site.theme, hostId, basePath: base.path }, context.now)
    .then(async (made) => {
      await trx.raw('SET CONSTRAINTS ALL IMMEDIATE');
      return made;
    })
    .catch((error: unknown) => {
      if ((error as { code?: string }).code !== '23P01') throw error;
      throw new InvalidError([{ path: 'basePath', message: say.anotherSiteLiesThere }]);
    });
  await tell(trx, context, portfolioId, id, 'new-site', site);
  return id;
}

export function setSiteRules(
  context: Context,
  portfolioId: PortfolioId,
  siteId: number,
  rules: SiteRules,
): Promise<SiteRules> {
  return inTransaction(context.database, (trx) => setRulesIn(trx, context, portfolioId, siteId, rules));
}

/** The same inside a transaction of somebody else's. */
export async function setRulesIn(
  trx: Db,
  context: Context,
  portfolioId: PortfolioId,
  siteId: number,
  rules: SiteRules,
): Promise<SiteRules> {
  if (!(await store.saveSiteRules(trx, portfolioId, siteId, rules))) throw new NotFoundError('site');
  await tell(trx, context, portfolioId, siteId, 'set-rules', rules);
  return rules;
}

async function hostFor(
  trx: Db,
  { now }: Context,
  portfolioId: PortfolioId,
  { host, domain }: { readonly host: string; readonly domain: string | null },
  consent: string | null,
): Promise<number> {
  const known = await store.hostOwner(trx, host);
  // Whose it is, is nobody else’s business.
  if (known && known.portfolio_id !== portfolioId)
    throw new InvalidError([{ path: 'host', message: say.thisHostIsTakenInThis }]);
  if (known) return known.id;
  const holder = await store.domainHolder(trx, host);
  if (holder !== null && holder !== portfolioId) {
    if (!consent || !(await store.useConsent(trx, holder, host, hashToken(consent), now)))
      throw new InvalidError([
        // At the field for the code: that one is asked for where somebody else holds the domain.
        { path: 'consent', message: consent ? say.thatCodeDoesNotAllowThis : say.thisHostLiesUnderADomain },
      ]);
  }
  return store.insertHost(trx, portfolioId, { name: host, domain: holder === null ? domain : null, isOwn: false });
}
