import type { AddressCheck, AnswerInput, CopyBody, CopyPreview, ReleaseChange, TextHit } from '@domatium/contracts';
import { readablePath } from '@domatium/core/address';
import { datesIn, withReplacements } from '@domatium/core/copy';
import { linksOf, mapDocument, picturesOf, referencesOf, type PageDocument } from '@domatium/core/document';
import { partsNamed } from '@domatium/core/stock';
import type { Answer, PageId, PictureId, PortfolioId } from '@domatium/core/plan';
import { later, wallOf, writeDay, dayOf, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { writeAudit, type AuditEntry } from '../../platform/database/audit.js';
import { inTransaction, setInstant, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { InvalidError } from '../../platform/errors.js';
import { addressCheck } from '../pages/index.js';
import { takeIds } from '../../heart/plans/index.js';
import { prepareIn } from '../../heart/prepared/index.js';
import { namesOfPages } from '../../heart/releases/index.js';
import { bandsAlong, stockAlong } from './bands.js';
import { read, type Read, type Source } from './read.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/copies';
import { UNNAMED } from '@domatium/core/words';

/** What is shown around a date in a text. */
const AROUND = 40;
const NAMED = 500;

/** What copying would make, what is missing where it goes, and which dates the texts hold. */
export function copyPreview(context: Context, portfolioId: PortfolioId, body: CopyBody): Promise<CopyPreview> {
  return inTransaction(
    context.database,
    async (db) => {
      const wanted = await read(db, context, portfolioId, body);
      const { sources, isElsewhere, start } = wanted;
      await context.step?.(0.3);
      const target = body.target.portfolioId as PortfolioId;
      const pages: CopyPreview['pages'][number][] = [];
      for (const { page, name, path, siteId, fault, periods } of sources) {
        const check =
          page.role === 'not-found'
            ? null
            : await addressCheck({ ...context, database: db as never }, target, siteId, path, null);
        pages.push({
          pageId: page.id,
          name: page.name,
          newName: name,
          address: check?.address ?? readablePath(path),
          words: check?.words ?? '',
          isFree: isFreeFor(check?.holders ?? [], body.withPeriods ? periods : [], context.now),
          fault,
          periods: body.withPeriods ? periods.map(({ from, until }) => ({ from, until })) : [],
        });
        if (pages.length % 20 === 0) await context.step?.(0.3 + (0.6 * pages.length) / sources.length);
      }
      return {
        pages,
        ...(await references(db, portfolioId, sources, isElsewhere)),
        bands: body.withPeriods ? await bandsAlong(db, portfolioId, wanted, context.now) : [],
        hits: body.days || body.replacements.length ? hitsIn(sources, body.days, start) : [],
      };
    },
    'repeatable read',
  );
}

/** Whether nobody lies there when the copy would be on the air; without periods, now. */
function isFreeFor(
  holders: AddressCheck['holders'],
  periods: readonly { readonly from: Instant; readonly until: Instant | null }[],
  now: Instant,
): boolean {
  const wanted = periods.length ? periods : [{ from: now, until: later(now, 1) }];
  return !holders.some((holder) =>
    wanted.some(({ from, until }) => holder.from < (until ?? Infinity) && from < (holder.until ?? Infinity)),
  );
}

async function references(
  db: Db,
  portfolioId: PortfolioId,
  sources: readonly Source[],
  isElsewhere: boolean,
): Promise<Pick<CopyPreview, 'links' | 'missing' | 'leftBehind'>> {
  const copied = new Set<number>(sources.map(({ page }) => page.id));
  const uses = new Map<string, number>();
  const use = (key: string) => uses.set(key, (uses.get(key) ?? 0) + 1);
  let [inside, outside] = [0, 0];
  for (const { page } of sources) {
    const { canonical } = page.document.metadata;
    for (const value of [...linksOf(page.document).map((one) => one.value), ...(canonical ? [canonical] : [])]) {
      if (value.kind !== 'page') continue;
      if (copied.has(value.pageId)) inside++;
      else {
        outside++;
        use(`page ${value.pageId}`);
      }
    }
    for (const { value } of picturesOf(page.document)) use(`picture ${value.pictureId}`);
    const { frame } = page.document.metadata;
    const kept = [...referencesOf(page.document, 'piece'), ...(frame ? partsNamed(frame) : [])];
    for (const id of new Set(kept)) use(`stock ${id}`);
    for (const id of referencesOf(page.document, 'file')) use(`file ${id}`);
  }
  if (!isElsewhere) return { links: { inside, outside }, missing: [], leftBehind: [] };
  const named = (kind: string) =>
    [...uses].flatMap(([key, count]) => (key.startsWith(kind) ? [[Number(key.split(' ')[1]), count] as const] : []));
  const pageNames = await namesOfPages(
    db,
    portfolioId,
    named('page').map(([id]) => id as PageId),
  );
  const pictures = await store.picturesById(
    db,
    portfolioId,
    named('picture').map(([id]) => id),
  );
  const pictureNames = new Map<number, string>(pictures.map(({ id, name }) => [id, name]));
  const leftBehind = await store.namesLeftBehind(db, portfolioId, named('stock'), named('file'));
  return {
    ...{ links: { inside, outside }, leftBehind },
    missing: [
      ...named('page').map(([id, usedBy]) => ({
        kind: 'page' as const,
        id,
        name: pageNames.get(id as PageId) ?? UNNAMED.page,
        usedBy,
        canCopy: false,
      })),
      ...named('picture').map(([id, usedBy]) => ({
        kind: 'picture' as const,
        id,
        name: pictureNames.get(id) ?? UNNAMED.picture,
        usedBy,
        canCopy: pictureNames.has(id),
      })),
    ],
  };
}

function hitsIn(sources: readonly Source[], days: number, start: Read['start']): TextHit[] {
  return sources.flatMap(({ page }) => {
    const hits: TextHit[] = [];
    mapDocument(page.document, {
      text: (text, place) => {
        for (const { start: at, end, found, proposal } of datesIn(text, days, start))
          hits.push({
            pageId: page.id,
            place,
            start: at,
            end,
            found,
            proposal,
            before: text.slice(Math.max(0, at - AROUND), at),
            after: text.slice(end, end + AROUND),
          });
        return text;
      },
    });
    return hits;
  });
}

/** Copies pages as drafts, in one transaction; with their periods as a prepared release. Nothing is released. */
export function copy(
  context: Context,
  portfolioId: PortfolioId,
  body: CopyBody,
): Promise<{ pages: number[]; preparedId: number | null }> {
  return inTransaction(context.database, (trx) => copyIn(trx, context, portfolioId, body));
}

/** The same inside a transaction of somebody else's; `partOf` says which headers, footers and bands are others there. */
export async function copyIn(
  trx: Knex.Transaction,
  context: Context,
  portfolioId: PortfolioId,
  body: CopyBody,
  name: string | null = null,
  partOf: ReadonlyMap<number, number> = new Map(),
): Promise<{ pages: number[]; preparedId: number | null }> {
  const { now, account } = context;
  const target = body.target.portfolioId as PortfolioId;
  const wanted = await read(trx, context, portfolioId, body);
  const { sources, zone, isElsewhere } = wanted;
  const faults = sources.flatMap(({ fault }, index) =>
    fault ? [{ path: `pages[${index}]`, message: `${sources[index]?.page.name}: ${fault}` }] : [],
  );
  if (faults.length) throw new InvalidError(faults);
  if (body.campaignId && !(await store.campaignExists(trx, target, body.campaignId)))
    throw new InvalidError([{ path: 'campaignId', message: say.thatCampaignIsntInThatPortfolio }]);
  await setInstant(trx, now);
  await context.step?.(0.2);
  const nextId = await takeIds(trx, sources.length);
  const ids = await store.insertCopies(
    trx,
    target,
    sources.map(({ page, name, path, siteId }) => ({
      name,
      path,
      siteId,
      role:
        page.role === 'home' && path !== '/'
          ? 'ordinary'
          : path === '/' && page.role === 'ordinary'
            ? 'home'
            : page.role,
      campaignId: body.campaignId === undefined ? (isElsewhere ? null : page.campaign_id) : body.campaignId,
      templateId: isElsewhere ? null : page.template_id,
      placementId: nextId(),
    })),
    now,
    account,
  );
  await context.step?.(0.5);
  const copies = new Map(sources.map(({ page }, index) => [page.id, ids[index] as PageId]));
  const mapped = await mapperOf(trx, portfolioId, target, sources, copies, body, partOf);
  await store.insertDrafts(
    trx,
    target,
    sources.map(({ page }) => [copies.get(page.id) as PageId, mapped(page)]),
    now,
    account,
  );
  await store.copyLabels(
    trx,
    target,
    sources.map(({ page }) => [page.id, copies.get(page.id) as PageId]),
  );
  await context.step?.(0.8);
  await writeAudit(
    trx,
    ...sources.map(({ page, name, path }, index): AuditEntry => ({
      portfolioId: target,
      at: now,
      accountId: account,
      act: 'copy',
      object: 'page',
      objectId: ids[index] as number,
      after: { name, path, from: page.id },
    })),
  );
  const changes = body.withPeriods ? changesOf(sources, copies, zone, isElsewhere, now) : [];
  const stock = body.withPeriods ? await stockAlong(trx, portfolioId, wanted, copies, { at: now, by: account }) : [];
  const preparedId =
    changes.length || stock.length
      ? await prepareIn(trx, context, target, { name: name ?? preparedName(sources, now, zone), changes, stock })
      : null;
  await notifyEvent(trx, {
    portfolioId: target,
    kind: 'page',
    by: account,
    ...(ids.length <= NAMED ? { pageIds: ids } : {}),
  });
  return { pages: ids, preparedId };
}

const preparedName = (sources: readonly Source[], now: Instant, zone: string) =>
  say
    .copiedOn(sources.length === 1 ? (sources[0]?.name ?? '') : say.pages(sources.length), writeDay(dayOf(now, zone)))
    .slice(0, 200);

/** Periods of the copies as changes; a redirect behind one leads to the copy where its page was copied too. */
function changesOf(
  sources: readonly Source[],
  copies: ReadonlyMap<PageId, PageId>,
  zone: string,
  isElsewhere: boolean,
  now: Instant,
): ReleaseChange[] {
  const wall = (at: Instant) => ({ local: wallOf(at, zone), zone });
  return sources.flatMap(({ page, periods }): ReleaseChange[] => {
    const stretches = periods.map(({ from, until, afterwards }) => ({
      from: wall(from),
      until: until === null ? null : wall(until),
      afterwards: until === null ? null : answerFor(afterwards, copies, isElsewhere),
    }));
    const [first, ...further] = stretches;
    const begun = periods[0];
    if (!first || !begun) return [];
    const from = begun.from <= now ? 'now' : first.from;
    const pageId = copies.get(page.id) as number;
    return [{ ...first, act: 'release', pageId, from, cutsLater: false, ...(further.length ? { further } : {}) }];
  });
}

function answerFor(answer: Answer | null, copies: ReadonlyMap<PageId, PageId>, isElsewhere: boolean): AnswerInput {
  if (answer?.kind !== 'redirect') return (answer as AnswerInput | null) ?? { kind: 'not-found' };
  if (answer.target.kind !== 'page') return answer as AnswerInput;
  const copied = copies.get(answer.target.pageId);
  if (copied === undefined && isElsewhere) return { kind: 'not-found' };
  return { ...answer, target: { kind: 'page', pageId: copied ?? answer.target.pageId } } as AnswerInput;
}

/** How documents change: links among the copies, what is missing there, and the texts that were decided on. */
async function mapperOf(
  trx: Db,
  portfolioId: PortfolioId,
  target: PortfolioId,
  sources: readonly Source[],
  copies: ReadonlyMap<PageId, PageId>,
  body: CopyBody,
  partOf: ReadonlyMap<number, number>,
): Promise<(page: store.SourcePage) => PageDocument> {
  const isElsewhere = target !== portfolioId;
  const choices = new Map(body.missing.map((one) => [`${one.kind} ${one.id}`, one]));
  const chosen = body.missing.flatMap(({ kind, choice, useId }) =>
    choice === 'use' && useId ? [{ kind, useId }] : [],
  );
  await refuseForeign(trx, target, chosen);
  const wanted = isElsewhere
    ? [
        ...new Set(
          sources.flatMap(({ page }) => picturesOf(page.document).map(({ value }) => value.pictureId as number)),
        ),
      ]
    : [];
  const pictures = await store.picturesById(
    trx,
    portfolioId,
    wanted.filter((id) => choices.get(`picture ${id}`)?.choice === 'copy'),
  );
  const brought = await store.bringPictures(trx, target, pictures);
  return (page) => {
    const decided = body.texts.filter(({ pageId }) => pageId === page.id);
    return mapDocument(page.document, {
      link: (link) => {
        if (link.kind === 'file' && isElsewhere) return null;
        if (link.kind !== 'page') return link;
        const copied = copies.get(link.pageId);
        if (copied !== undefined) return { kind: 'page', pageId: copied };
        if (!isElsewhere) return link;
        const choice = choices.get(`page ${link.pageId}`);
        return choice?.choice === 'use' && choice.useId ? { kind: 'page', pageId: choice.useId as PageId } : null;
      },
      picture: (use) => {
        if (!isElsewhere) return use;
        const choice = choices.get(`picture ${use.pictureId}`);
        const pictureId =
          choice?.choice === 'use' ? (choice.useId as PictureId | null) : (brought.get(use.pictureId) ?? null);
        return pictureId === null ? null : { ...use, pictureId };
      },
      // Pieces and files stay where they are kept.
      reference: (_, id) => (isElsewhere ? null : id),
      part: (id) => (isElsewhere ? null : (partOf.get(id) ?? id)),
      text: (text, place) =>
        withReplacements(
          text,
          decided.filter((one) => one.place === place && one.end <= text.length),
        ),
    });
  };
}

async function refuseForeign(
  trx: Db,
  target: PortfolioId,
  chosen: readonly { readonly kind: 'page' | 'picture'; readonly useId: number }[],
): Promise<void> {
  const of = (kind: string) => chosen.filter((one) => one.kind === kind).map(({ useId }) => useId);
  const pages = await namesOfPages(trx, target, of('page') as PageId[]);
  const pictures = new Set((await store.picturesById(trx, target, of('picture'))).map(({ id }) => id as number));
  for (const { kind, useId } of chosen)
    if (kind === 'page' ? !pages.has(useId as PageId) : !pictures.has(useId))
      throw new InvalidError([{ path: 'missing', message: say.thereIsNoSuchThere(kind) }]);
}
