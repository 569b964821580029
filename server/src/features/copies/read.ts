import type { CopyBody } from '@domatium/contracts';
import { checkTypedPath } from '@domatium/core/address';
import { copiedPeriods, nameByPattern, pathByPattern, type CopiedPeriod } from '@domatium/core/copy';
import type { PortfolioId } from '@domatium/core/plan';
import { daysLater, dayOf, instantOfWall, wallOf, type Instant } from '@domatium/core/time';
import { type Context, type Db } from '../../platform/database/context.js';
import { InvalidError, NotFoundError } from '../../platform/errors.js';
import { plansOf, siteAddressesOf } from '../../heart/plans/index.js';
import { zoneOf } from '../../heart/releases/index.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/copies';

export interface Source {
  readonly page: store.SourcePage;
  readonly name: string;
  readonly path: string;
  readonly siteId: number;
  readonly fault: string | null;
  readonly periods: readonly CopiedPeriod[];
}

export interface Read {
  readonly sources: readonly Source[];
  readonly zone: string;
  readonly isElsewhere: boolean;
  /** An instant as it is for the copies: later by the days they are. */
  readonly shift: (at: Instant) => Instant;
  readonly start: { readonly year: number; readonly month: number };
}

/** What the copies would be: names, places, periods. */
export async function read(db: Db, { now }: Context, portfolioId: PortfolioId, body: CopyBody): Promise<Read> {
  const pages = await store.sourcePages(db, portfolioId, body.pages, now);
  if (pages.length !== new Set(body.pages).size) throw new NotFoundError();
  const target = body.target.portfolioId as PortfolioId;
  const isElsewhere = target !== portfolioId;
  const siteId = body.target.siteId ?? null;
  if (isElsewhere && siteId === null)
    throw new InvalidError([{ path: 'target.siteId', message: say.chooseASiteOfThatPortfolio }]);
  const targetSites = new Set((await siteAddressesOf(db, target)).map((address) => address.siteId as number));
  if (siteId !== null && !targetSites.has(siteId))
    throw new InvalidError([{ path: 'target.siteId', message: say.thatSiteIsntInThatPortfolio }]);
  const zone = await zoneOf(db, target);
  const plans = await plansOf(
    db,
    portfolioId,
    pages.map(({ id }) => id),
  );
  const targetAddresses = await siteAddressesOf(db, target);
  const own = isElsewhere ? await zoneOf(db, portfolioId) : zone;
  // Nine o'clock there stays nine o'clock here.
  const here = (at: Instant) => (own === zone ? at : (instantOfWall({ local: wallOf(at, own), zone }) ?? at));
  const shift = (at: Instant) => (body.days ? daysLater(here(at), body.days, zone) : here(at));
  const taken = new Set<string>();
  const sources = pages.map((page): Source => {
    const parts = { name: page.name, path: page.path };
    const name = nameByPattern(body.names, parts, body.replacements);
    const to = siteId ?? page.site_id;
    const bases = targetAddresses.filter((address) => address.siteId === to).map(({ basePath }) => basePath);
    const typed = checkTypedPath(pathByPattern(body.paths, parts, body.replacements), bases);
    const path = page.role === 'not-found' ? page.path : typed.ok ? typed.path : page.path;
    const key = `${to} ${path}`;
    const fault = !name
      ? say.itsNameWouldBeEmpty
      : name.length > 200
        ? say.itsNameWouldBeLongerThan
        : page.role !== 'not-found' && !typed.ok
          ? typed.why.message
          : taken.has(key)
            ? say.anotherCopyWouldHaveTheSame
            : null;
    taken.add(key);
    const plan = plans.get(page.id);
    const periods = plan ? copiedPeriods(plan, shift, now) : [];
    return { page, name, path, siteId: to, fault, periods };
  });
  const first = Math.min(...[...plans.values()].flatMap(({ periods }) => periods.map(({ during }) => during.from)));
  const [year = 1970, month = 1] = dayOf((Number.isFinite(first) ? first : now) as Instant, zone)
    .split('-')
    .map(Number);
  return { sources, zone, isElsewhere, shift, start: { year, month } };
}
