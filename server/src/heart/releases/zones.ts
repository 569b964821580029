import type { ReleaseChange } from '@domatium/contracts';
import type { PageId, PagePlan, PortfolioId } from '@domatium/core/plan';
import { daysLater, instantOfWall, type Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

/** On whose clock moments of a page were chosen, by the moment; what is not named is on the portfolio's. */
export type WallZones = ReadonlyMap<Instant, string>;

/** Of pages. */
export async function wallZonesOf(db: Db, pageIds: readonly PageId[]): Promise<Map<PageId, Map<Instant, string>>> {
  const zones = new Map<PageId, Map<Instant, string>>(pageIds.map((id) => [id, new Map()]));
  const rows = await rowsOf<{ page_id: PageId; at: Instant; zone: string }>(
    db,
    'SELECT page_id, at, zone FROM wall_zone WHERE page_id = ANY(?)',
    [pageIds],
  );
  for (const { page_id, at, zone } of rows) zones.get(page_id)?.set(at, zone);
  return zones;
}

/** A moment so many days later on the clock it was chosen on: nine o'clock there stays nine o'clock there. */
export const shiftedOn = (zones: WallZones | undefined, zone: string, at: Instant, days: number): Instant =>
  daysLater(at, days, zones?.get(at) ?? zone);

/** The moments a change chooses with the zones they are chosen in, or carries along. */
function chosenIn(change: ReleaseChange, plan: PagePlan | undefined, zones: WallZones, zone: string) {
  if (change.act === 'shift') {
    const ahead = (plan?.periods ?? []).flatMap(({ during }) => [during.from, during.until ?? []].flat());
    return ahead.flatMap((at) => {
      const own = zones.get(at);
      return own ? [[shiftedOn(zones, zone, at, change.days), own] as const] : [];
    });
  }
  const moments =
    change.act === 'move'
      ? [change.at]
      : change.act === 'release'
        ? [change, ...(change.further ?? [])].flatMap(({ from, until }) => [from, until])
        : change.act === 'take-off' || change.act === 'retime'
          ? [change.from, change.until]
          : [];
  return moments.flatMap((moment) => {
    const at = moment === null || moment === 'now' ? null : instantOfWall(moment);
    return at === null || moment === null || moment === 'now' ? [] : [[at, moment.zone] as const];
  });
}

/** Keeps the zones in which the moments of a release were chosen. `plans`: as they were before it. */
export async function keepZones(
  trx: Db,
  portfolioId: PortfolioId,
  zone: string,
  changes: readonly ReleaseChange[],
  plans: ReadonlyMap<PageId, PagePlan>,
): Promise<void> {
  const ids = [...new Set(changes.map(({ pageId }) => pageId as PageId))];
  const known = await wallZonesOf(trx, ids);
  const rows = changes.flatMap((change) => {
    const pageId = change.pageId as PageId;
    const zones = known.get(pageId) ?? new Map<Instant, string>();
    return chosenIn(change, plans.get(pageId), zones, zone).flatMap(([at, own]) =>
      // What is on the portfolio's own clock is named only to take the place of another.
      own === zone && !zones.has(at) ? [] : [{ pageId, at, own }],
    );
  });
  if (!rows.length) return;
  await trx.raw(
    `INSERT INTO wall_zone (portfolio_id, page_id, at, zone) SELECT DISTINCT ON (p, a) ?::bigint, p, a, z FROM unnest(?::bigint[], ?::timestamptz[], ?::text[]) AS n (p, a, z)
    ON CONFLICT (page_id, at) DO UPDATE SET zone = excluded.zone`,
    [
      portfolioId,
      rows.map(({ pageId }) => pageId),
      rows.map(({ at }) => dateOf(at)),
      rows.map(({ own }) => own),
    ] as never,
  );
}

/** What was chosen on the portfolio's own clock stays on that one when the portfolio gets another. */
export async function keepZonesOf(trx: Db, portfolioId: PortfolioId, zone: string, now: Instant): Promise<void> {
  await trx.raw(
    `INSERT INTO wall_zone (portfolio_id, page_id, at, zone) SELECT portfolio_id, page_id, at, ? FROM (
      SELECT portfolio_id, page_id, from_at AS at FROM period UNION SELECT portfolio_id, page_id, until_at FROM period WHERE until_at IS NOT NULL) p
    WHERE portfolio_id = ? AND at > ? ON CONFLICT DO NOTHING`,
    [zone, portfolioId, dateOf(now)] as never,
  );
}
