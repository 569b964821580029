import { NOT_FOUND_PATH } from '@domatium/core/address';
import type { PageDocument } from '@domatium/core/document';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { OWN_VALUES, type PagePlace, type StockKind } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';
import type { ItemRow } from './store.js';

/** A thing of the stock that pages may show. */
type Used = Pick<ItemRow, 'id' | 'kind' | 'key' | 'site_id'>;

/** What a page is for, by where it lies. */
const ROLE = `CASE l.path WHEN '${NOT_FOUND_PATH}' THEN 'not-found' WHEN '/' THEN 'home' ELSE p.role END`;
/** What of rule `f` is behind its colon: what it is about. */
const ABOUT = "substr(f.key, strpos(f.key, ':') + 1)";
/** Whether rule `f` covers page `p`, placed at `l` on site `s` and host `h`: the same as `isCovered` says. */
const COVERS = `CASE split_part(coalesce(f.key, ''), ':', 1)
  WHEN '' THEN coalesce(f.site_id = s.id, true)
  WHEN 'domain' THEN h.name = ${ABOUT} OR right(h.name, length(${ABOUT}) + 1) = '.' || ${ABOUT}
  WHEN 'path' THEN f.site_id = s.id AND (${ABOUT} IN ('/', l.path) OR starts_with(l.path, ${ABOUT} || '/'))
  WHEN 'label' THEN EXISTS (SELECT FROM page_label x JOIN label t ON t.id = x.label_id WHERE x.page_id = p.id AND t.name = ${ABOUT})
  WHEN 'role' THEN ${ROLE} = ${ABOUT}
  WHEN 'page' THEN p.id::text = ${ABOUT}
  ELSE false END`;
/** Whether what is chosen names a part. */
const NAMES = (choice: string) =>
  `(${choice} -> 'header' = to_jsonb(?::int) OR ${choice} -> 'footer' = to_jsonb(?::int) OR ${choice} -> 'bands' @> to_jsonb(?::int))`;

/** What a revision `c` chooses itself; there is an index for those that do. */
const OWN = "c.document #> '{metadata,frame}'";
const NAMES_SITE = (band: string) => `(${band} -> 'sites' = '"all"' OR ${band} -> 'sites' @> to_jsonb(s.id::int))`;

