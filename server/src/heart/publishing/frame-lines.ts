import {
  laidLines,
  LINE_SLOTS,
  partsOnLines,
  type FrameLine,
  type FrameLines,
  type FrameParts,
  type LineSlot,
  type WantedFrame,
} from '@domatium/core/frame';
import { groupBy, type HostId, type PortfolioId } from '@domatium/core/plan';
import { contains, type Instant, type Interval } from '@domatium/core/time';
import { linesOf, queryOfKnex, readFrameLines } from '@domatium/storage';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';
import { saveEnds } from '../plans/index.js';
import { cutAt, subjects, type KeepBefore } from './cut.js';

/** What is to stand at one place while one site lies there. */
export interface MadeFrame {
  readonly hostId: HostId;
  readonly basePath: string;
  readonly variant: string;
  readonly during: Interval;
  readonly stretches: readonly { readonly during: Interval; readonly parts: FrameParts }[];
}

export interface PlaceRow extends FrameLines {
  readonly host_id: HostId;
  readonly base_path: string;
  readonly variant: string;
  readonly from_at: Instant;
  readonly until_at: Instant | null;
}
type StoredRow = PlaceRow & { readonly id: number };
export interface StretchRow {
  readonly id: number;
  readonly line_id: number;
  readonly from_at: Instant;
  readonly until_at: Instant | null;
  readonly parts: readonly string[];
}

export type Place = [hostId: HostId, basePath: string, variant: string];
export const placeOf = (...place: Place): string => JSON.stringify(place);
const placeOfRow = ({ host_id, base_path, variant }: Omit<StoredRow, 'id'>) => placeOf(host_id, base_path, variant);

/** Where a portfolio has frames already, each with its host. */
export async function framedPlaces(db: Db, portfolioId: PortfolioId): Promise<Map<string, HostId>> {
  const rows = await rowsOf<{ host_id: HostId; base_path: string; variant: string }>(
    db,
    'SELECT DISTINCT host_id, base_path, variant FROM frame_place WHERE portfolio_id = ?',
    [portfolioId],
  );
  return new Map(rows.map(({ host_id, base_path, variant }) => [placeOf(host_id, base_path, variant), host_id]));
}

/**
 * Writes what is to stand at places from the horizon on, `places` being all that are written with their hosts: where
 * nothing is made for one, nothing stands there any more. Gives the hosts on which anything is another, and the hashes
 * of parts that were not there before.
 */
export async function writeLines(
  trx: Db,
  portfolioId: PortfolioId,
  places: ReadonlyMap<string, HostId>,
  made: readonly MadeFrame[],
  horizon: Instant,
  keep: KeepBefore,
): Promise<{ readonly hosts: HostId[]; readonly parts: ReadonlySet<string> }> {
  const stored = await placesFrom(trx, portfolioId, horizon);
  const own = groupBy(
    stored.filter((row) => places.has(placeOfRow(row))),
    placeOfRow,
  );
  const elsewhere = new Set(
    stored.filter((row) => !places.has(placeOfRow(row))).flatMap((row) => Object.values(linesOf(row))),
  );
  const wanted = made.map((frame, index): WantedFrame => {
    const { hostId, basePath, variant, during, stretches } = frame;
    const held = own
      .get(placeOf(hostId, basePath, variant))
      ?.find((row) => row.from_at <= during.from && during.from < (row.until_at ?? Infinity));
    return { place: String(index), during, stretches, lines: held ? linesOf(held) : null };
  });
  const lines = await linesById(
    trx,
    [...new Set(wanted.flatMap(({ lines: of }) => (of ? Object.values(of) : [])))],
    horizon,
  );
  const laid = laidLines(
    wanted,
    (id) => lines.get(id),
    (id) => elsewhere.has(id),
    horizon,
  );
  const begun = await beginLines(trx, portfolioId, [...laid.begun]);
  const idOf = (line: number) => begun.get(line) ?? line;
  const coming = made.map(({ hostId: host_id, basePath: base_path, variant, during }, index): PlaceRow => {
    const at = laid.at.get(String(index)) as FrameLines;
    const own = Object.fromEntries(LINE_SLOTS.map((slot) => [slot, idOf(at[slot])])) as unknown as FrameLines;
    return { host_id, base_path, variant, from_at: during.from, until_at: during.until, ...own };
  });
  const changed = await writePlaces(trx, portfolioId, [own, groupBy(coming, placeOfRow)], places, horizon, keep);
  const anew = [
    ...[...laid.begun.values()].flatMap(({ stretches }) => stretches),
    ...[...laid.changed.values()].flat(),
  ];
  const parts = new Set(anew.flatMap((one) => one.parts));
  await changeLines(trx, [...laid.changed], horizon, keep);
  for (const row of coming)
    if (Object.values(linesOf(row)).some((id) => laid.changed.has(id))) changed.add(row.host_id);
  return { hosts: [...changed], parts };
}

