import type { PageDocument } from '@domatium/core/document';
import {
  canonical,
  groupBy,
  type HostId,
  type PageId,
  type PagePlan,
  type PortfolioId,
  type RevisionId,
  type SiteAddress,
} from '@domatium/core/plan';
import {
  byReach,
  isCovered,
  isOfPages,
  roleAt,
  ruleFor,
  type PageFrame,
  type PagePlace,
  type RuleFor,
} from '@domatium/core/stock';
import { endOf, intersect, type Instant, type Interval } from '@domatium/core/time';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';
import { saveEnds } from '../plans/index.js';
import type { ShelvedItem } from '../stock/index.js';
import { cutAt, subjects, type KeepBefore } from './cut.js';

/**
 * Which frame a page has that is not that of its site: the rules about pages that cover it, whether they say something
 * at the moment or not, and its own choice. What they say is a matter of frames.
 */
export interface Variant {
  readonly rules: readonly number[];
  readonly own: PageFrame | null;
}

export const readVariant = (text: string): Variant => (text ? (JSON.parse(text) as Variant) : { rules: [], own: null });

const writeVariant = ({ rules, own }: Variant): string => (rules.length || own ? canonical({ rules, own }) : '');

/** The rules there are, by the items that say them. */
export const rulesIn = (stock: readonly ShelvedItem[]): { readonly id: number; readonly for: RuleFor }[] =>
  stock.flatMap(({ id, kind, key, siteId, periods }) => {
    const about = kind === 'standing' && periods.length ? ruleFor(key, siteId) : null;
    return about ? [{ id, for: about }] : [];
  });

export interface FramedRow {
  readonly host_id: HostId;
  readonly site_id: number;
  readonly page_id: PageId;
  readonly from_at: Instant;
  readonly until_at: Instant | null;
  readonly variant: string;
}

/** Where a revision of a page lies, and when. */
interface Lies {
  readonly pageId: PageId;
  readonly siteId: number;
  readonly path: string;
  readonly revisionId: RevisionId;
  readonly during: Interval;
}

/** Variants of pages, and what is written of them. */
export interface PreparedPages {
  /** Every variant there is on each site from the horizon on, those of other pages too. */
  readonly variantsOf: (siteId: number) => readonly string[];
  /** Writes them; gives the hosts on which any is another. */
  readonly write: (trx: Db, keep: KeepBefore) => Promise<HostId[]>;
}

/**
 * The frames that pages have apart from their sites, for some pages: `plans` are those of them that are not to be read
 * as they are stored.
 */
export async function prepareFramedPages(
  reader: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
  world: {
    readonly stock: readonly ShelvedItem[];
    readonly siteAddresses: readonly SiteAddress[];
    readonly hostName: (id: HostId) => string;
    readonly plans: ReadonlyMap<PageId, PagePlan>;
    readonly documents: ReadonlyMap<RevisionId, PageDocument>;
  },
  horizon: Instant,
): Promise<PreparedPages> {
  const { siteAddresses, hostName } = world;
  const rules = rulesIn(world.stock)
    .filter((rule) => isOfPages(rule.for))
    .sort(byReach);
  const lie = await whereTheyLie(reader, portfolioId, pageIds, world.plans);
  const own = await ownFrames(reader, lie, world.documents);
  const known = await knownPages(reader, pageIds, rules.length > 0);
  const rows: FramedRow[] = [];
  for (const { pageId, siteId, path, revisionId, during } of lie) {
    const { labels = [], role = 'ordinary', isPublished = false } = known.get(pageId) ?? {};
    for (const address of siteAddresses) {
      if (address.siteId !== siteId) continue;
      const both = intersect(during, address.during);
      if (!both || (isPublished && endOf(both) <= horizon)) continue;
      const host = hostName(address.hostId);
      const place: PagePlace = { pageId, siteId, path, host, labels, role: roleAt(role, path) };
      const covering = rules.filter((rule) => isCovered(rule.for, place)).map(({ id }) => id);
      const variant = writeVariant({ rules: covering, own: own.get(revisionId) ?? null });
      const from = isPublished && both.from < horizon ? horizon : both.from;
      if (variant)
        rows.push({
          ...{ host_id: address.hostId, site_id: siteId, page_id: pageId, variant },
          ...{ from_at: from, until_at: both.until },
        });
    }
  }
  const wanted = joined(rows);
  const others = await rowsOf<{ site_id: number; variant: string }>(
    reader,
    'SELECT DISTINCT site_id, variant FROM framed_page WHERE portfolio_id = ? AND NOT page_id = ANY(?) AND (until_at IS NULL OR until_at > ?)',
    [portfolioId, [...pageIds], dateOf(horizon)],
  );
  const bySite = groupBy([...others, ...wanted], ({ site_id }) => site_id);
  return {
    variantsOf: (siteId) => [...new Set((bySite.get(siteId) ?? []).map(({ variant }) => variant))].sort(),
    write: (trx, keep) => writePages(trx, portfolioId, pageIds, { wanted, keep }, horizon),
  };
}

/** Stretches of a page that touch and are the same become one: a new revision is no other frame. */
function joined(rows: readonly FramedRow[]): FramedRow[] {
  const whole: FramedRow[] = [];
  const sorted = [...rows].sort((a, b) => a.host_id - b.host_id || a.page_id - b.page_id || a.from_at - b.from_at);
  for (const row of sorted) {
    const last = whole.at(-1);
    const isSame =
      last?.host_id === row.host_id &&
      last.page_id === row.page_id &&
      last.site_id === row.site_id &&
      last.variant === row.variant;
    if (last && isSame && last.until_at === row.from_at) whole[whole.length - 1] = { ...last, until_at: row.until_at };
    else whole.push(row);
  }
  return whole;
}

