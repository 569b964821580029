import { NOT_FOUND_PATH } from '@domatium/core/address';
import { likenessOf, worded, type AlikePage, type Worded } from '@domatium/core/metadata';
import { groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { LRUCache } from 'lru-cache';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

const MOST = 5;
const WHAT = ['title', 'description'] as const;

/** Pages that search engines may show from an instant on, by the periods in which they are live. */
const SHOWN = `FROM period q JOIN revision r ON r.id = q.revision_id JOIN page p ON p.id = q.page_id
  JOIN placement l ON l.page_id = p.id AND l.during && q.during
  JOIN site_address a ON a.site_id = l.site_id AND a.is_primary AND a.until_at IS NULL JOIN host h ON h.id = a.host_id AND NOT h.is_own
  WHERE q.portfolio_id = ? AND p.deleted_at IS NULL AND coalesce(q.until_at, 'infinity') > ? AND coalesce(l.until_at, 'infinity') > ?
    AND l.path <> '${NOT_FOUND_PATH}' AND (r.document #> '{metadata,robots,noindex}') IS NULL`;

interface Told {
  readonly publication: number;
  readonly pages: readonly {
    readonly id: PageId;
    readonly title: Worded;
    readonly description: Worded;
    readonly phrases: ReadonlySet<string>;
  }[];
}
/** Texts of portfolios as they were last published: reading ten thousand pages with every word somebody types would be too much. */
const told = new LRUCache<number, Told>({ max: 20 });

/** The texts of pages as they are, or will be first. */
async function textsOf(db: Db, portfolioId: PortfolioId, now: Instant): Promise<Told['pages']> {
  const [row] = await rowsOf<{ publication: number }>(db, 'SELECT publication FROM portfolio WHERE id = ?', [
    portfolioId,
  ]);
  const publication = row?.publication ?? 0;
  const known = told.get(portfolioId);
  if (known?.publication === publication) return known.pages;
  const rows = await rowsOf<{ id: PageId; title: string; description: string; phrases: readonly string[] | null }>(
    db,
    `SELECT DISTINCT ON (p.id) p.id, r.document #>> '{metadata,title}' AS title, r.document #>> '{metadata,description}' AS description, r.document #> '{metadata,phrases}' AS phrases
    ${SHOWN} ORDER BY p.id, q.from_at`,
    [portfolioId, dateOf(now), dateOf(now)],
  );
  const pages = rows.map(({ id, title, description, phrases }) => ({
    ...{ id, title: worded(title), description: worded(description) },
    phrases: new Set((phrases ?? []).map((one) => worded(one).plain)),
  }));
  told.set(portfolioId, { publication, pages });
  return pages;
}

/** What pages are called and where they lie, of those that are still shown. */
const namesOf = (
  db: Db,
  portfolioId: PortfolioId,
  ids: readonly PageId[],
  now: Instant,
): Promise<{ id: PageId; name: string; address: string }[]> =>
  rowsOf(
    db,
    `SELECT DISTINCT ON (p.id) p.id, p.name, h.name || CASE WHEN a.base_path = '/' THEN l.path WHEN l.path = '/' THEN a.base_path ELSE a.base_path || l.path END AS address
    ${SHOWN} AND p.id = ANY(?) ORDER BY p.id, q.from_at, l.from_at`,
    [portfolioId, dateOf(now), dateOf(now), ids],
  );

/** The few pages that say the same as a title or description of another, or nearly: the same before the others; and those that aim at the same phrases. */
export async function alikePages(
  db: Db,
  portfolioId: PortfolioId,
  asked: {
    readonly page: PageId;
    readonly title: string;
    readonly description: string;
    readonly phrases: readonly string[];
  },
  now: Instant,
): Promise<AlikePage[]> {
  const own = { title: worded(asked.title), description: worded(asked.description) };
  const all = await textsOf(db, portfolioId, now);
  const aimed = asked.phrases.flatMap((phrase) => {
    const { plain } = worded(phrase);
    const those = all.filter(({ id, phrases }) => id !== asked.page && plain && phrases.has(plain)).slice(0, MOST);
    return those.map(({ id }) => ({ pageId: id, what: 'phrase' as const, phrase, likeness: 'same' as const }));
  });
  const alike = WHAT.flatMap((what) =>
    all
      .flatMap(({ id, ...texts }) => {
        const likeness = id === asked.page ? null : likenessOf(own[what], texts[what]);
        return likeness ? [{ pageId: id, what, likeness }] : [];
      })
      .sort((a, b) => Number(b.likeness === 'same') - Number(a.likeness === 'same'))
      .slice(0, MOST),
  );
  const found = [...alike, ...aimed];
  if (!found.length) return [];
  const ids = [...new Set(found.map(({ pageId }) => pageId))];
  const named = groupBy(await namesOf(db, portfolioId, ids, now), ({ id }) => id);
  return found.flatMap((one): AlikePage[] => {
    const [page] = named.get(one.pageId) ?? [];
    return page ? [{ ...one, name: page.name, address: page.address }] : [];
  });
}