const placesFrom = (db: Db, portfolioId: PortfolioId, from: Instant): Promise<StoredRow[]> =>
  rowsOf(
    db,
    `SELECT id, host_id, base_path, variant, from_at, until_at, icons, head, above, below, nav, codes, root FROM frame_place
     WHERE portfolio_id = ? AND (until_at IS NULL OR until_at > ?)`,
    [portfolioId, dateOf(from)],
  );

async function linesById(trx: Db, ids: readonly number[], horizon: Instant): Promise<Map<number, FrameLine>> {
  return new Map((await readFrameLines(queryOfKnex(trx), ids, horizon)).map((line) => [line.id, line]));
}

type NewLine = readonly [number, { readonly stretches: FrameLine['stretches'] }];

/** Stores lines that begin; gives the numbers they have from now on by those they had until then. */
async function beginLines(trx: Db, portfolioId: PortfolioId, begun: readonly NewLine[]): Promise<Map<number, number>> {
  if (!begun.length) return new Map();
  const made = await rowsOf<{ id: number }>(
    trx,
    'INSERT INTO frame_line (portfolio_id) SELECT ? FROM generate_series(1, ?) RETURNING id',
    [portfolioId, begun.length],
  );
  const ids = new Map(begun.map(([line], index) => [line, made[index]?.id ?? 0]));
  await insertStretches(
    trx,
    begun.flatMap(([line, { stretches }]) => stretches.map((one) => [ids.get(line) ?? 0, one] as const)),
  );
  return ids;
}

const insertStretches = (trx: Db, stretches: readonly (readonly [number, FrameLine['stretches'][number]])[]) =>
  insertRows(
    trx,
    'frame_stretch',
    stretches.map(([line_id, { during, parts }]) => ({
      ...{ line_id, from_at: dateOf(during.from), until_at: dateOf(during.until), parts },
    })),
  );

/** Lines go on otherwise from the horizon on; what was before stays. */
async function changeLines(
  trx: Db,
  changed: readonly (readonly [number, FrameLine['stretches']])[],
  horizon: Instant,
  keep: KeepBefore,
): Promise<void> {
  if (!changed.length) return;
  const stored = await rowsOf<StretchRow>(
    trx,
    'SELECT id, line_id, from_at, until_at, parts FROM frame_stretch WHERE line_id = ANY(?) AND (until_at IS NULL OR until_at > ?)',
    [changed.map(([line]) => line), dateOf(horizon)],
  );
  const had = groupBy(stored, ({ line_id }) => line_id);
  const cuts = changed.map(([line, stretches]) => {
    const coming = stretches.map(({ during, parts }) => ({ from_at: during.from, until_at: during.until, parts }));
    return { line, ...cutAt(had.get(line) ?? [], coming, horizon, ({ parts }) => parts.join()) };
  });
  for (const { line, removed, ends, inserted } of cuts)
    if (removed.length + ends.length + inserted.length) keep(subjects.line(line), had.get(line) ?? []);
  const removed = cuts.flatMap((cut) => cut.removed);
  if (removed.length) await trx.raw('DELETE FROM frame_stretch WHERE id = ANY(?)', [removed]);
  await saveEnds(
    trx,
    'frame_stretch',
    cuts.flatMap((cut) => cut.ends),
  );
  const inserted = cuts.flatMap(({ line, inserted: rows }) =>
    rows.map(({ from_at: from, until_at: until, parts }) => [line, { during: { from, until }, parts }] as const),
  );
  await insertStretches(trx, inserted);
}

