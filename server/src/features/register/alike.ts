import type { AlikePage } from '@domatium/contracts';
import { NOT_FOUND_PATH } from '@domatium/core/address';
import { likenessOf, worded } from '@domatium/core/metadata';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

const MOST = 5;

interface Named {
  readonly id: PageId;
  readonly name: string;
  readonly address: string;
  readonly title: string;
  readonly description: string;
}

/** Pages that search engines may show now or later, as they are or will be first. */
const shownPages = (db: Db, portfolioId: PortfolioId, except: PageId, now: Instant): Promise<Named[]> =>
  rowsOf(
    db,
    `SELECT DISTINCT ON (p.id) p.id, p.name, r.document #>> '{metadata,title}' AS title, r.document #>> '{metadata,description}' AS description,
      h.name || CASE WHEN a.base_path = '/' THEN l.path WHEN l.path = '/' THEN a.base_path ELSE a.base_path || l.path END AS address
    FROM period q JOIN revision r ON r.id = q.revision_id JOIN page p ON p.id = q.page_id
    JOIN placement l ON l.page_id = p.id AND l.during && q.during
    JOIN site_address a ON a.site_id = l.site_id AND a.is_primary AND a.until_at IS NULL JOIN host h ON h.id = a.host_id AND NOT h.is_own
    WHERE q.portfolio_id = ? AND p.id <> ? AND p.deleted_at IS NULL AND coalesce(q.until_at, 'infinity') > ? AND coalesce(l.until_at, 'infinity') > ?
      AND l.path <> ? AND (r.document #> '{metadata,robots,noindex}') IS NULL
    ORDER BY p.id, q.from_at, l.from_at`,
    [portfolioId, except, dateOf(now), dateOf(now), NOT_FOUND_PATH],
  );

/** Of these the few that say the same as a title or description, or nearly: the same before the others. */
export async function alikePages(
  db: Db,
  portfolioId: PortfolioId,
  asked: { readonly page: PageId; readonly title: string; readonly description: string },
  now: Instant,
): Promise<AlikePage[]> {
  const all = await shownPages(db, portfolioId, asked.page, now);
  return (['title', 'description'] as const).flatMap((what) => {
    const own = worded(asked[what]);
    if (!own.plain) return [];
    return all
      .flatMap(({ id, name, address, ...texts }): AlikePage[] => {
        const likeness = likenessOf(own, worded(texts[what]));
        return likeness ? [{ pageId: id, name, address, what, likeness }] : [];
      })
      .sort((a, b) => Number(b.likeness === 'same') - Number(a.likeness === 'same') || a.name.localeCompare(b.name))
      .slice(0, MOST);
  });
}
