import {
  claimDifference,
  claimsOf,
  inputsOf,
  type Claim,
  type HostId,
  type LivePeriod,
  type PageId,
  type PagePlan,
  type PlanRowId,
  type SiteAddress,
  type SiteId,
} from '@domatium/core/plan';
import { later, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { answerOfRow, leavingColumns, rowOfAnswer, type AnswerRow } from '../host-routes.js';
import { planOfFormer, type FormerAnswer, type FormerPlan } from './former-plans.js';

/** What a page leaves is derived: ends carry it, and what is said of an address later is a statement of its own. */
export async function up(knex: Knex): Promise<void> {
  // Nothing of the past changes, but how it is written down does.
  await knex.raw("SELECT set_config('domatium.instant', '1900-01-01Z', true)");
  await knex.raw(columns);
  const portfolios = await rowsOf<{ id: number }>(knex, 'SELECT id FROM portfolio ORDER BY id');
  for (const { id } of portfolios) await convert(knex, id);
  await mergePrepared(knex);
  await knex.raw('SET CONSTRAINTS ALL IMMEDIATE');
  await knex.raw(guards);
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Answers that are derived can’t be written down again; restore the backup instead'));
}

const leaves = (table: string, kinds: string) => `
ALTER TABLE ${table} ADD COLUMN leaves text CHECK (leaves IN (${kinds})), ADD COLUMN leaves_page_id bigint, ADD COLUMN leaves_url text
    CHECK ((leaves_url LIKE 'http://%' OR leaves_url LIKE 'https://%') AND length(leaves_url) <= 2100),
  ADD COLUMN leaves_status smallint CHECK (leaves_status IN (301, 302)), ADD COLUMN leaves_order bigint, ADD COLUMN leaves_until timestamptz,
  ADD CHECK (leaves_until > until_at), ADD CHECK (leaves IS NOT NULL OR leaves_until IS NULL),
  ADD CHECK ((leaves IS NULL) = (leaves_order IS NULL)), ADD CHECK (leaves IS NULL OR until_at IS NOT NULL),
  ADD CHECK ((leaves IS NOT DISTINCT FROM 'redirect') = (leaves_status IS NOT NULL)),
  ADD CHECK ((leaves IS NOT DISTINCT FROM 'redirect') = (num_nonnulls(leaves_page_id, leaves_url) = 1)),
  ADD CHECK (leaves = 'redirect' OR num_nonnulls(leaves_page_id, leaves_url) = 0),
  ADD FOREIGN KEY (portfolio_id, leaves_page_id) REFERENCES page (portfolio_id, id);
CREATE INDEX ON ${table} (leaves_page_id) WHERE leaves_page_id IS NOT NULL;`;

const columns = `
${leaves('period', "'redirect', 'gone', 'not-found'")}
${leaves('placement', "'follow', 'redirect', 'gone', 'not-found'")}
ALTER TABLE after_answer RENAME TO statement;
ALTER TABLE statement ALTER COLUMN host_id DROP NOT NULL, ALTER COLUMN path DROP NOT NULL,
  ADD CHECK (num_nonnulls(host_id, path) <> 1), ADD CHECK (kind <> 'exact' OR host_id IS NOT NULL);
UPDATE claim c SET source_id = s.ordinal FROM statement s WHERE c.layer = 'after' AND c.source_id = s.id AND s.id <> s.ordinal;
UPDATE route r SET claim_id = s.ordinal FROM statement s WHERE r.layer = 'after' AND r.claim_id = s.id AND s.id <> s.ordinal;
CREATE INDEX ON claim (portfolio_id, split_part(target_url, '/', 3)) WHERE target_url IS NOT NULL;`;

const horizon = (table: string) =>
  `ALTER TABLE ${table} ADD CONSTRAINT ${table}_horizon CHECK (from_at < '2200-01-02Z' AND (until_at IS NULL OR until_at < '2200-01-02Z')) NOT VALID;`;

/** Rule 5 as before. What an end leaves may be taken back or put in again: what that gives is guarded as claims. */
const guards = `
${['period', 'placement', 'statement'].map(horizon).join('\n')}
CREATE OR REPLACE FUNCTION refuse_past() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  said text := current_setting('domatium.instant', true);
  instant timestamptz;
  free text[] := ARRAY['until_at', 'during', 'leaves', 'leaves_page_id', 'leaves_url', 'leaves_status', 'leaves_order', 'leaves_until'];
BEGIN
  IF said IS NULL OR said = '' THEN RAISE EXCEPTION 'a change of % names no instant', TG_TABLE_NAME USING ERRCODE = 'DM001'; END IF;
  instant := said::timestamptz;
  IF TG_OP = 'INSERT' THEN
    IF NEW.from_at < instant THEN RAISE EXCEPTION 'the past of % is closed', TG_TABLE_NAME USING ERRCODE = 'DM001'; END IF;
    RETURN NEW;
  ELSIF TG_OP = 'DELETE' THEN
    IF OLD.from_at < instant THEN RAISE EXCEPTION 'the past of % is closed', TG_TABLE_NAME USING ERRCODE = 'DM001'; END IF;
    RETURN OLD;
  END IF;
  IF OLD.from_at < instant THEN
    IF (to_jsonb(OLD) - free) <> (to_jsonb(NEW) - free)
      OR (OLD.until_at IS DISTINCT FROM NEW.until_at
        AND (coalesce(OLD.until_at, 'infinity') < instant OR coalesce(NEW.until_at, 'infinity') < instant))
    THEN RAISE EXCEPTION 'the past of % is closed', TG_TABLE_NAME USING ERRCODE = 'DM001'; END IF;
  ELSIF NEW.from_at < instant THEN RAISE EXCEPTION 'the past of % is closed', TG_TABLE_NAME USING ERRCODE = 'DM001';
  END IF;
  RETURN NEW;
END $$;`;

async function rowsOf<Row>(db: Knex, sql: string, bindings: readonly unknown[] = []): Promise<Row[]> {
  return ((await db.raw(sql, bindings as Knex.RawBinding[])) as { rows: Row[] }).rows;
}

interface During {
  readonly from_at: Instant;
  readonly until_at: Instant | null;
}
const duringOf = ({ from_at, until_at }: During) => ({ from: from_at, until: until_at });

async function siteAddressesOf(knex: Knex, portfolioId: number): Promise<SiteAddress[]> {
  type Row = During & { id: PlanRowId; site_id: SiteId; host_id: HostId; base_path: string; is_primary: boolean };
  const rows = await rowsOf<Row>(knex, 'SELECT * FROM site_address WHERE portfolio_id = ? ORDER BY id', [portfolioId]);
  return rows.map((row) => ({
    ...{ id: row.id, siteId: row.site_id, hostId: row.host_id, basePath: row.base_path },
    ...{ isPrimary: row.is_primary, during: duringOf(row) },
  }));
}

async function formerPlansOf(knex: Knex, portfolioId: number): Promise<FormerPlan[]> {
  const own = <Row>(table: string) =>
    rowsOf<Row & During & { id: PlanRowId; page_id: PageId; path: string }>(
      knex,
      `SELECT * FROM ${table} WHERE portfolio_id = ? AND page_id IS NOT NULL ORDER BY from_at`,
      [portfolioId],
    );
  const plans = new Map<PageId, { -readonly [Key in keyof FormerPlan]: FormerPlan[Key] }>();
  const planOf = (pageId: PageId) => {
    const plan = plans.get(pageId) ?? { pageId, placements: [], periods: [], answers: [] };
    plans.set(pageId, plan);
    return plan;
  };
  for (const row of await own<{ site_id: SiteId }>('placement')) {
    const { id, page_id: pageId, site_id: siteId, path } = row;
    const plan = planOf(pageId);
    plan.placements = [...plan.placements, { id, pageId, siteId, path, during: duringOf(row) }];
  }
  for (const row of await own<{ revision_id: LivePeriod['revisionId'] }>('period')) {
    const { id, page_id: pageId, revision_id: revisionId } = row;
    const plan = planOf(pageId);
    plan.periods = [...plan.periods, { id, pageId, revisionId, during: duringOf(row) }];
  }
  type Answered = AnswerRow & { kind: FormerAnswer['kind']; host_id: HostId; rank: Instant; ordinal: number };
  for (const row of await own<Answered>('statement')) {
    const { id, page_id: pageId, host_id: hostId, path, kind, rank, ordinal: order } = row;
    const plan = planOf(pageId);
    const answer = { id, pageId, hostId, path, kind, rank, order, during: duringOf(row), answer: answerOfRow(row) };
    plan.answers = [...plan.answers, answer];
  }
  return [...plans.values()];
}

async function convert(knex: Knex, portfolioId: number): Promise<void> {
  const siteAddresses = await siteAddressesOf(knex, portfolioId);
  const [latest] = await rowsOf<{ at: Instant | null }>(
    knex,
    'SELECT max(last_release_at) AS at FROM host WHERE portfolio_id = ?',
    [portfolioId],
  );
  const now = later(Math.max(Date.now(), latest?.at ?? 0) as Instant, 1);
  const former = await formerPlansOf(knex, portfolioId);
  const plans = former.map((plan) => planOfFormer(plan, siteAddresses, now));
  for (const plan of plans) await write(knex, plan, former.find(({ pageId }) => pageId === plan.pageId) as FormerPlan);
  await convertKept(knex, portfolioId, siteAddresses, now);
  await mendClaims(knex, portfolioId, siteAddresses, plans, now);
}

/** A release makes one change to a page: several periods of one become one change with further ones. */
async function mergePrepared(knex: Knex): Promise<void> {
  type Change = {
    act: string;
    pageId: number;
    from?: unknown;
    until?: unknown;
    afterwards?: unknown;
    further?: unknown[];
  };
  for (const { id, changes } of await rowsOf<{ id: number; changes: Change[] }>(
    knex,
    'SELECT id, changes FROM prepared_release',
  )) {
    const merged: Change[] = [];
    for (const change of changes) {
      const first = merged.find((one) => one.act === 'release' && one.pageId === change.pageId);
      if (!first || change.act !== 'release' || change.from === 'now') merged.push(change);
      else {
        const { from, until = null, afterwards = null } = change;
        first.further = [...(first.further ?? []), { from, until, afterwards }];
      }
    }
    if (merged.length < changes.length)
      await knex('prepared_release')
        .where({ id })
        .update({ changes: JSON.stringify(merged) });
  }
}

async function write(knex: Knex, plan: PagePlan, former: FormerPlan): Promise<void> {
  for (const { id, leaves: left } of plan.periods)
    if (left) await knex('period').where({ id }).update(leavingColumns(left));
  for (const { id, leaves: left } of plan.placements)
    if (left) await knex('placement').where({ id }).update(leavingColumns(left));
  const kept = new Map(plan.statements.map((said) => [said.id, said]));
  for (const { id } of former.answers) {
    const said = kept.get(id);
    if (!said) await knex('statement').where({ id }).delete();
    else if (!said.place) await knex('statement').where({ id }).update({ host_id: null, path: null });
  }
}

/** Plans that releases keep from before and after them, for undo and the bin. */
async function convertKept(
  knex: Knex,
  portfolioId: number,
  siteAddresses: readonly SiteAddress[],
  now: Instant,
): Promise<void> {
  type Row = { release_id: number; page_id: number; before: FormerPlan; after: FormerPlan };
  const rows = await rowsOf<Row>(
    knex,
    "SELECT release_id, page_id, before, after FROM release_page WHERE portfolio_id = ? AND jsonb_exists(before, 'answers')",
    [portfolioId],
  );
  for (const { release_id, page_id, before, after } of rows)
    await knex('release_page')
      .where({ release_id, page_id })
      .update({
        before: JSON.stringify(planOfFormer(before, siteAddresses, now)),
        after: JSON.stringify(planOfFormer(after, siteAddresses, now)),
      });
}

type StoredClaim = Claim & { readonly id: number };

/** Brings claims still to come to what is derived now; where any differ, a release of its own says so and is published. */
async function mendClaims(
  knex: Knex,
  portfolioId: number,
  siteAddresses: readonly SiteAddress[],
  plans: readonly PagePlan[],
  now: Instant,
): Promise<void> {
  type Row = During &
    AnswerRow & {
      id: number;
      host_id: HostId;
      path: string;
      layer: Claim['layer'];
      page_id: PageId | null;
      revision_id: LivePeriod['revisionId'] | null;
      source_id: PlanRowId;
    };
  const rows = await rowsOf<Row>(
    knex,
    "SELECT c.*, a.host_id, a.path FROM claim c JOIN address a ON a.id = c.address_id WHERE c.portfolio_id = ? AND c.layer = 'after'",
    [portfolioId],
  );
  const stored = rows.map((row): StoredClaim => {
    const { id, host_id: hostId, path, page_id: pageId, source_id: sourceId } = row;
    return { id, hostId, path, layer: 'after', pageId, sourceId, during: duringOf(row), answer: answerOfRow(row) };
  });
  const derived = claimsOf(inputsOf(plans, siteAddresses)).filter(({ layer }) => layer === 'after');
  const { removed, added, ended } = claimDifference(stored, derived);
  const past = [...removed, ...added].filter(({ during }) => during.from < now);
  if (past.length) throw new Error(`The past of ${past[0]?.path} would change: nothing was migrated`);
  if (!removed.length && !added.length && !ended.length) return;
  for (const { id } of removed) await knex('claim').where({ id }).delete();
  for (const {
    stored: { id },
    claim,
  } of ended)
    await knex('claim')
      .where({ id })
      .update({ until_at: claim.during.until === null ? null : new Date(claim.during.until) });
  for (const claim of added) {
    if (claim.layer === 'page') continue;
    await knex.raw('INSERT INTO address (host_id, path) VALUES (?, ?) ON CONFLICT DO NOTHING', [
      claim.hostId,
      claim.path,
    ]);
    const [address] = await knex('address')
      .where({ host_id: claim.hostId, path: claim.path })
      .select<{ id: number }[]>('id');
    await knex('claim').insert({
      ...{ portfolio_id: portfolioId, address_id: address?.id, layer: 'after', page_id: claim.pageId },
      ...{ source_id: claim.sourceId, from_at: new Date(claim.during.from) },
      until_at: claim.during.until === null ? null : new Date(claim.during.until),
      ...rowOfAnswer(claim.answer),
    });
  }
  const pages = new Set([...removed, ...added, ...ended.map(({ claim }) => claim)].map(({ pageId }) => pageId));
  await noteRelease(
    knex,
    portfolioId,
    plans.filter(({ pageId }) => pages.has(pageId)),
    now,
  );
}

async function noteRelease(knex: Knex, portfolioId: number, plans: readonly PagePlan[], now: Instant): Promise<void> {
  const [release] = (await knex('release')
    .insert({
      ...{ portfolio_id: portfolioId, at: new Date(now), act: 'upgrade' },
      summary: 'Upgrade: what planned moves and ends leave follows their pages',
    })
    .returning('id')) as { id: number }[];
  for (const plan of plans)
    await knex('release_page').insert({
      ...{ release_id: release?.id, portfolio_id: portfolioId, page_id: plan.pageId },
      change: JSON.stringify([{ act: 'upgrade' }]),
      before: JSON.stringify(plan),
      after: JSON.stringify(plan),
    });
  await knex('host')
    .where({ portfolio_id: portfolioId })
    .update({ last_release_at: new Date(now) });
}
