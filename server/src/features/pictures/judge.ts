import { mayAct, type Act, type Role, type Uses } from '@domatium/contracts';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import type { Db } from '../../platform/database/context.js';
import { Refused } from '../../platform/errors.js';
import { isOfBlocks, pagesWithFile, stockWithFile } from './files-store.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/pictures';

/** Who meets something: the pages that show it now or later, by themselves or by a piece, and the sites these lie on. */
export interface Reach {
  readonly showing: readonly store.Showing[];
  readonly byPiece: readonly PageId[];
  /** Pages around which a part stands that shows it: that is published apart from them. */
  readonly byPart: readonly PageId[];
  readonly live: ReadonlySet<PageId>;
  readonly sites: readonly { readonly name: string; readonly approvals: number }[];
}

async function reachOf(
  db: Db,
  portfolioId: PortfolioId,
  showing: readonly store.Showing[],
  some: readonly store.OfBlocks[],
  pictureIds: readonly number[],
  now: Instant,
): Promise<Reach> {
  const isPiece = ({ kind }: store.OfBlocks) => kind === 'piece';
  const byPiece = await store.pagesUsingPieces(db, portfolioId, some.filter(isPiece), now);
  const parts = some.filter((one) => !isPiece(one));
  const byPart = await store.pagesUsingPieces(db, portfolioId, parts, now);
  const live = new Set([...showing.filter(({ in_plan }) => in_plan).map(({ page_id }) => page_id), ...byPiece]);
  const sites = await store.sitesReached(db, portfolioId, [...live, ...byPart], pictureIds, now);
  return { showing, byPiece, byPart, live, sites };
}

/** Who meets pictures, or parts of them. */
export async function reachOfPictures(
  db: Db,
  portfolioId: PortfolioId,
  pictureIds: readonly number[],
  now: Instant,
): Promise<Reach> {
  const ids = await store.withForms(db, pictureIds);
  const showing = await store.pagesShowing(db, portfolioId, ids, now);
  return reachOf(db, portfolioId, showing, await store.piecesShowing(db, portfolioId, ids), ids, now);
}

/** Who meets a file: by a link to it, or as the film of a block. */
export async function reachOfFile(db: Db, portfolioId: PortfolioId, id: number, now: Instant): Promise<Reach> {
  const showing = await pagesWithFile(db, portfolioId, id, now);
  const stock = await stockWithFile(db, portfolioId, id);
  return reachOf(db, portfolioId, showing, stock.filter(isOfBlocks), [], now);
}

/** The pages of a reach for people: the first by name, and how many there are. */
export function namedUses(
  { showing, byPiece, byPart, live }: Reach,
  most: number,
): Pick<Uses, 'pages' | 'count' | 'live'> {
  return {
    pages: showing.slice(0, most).map(({ page_id, name, in_draft, in_plan }) => ({
      pageId: page_id,
      name,
      where: [...(in_draft ? (['draft'] as const) : []), ...(in_plan ? (['plan'] as const) : [])],
    })),
    count: new Set([...showing.map(({ page_id }) => page_id), ...byPiece, ...byPart]).size,
    live: new Set([...live, ...byPart]).size,
  };
}

/** Refuses to delete what something uses, and names what uses it. */
export function refuseUsed(users: readonly string[]): void {
  if (users.length)
    throw new Refused(
      'in-use',
      say.itTakeItOffThereFirst(
        users.slice(0, 3).join(', '),
        users.length > 3 ? say.andMore(users.length - 3) : '',
        users.length === 1 ? say.shows : say.show,
      ),
    );
}

/**
 * Why somebody may not change at once, without a release, what visitors of these sites see; `null` where they may. Whoever
 * releases may; where a site wants approvals, only whoever says how many it wants (decision 0016).
 */
export function refusalOf(sites: Reach['sites'], role: Role | null): string | null {
  const may = (act: Act) => role !== null && mayAct(role, act);
  if (!sites.length || may('manage')) return null;
  const named = (all: Reach['sites']) =>
    `${all[0]?.name}${all.length > 1 ? say.andMoreWithCount(all.length - 1, all.length === 2 ? say.site : say.sites) : ''}`;
  if (!may('release')) return say.visitorsOfWouldSeeItAt(named(sites));
  const strict = sites.filter(({ approvals }) => approvals > 0);
  return strict.length ? say.visitorsOfWouldSeeItAtWithStrict(named(strict)) : null;
}

/** Refuses what {@link refusalOf} has something to say against. */
export function refuseAtOnce(sites: Reach['sites'], role: Role | null, otherwise = ''): void {
  const refusal = refusalOf(sites, role);
  if (refusal) throw new Refused('not-allowed', `${refusal}${otherwise}`);
}