async function whereTheyLie(
  reader: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
  plans: ReadonlyMap<PageId, PagePlan>,
): Promise<Lies[]> {
  const stored = await rowsOf<{
    page_id: PageId;
    site_id: number;
    path: string;
    revision_id: RevisionId;
    from_at: Instant;
    until_at: Instant | null;
  }>(
    reader,
    `SELECT q.page_id, l.site_id, l.path, q.revision_id, greatest(q.from_at, l.from_at) AS from_at, least(q.until_at, l.until_at) AS until_at
    FROM period q JOIN placement l ON l.page_id = q.page_id AND l.during && q.during WHERE q.portfolio_id = ? AND q.page_id = ANY(?)`,
    [portfolioId, pageIds.filter((id) => !plans.has(id))],
  );
  const planned = pageIds.flatMap((pageId) => {
    const plan = plans.get(pageId);
    return (plan?.periods ?? []).flatMap((period) =>
      (plan?.placements ?? []).flatMap(({ siteId, path, during }): Lies[] => {
        const both = intersect(period.during, during);
        return both ? [{ pageId, siteId, path, revisionId: period.revisionId, during: both }] : [];
      }),
    );
  });
  return [
    ...stored.map((row) => ({
      ...{ pageId: row.page_id, siteId: row.site_id, path: row.path, revisionId: row.revision_id },
      during: { from: row.from_at, until: row.until_at },
    })),
    ...planned,
  ];
}

/** What revisions choose themselves. */
async function ownFrames(
  reader: Db,
  lie: readonly Lies[],
  documents: ReadonlyMap<RevisionId, PageDocument>,
): Promise<Map<RevisionId, PageFrame>> {
  const own = new Map<RevisionId, PageFrame>();
  const missing = new Set<RevisionId>();
  for (const { revisionId } of lie) {
    const document = documents.get(revisionId);
    if (!document) missing.add(revisionId);
    else if (document.metadata.frame) own.set(revisionId, document.metadata.frame);
  }
  const rows = await rowsOf<{ id: RevisionId; frame: PageFrame }>(
    reader,
    "SELECT id, document #> '{metadata,frame}' AS frame FROM revision WHERE id = ANY(?) AND document #> '{metadata,frame}' IS NOT NULL",
    [[...missing]],
  );
  for (const { id, frame } of rows) own.set(id, frame);
  return own;
}

interface Known {
  readonly labels: readonly string[];
  readonly role: string;
  /** Whatever was before the horizon stays as it was. */
  readonly isPublished: boolean;
}

async function knownPages(reader: Db, pageIds: readonly PageId[], isRuled: boolean): Promise<Map<PageId, Known>> {
  const labels = isRuled
    ? "coalesce((SELECT array_agg(t.name) FROM page_label x JOIN label t ON t.id = x.label_id WHERE x.page_id = p.id), '{}')"
    : "'{}'::text[]";
  const rows = await rowsOf<Known & { id: PageId }>(
    reader,
    `SELECT p.id, p.role, ${labels} AS labels, EXISTS (SELECT FROM route r WHERE r.page_id = p.id AND r.layer = 'page') AS "isPublished"
    FROM page p WHERE p.id = ANY(?)`,
    [[...pageIds]],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

async function writePages(
  trx: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
  { wanted, keep }: { readonly wanted: readonly FramedRow[]; readonly keep: KeepBefore },
  horizon: Instant,
): Promise<HostId[]> {
  const stored = await rowsOf<FramedRow & { id: number }>(
    trx,
    'SELECT id, host_id, site_id, page_id, from_at, until_at, variant FROM framed_page WHERE portfolio_id = ? AND page_id = ANY(?)',
    [portfolioId, [...pageIds]],
  );
  const keyOf = ({ host_id, page_id }: FramedRow) => `${host_id} ${page_id}`;
  const [had, coming] = [groupBy(stored, keyOf), groupBy(wanted, keyOf)];
  const changed = new Set<HostId>();
  const removed: number[] = [];
  const ends: { id: number; during: { until: Instant | null } }[] = [];
  const inserted: FramedRow[] = [];
  for (const key of new Set([...had.keys(), ...coming.keys()])) {
    const [before, after] = [had.get(key) ?? [], coming.get(key) ?? []];
    const cut = cutAt(before, after, horizon, ({ site_id, variant }) => `${site_id} ${variant}`);
    removed.push(...cut.removed);
    ends.push(...cut.ends);
    inserted.push(...cut.inserted);
    const one = before[0] ?? after[0];
    if (!one || !(cut.removed.length + cut.ends.length + cut.inserted.length)) continue;
    changed.add(one.host_id);
    keep(subjects.page(one.host_id, one.page_id), before);
  }
  if (removed.length) await trx.raw('DELETE FROM framed_page WHERE id = ANY(?)', [removed]);
  await saveEnds(trx, 'framed_page', ends);
  await insertRows(
    trx,
    'framed_page',
    inserted.map((row) => ({
      ...row,
      portfolio_id: portfolioId,
      from_at: dateOf(row.from_at),
      until_at: dateOf(row.until_at),
    })),
  );
  return [...changed];
}