/** Which lines stand at places, written where they are others; gives the hosts of those. */
async function writePlaces(
  trx: Db,
  portfolioId: PortfolioId,
  [had, coming]: readonly [ReadonlyMap<string, readonly StoredRow[]>, ReadonlyMap<string, readonly PlaceRow[]>],
  places: ReadonlyMap<string, HostId>,
  horizon: Instant,
  keep: KeepBefore,
): Promise<Set<HostId>> {
  const changed = new Set<HostId>();
  const removed: number[] = [];
  const ends: { readonly id: number; readonly during: { readonly until: Instant | null } }[] = [];
  const inserted: PlaceRow[] = [];
  for (const [place, hostId] of places) {
    const cut = cutAt(had.get(place) ?? [], coming.get(place) ?? [], horizon, (row) =>
      Object.values(linesOf(row)).join(),
    );
    removed.push(...cut.removed);
    ends.push(...cut.ends);
    inserted.push(...cut.inserted);
    if (!(cut.removed.length + cut.ends.length + cut.inserted.length)) continue;
    changed.add(hostId);
    const before = had.get(place);
    if (before?.length) keep(subjects.place(place), before);
  }
  if (removed.length) await trx.raw('DELETE FROM frame_place WHERE id = ANY(?)', [removed]);
  await saveEnds(trx, 'frame_place', ends);
  await insertRows(
    trx,
    'frame_place',
    inserted.map((row) => ({
      ...row,
      ...{ portfolio_id: portfolioId, from_at: dateOf(row.from_at), until_at: dateOf(row.until_at) },
    })),
  );
  return changed;
}

/** A place where something else stands than is made, with the first instant at which it does. */
export interface Amiss extends Pick<MadeFrame, 'hostId' | 'basePath' | 'variant'> {
  readonly at: Instant;
  readonly slots: readonly LineSlot[];
}

/** Where something else stands than is made, over a stretch; what is removed by then is not looked at. */
export async function amiss(
  db: Db,
  portfolioId: PortfolioId,
  made: readonly MadeFrame[],
  { from, until }: { readonly from: Instant; readonly until: Instant },
): Promise<Amiss[]> {
  const places = groupBy(await placesFrom(db, portfolioId, from), placeOfRow);
  const ids = new Set([...places.values()].flat().flatMap((row) => Object.values(linesOf(row))));
  const lines = await linesById(db, [...ids], from);
  return made.flatMap(({ hostId, basePath, variant, stretches }): Amiss[] => {
    const rows = places.get(placeOf(hostId, basePath, variant)) ?? [];
    const own = rows.flatMap((row) => Object.values(linesOf(row)).flatMap((id) => lines.get(id)?.stretches ?? []));
    const moments = [...stretches, ...own].map(({ during }) => Math.max(during.from, from) as Instant);
    for (const at of [...new Set(moments)].filter((one) => one < until).sort((a, b) => a - b)) {
      const wanted = stretches.find(({ during }) => contains(during, at))?.parts;
      const row = rows.find((one) => one.from_at <= at && at < (one.until_at ?? Infinity));
      if (!wanted) continue;
      const held = row && partsOnLines(linesOf(row), (id) => lines.get(id), at).parts;
      const slots = LINE_SLOTS.filter((slot) => (held?.[slot] ?? []).join() !== (wanted[slot] ?? []).join());
      if (slots.length) return [{ hostId, basePath, variant, at, slots }];
    }
    return [];
  });
}