/** Periods from an instant on, with their pages and sites, that show something of the stock; with `isDraftMeant` also those that its draft would be shown by. */
function uses(portfolioId: PortfolioId, { kind, key, id, site_id }: Used, from: Instant, isDraftMeant = false) {
  const usesPiece = `jsonb_path_exists(r.document, 'strict $.blocks[*] \\? (@.type == "piece" && @.fields.piece.id == $id)', jsonb_build_object('id', ?::int))`;
  // A list of pages shows their titles, with the values of their sites.
  const listed = `EXISTS (SELECT 1 FROM jsonb_path_query(r.document, 'strict $.blocks[*] \\? (@.type == "pageList").fields.items[*].page.id') t
    JOIN period tq ON tq.page_id = t::int AND tq.during && q.during JOIN revision tr ON tr.id = tq.revision_id
    JOIN placement tl ON tl.page_id = tq.page_id AND tl.during && tq.during
    WHERE tr.document #>> '{metadata,title}' ~ '[{][^{}]+[}]' AND coalesce(tl.site_id = ?::int, true))`;
  // Names stand in texts between { }; a piece may hold some too.
  const usesValue = `(jsonb_path_exists(r.document, 'strict $.** \\? (@.type() == "string" && @ like_regex "[{][^{}]+[}]")') OR jsonb_path_exists(r.document, 'strict $.blocks[*] \\? (@.type == "piece")'))`;
  // The year and the name of a site are in most suffixes, and are no matter of values that people keep.
  const namesMore = `regexp_replace(fr.content::text, '[{] *(${OWN_VALUES.join('|')}) *[}]', '', 'gi') ~ '[{][^{}":]+[}]'`;
  const saidWithValues = `EXISTS (SELECT 1 FROM stock_item f JOIN stock_period fq ON fq.item_id = f.id JOIN stock_revision fr ON fr.id = fq.revision_id
    WHERE f.kind = 'metadata' AND f.portfolio_id = q.portfolio_id AND fq.during && q.during AND ${namesMore} AND ${COVERS})`;
  // What is said of more counts for each page it covers, whatever is said of less. Who says it is found once.
  const isPart = kind === 'header' || kind === 'footer' || kind === 'band';
  const said = isPart
    ? `WITH named AS MATERIALIZED (SELECT f.key, f.site_id, fq.during FROM stock_item f JOIN stock_period fq ON fq.item_id = f.id JOIN stock_revision fr ON fr.id = fq.revision_id
        WHERE f.kind = 'standing' AND f.portfolio_id = ? AND ${NAMES('fr.content')}),
      chosen AS MATERIALIZED (SELECT c.id FROM revision c WHERE c.portfolio_id = ? AND ${OWN} IS NOT NULL AND ${NAMES(`(${OWN})`)}) `
    : '';
  const saidBindings = isPart ? [portfolioId, id, id, id, portfolioId, id, id, id] : [];
  const standsThere = `(EXISTS (SELECT 1 FROM named f WHERE f.during && q.during AND ${COVERS}) OR q.revision_id IN (SELECT id FROM chosen))`;
  const part = [standsThere, []] as const;
  // A band may say itself on which sites it stands.
  const byItself = `EXISTS (SELECT 1 FROM stock_period bq JOIN stock_revision br ON br.id = bq.revision_id WHERE bq.item_id = ? AND bq.during && q.during
    AND ${NAMES_SITE('br.content')})${isDraftMeant ? ` OR EXISTS (SELECT 1 FROM stock_item bi WHERE bi.id = ${Number(id)} AND ${NAMES_SITE('bi.draft')})` : ''}`;
  // A code runs where its content says so, now or as planned, with its draft where that is meant.
  const reached = (
    list: string,
  ) => `EXISTS (SELECT FROM jsonb_array_elements(CASE jsonb_typeof(${list}) WHEN 'array' THEN ${list} ELSE '[]' END) o
    WHERE (o ->> 'pageId')::int = p.id OR (o ->> 'siteId')::int = s.id AND (o ->> 'path' IS NULL OR o ->> 'path' IN ('/', l.path) OR starts_with(l.path, (o ->> 'path') || '/')))`;
  const runs = (content: string) =>
    `((${content} -> 'on' = '"all"' OR ${reached(`${content} -> 'on'`)}) AND NOT ${reached(`${content} -> 'except'`)})`;
  const code = `(EXISTS (SELECT 1 FROM stock_period cq JOIN stock_revision cr ON cr.id = cq.revision_id WHERE cq.item_id = ? AND cq.during && q.during
    AND ${runs('cr.content')})${isDraftMeant ? ` OR EXISTS (SELECT 1 FROM stock_item ci WHERE ci.id = ${Number(id)} AND ${runs('ci.draft')})` : ''})`;
  const conditions: Record<StockKind, readonly [sql: string, bindings: readonly unknown[]]> = {
    theme: [
      `EXISTS (SELECT 1 FROM stock_item f JOIN stock_period fq ON fq.item_id = f.id JOIN stock_revision fr ON fr.id = fq.revision_id
        WHERE f.kind = 'profile' AND f.site_id = s.id AND fq.during && q.during AND fr.content ->> 'theme' = ?)`,
      [key],
    ],
    profile: [`(s.id = ? OR ${listed})`, [site_id, site_id]],
    piece: [usesPiece, [id]],
    css: ['s.id = ?', [site_id]],
    menu: ['s.id = ?', [site_id]],
    legal: ['coalesce(s.id = ?::int, true)', [site_id]],
    header: part,
    footer: part,
    band: [`(${standsThere} OR ${byItself})`, [id]],
    code: [code, [id]],
    // Files of the root show on no page.
    root: ['false', []],
    metadata: [`EXISTS (SELECT 1 FROM stock_item f WHERE f.id = ? AND ${COVERS})`, [id]],
    standing: [`EXISTS (SELECT 1 FROM stock_item f WHERE f.id = ? AND ${COVERS})`, [id]],
    values: [
      `((${usesValue} OR ${saidWithValues}) AND coalesce(s.id = ?::int, true) OR ${listed})`,
      [site_id, site_id],
    ],
  };
  const [condition, bindings] = conditions[kind];
  return {
    said,
    /** Of all sites, or of a site `s` that is asked about outside. */
    sqlFor: (sites: 'all' | 'one') => {
      const onSite = sites === 'all' ? 'JOIN site s ON s.id = l.site_id' : 'AND l.site_id = s.id';
      return `FROM period q JOIN revision r ON r.id = q.revision_id JOIN page p ON p.id = q.page_id
      JOIN placement l ON l.page_id = p.id AND l.during && q.during ${onSite}
      LEFT JOIN site_address a ON a.site_id = s.id AND a.is_primary AND a.until_at IS NULL LEFT JOIN host h ON h.id = a.host_id
      WHERE q.portfolio_id = ? AND coalesce(q.until_at, 'infinity') > ? AND p.deleted_at IS NULL AND ${condition}`;
    },
    bindings: [...saidBindings, portfolioId, dateOf(from), ...bindings],
  };
}

/** What is known of a page where it lies at an instant, for what is said of what stands around it. */
export async function pagePlace(db: Db, pageId: PageId, at: Instant): Promise<PagePlace | null> {
  const [row] = await rowsOf<PagePlace>(
    db,
    `SELECT p.id AS "pageId", l.site_id AS "siteId", l.path, h.name AS host, ${ROLE} AS role,
      coalesce((SELECT array_agg(t.name) FROM page_label x JOIN label t ON t.id = x.label_id WHERE x.page_id = p.id), '{}') AS labels
    FROM page p JOIN placement l ON l.page_id = p.id AND l.during @> ?::timestamptz
    JOIN site_address a ON a.site_id = l.site_id AND a.is_primary AND a.during @> ?::timestamptz JOIN host h ON h.id = a.host_id
    WHERE p.id = ?`,
    [dateOf(at), dateOf(at), pageId],
  );
  return row ?? null;
}

/** Headers, footers and bands that hold a piece, now, as planned, or with `isDraftMeant` as they are made. */
export function partsWith(
  db: Db,
  portfolioId: PortfolioId,
  pieceId: number,
  from: Instant,
  isDraftMeant = false,
): Promise<(Used & { readonly name: string })[]> {
  // Not strict: the database may look at what is of another kind before it leaves that out.
  const holds = (content: string) =>
    `jsonb_path_exists(${content}, 'lax $.blocks[*] \\? (@.type == "piece" && @.fields.piece.id == $id)', jsonb_build_object('id', ?::int))`;
  return rowsOf(
    db,
    `SELECT i.id, i.kind, i.key, i.site_id, i.name FROM stock_item i WHERE i.portfolio_id = ? AND i.removed_at IS NULL AND i.kind IN ('header', 'footer', 'band')
    AND (EXISTS (SELECT FROM stock_period q JOIN stock_revision r ON r.id = q.revision_id WHERE q.item_id = i.id AND coalesce(q.until_at, 'infinity') > ? AND ${holds('r.content')})
      ${isDraftMeant ? `OR ${holds('i.draft')}` : ''}) ORDER BY i.name`,
    [portfolioId, dateOf(from), pieceId, ...(isDraftMeant ? [pieceId] : [])],
  );
}

/** Whatever shows something of the stock: that itself, and of a piece the parts that hold it. */
async function withParts(db: Db, portfolioId: PortfolioId, item: Used, from: Instant): Promise<Used[]> {
  return item.kind === 'piece' ? [item, ...(await partsWith(db, portfolioId, item.id, from))] : [item];
}

/** Pages on which visitors see something of the stock: in what they are themselves, or in a part that stands around them. */
export async function pagesShowing(
  db: Db,
  portfolioId: PortfolioId,
  item: Used,
  from: Instant,
  isDraftMeant = false,
): ReturnType<typeof pagesUsing> {
  const pages = new Map<PageId, Awaited<ReturnType<typeof pagesUsing>>[number]>();
  for (const one of await withParts(db, portfolioId, item, from))
    for (const page of await pagesUsing(db, portfolioId, one, from, isDraftMeant && one === item))
      pages.set(page.page_id, page);
  return [...pages.values()];
}

/** Pages that show something of the stock in what they are themselves, now or as planned from an instant on. */
export async function pagesUsing(
  db: Db,
  portfolioId: PortfolioId,
  item: Used,
  from: Instant,
  isDraftMeant = false,
): Promise<{ page_id: PageId; name: string; host: string; path: string }[]> {
  const { said, sqlFor, bindings } = uses(portfolioId, item, from, isDraftMeant);
  return rowsOf(
    db,
    `${said}SELECT DISTINCT ON (p.name, p.id) p.id AS page_id, p.name, h.name AS host, l.path ${sqlFor('all')} ORDER BY p.name, p.id`,
    bindings,
  );
}

/** What shows something of the stock, now or as planned from an instant on: each document with its time and site. */
export async function periodsUsing(
  db: Db,
  portfolioId: PortfolioId,
  item: Used,
  from: Instant,
): Promise<{ page_id: PageId; site_id: number; from_at: Instant; until_at: Instant | null; document: PageDocument }[]> {
  const { said, sqlFor, bindings } = uses(portfolioId, item, from);
  return rowsOf(
    db,
    `${said}SELECT p.id AS page_id, l.site_id, greatest(q.from_at, l.from_at) AS from_at, least(q.until_at, l.until_at) AS until_at, r.document ${sqlFor('all')} ORDER BY p.name, q.from_at`,
    bindings,
  );
}

/** A site, and how many people must approve what its pages show. */
export interface ApprovingSite {
  readonly id: number;
  readonly name: string;
  readonly approvals: number;
}

/** Sites that show something of the stock and want approvals. */
export async function approvalsWanted(
  db: Db,
  portfolioId: PortfolioId,
  item: Used,
  from: Instant,
): Promise<ApprovingSite[]> {
  const found = [];
  for (const one of await withParts(db, portfolioId, item, from))
    found.push(...(await sitesUsing(db, portfolioId, one, from, 1)));
  const sites = new Map(found.map((site) => [site.id, site]));
  return [...sites.values()].sort((a, b) => a.name.localeCompare(b.name));
}

/** Sites whose pages show something of the stock, or would with its draft, and that want so many approvals at least. */
export function sitesUsing(
  db: Db,
  portfolioId: PortfolioId,
  item: Used,
  from: Instant,
  approvals = 0,
): Promise<ApprovingSite[]> {
  const { said, sqlFor, bindings } = uses(portfolioId, item, from, true);
  // One page is enough of each.
  return rowsOf(
    db,
    `${said}SELECT s.id, s.name, s.approvals FROM site s CROSS JOIN LATERAL (SELECT ${sqlFor('one')} LIMIT 1) used
    WHERE s.portfolio_id = ? AND s.approvals >= ? ORDER BY s.name`,
    [...bindings, portfolioId, approvals],
  );
}
