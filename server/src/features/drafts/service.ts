import type { DraftView } from '@domatium/contracts';
import { joinPath } from '@domatium/core/address';
import {
  completeDocument,
  documentFromJSON,
  linksOf,
  picturesOf,
  referencesOf,
  type Fault,
  type PageDocument,
} from '@domatium/core/document';
import { groupBy, type PortfolioId } from '@domatium/core/plan';
import { partsNamed, type PageFrame, type PartChoice, type PartKind } from '@domatium/core/stock';
import { wrong } from '@domatium/core/words';
import type { Instant } from '@domatium/core/time';
import { writeAudit } from '../../platform/database/audit.js';
import { dateOf, inTransaction, rowsOf, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { keepOverridden, overriddenOf } from './overridden.js';
import { keepStates } from './states.js';
import { faceForm, firstFaceForm } from '../pictures/index.js';
import { InvalidError, NotFoundError, StaleError } from '../../platform/errors.js';
import { say } from '@domatium/core/words/answers/drafts';

interface DraftRow {
  readonly version: number;
  readonly document: PageDocument;
  readonly changed_at: Instant;
  readonly changed_by: string | null;
  readonly name: string;
  readonly site_id: number;
  readonly host: string;
  readonly base_path: string;
  readonly path: string;
  readonly latest: number | null;
  readonly is_same: boolean | null;
}

/** The draft as it is now. */
export async function draft(context: Context, portfolioId: PortfolioId, pageId: number): Promise<DraftView> {
  const row = await draftRow(context.database, portfolioId, pageId, context.now);
  if (!row) throw new NotFoundError();
  return { ...viewOf(row), overridden: await overriddenOf(context.database, context, pageId) };
}

/**
 * Keeps a draft. A save made from an older version is refused with the newest, so that the person can choose; what they
 * chose their own text over is kept for the other.
 */
export async function saveDraft(
  context: Context,
  portfolioId: PortfolioId,
  pageId: number,
  version: number,
  json: object,
  over: readonly string[] = [],
): Promise<{ version: number; changedAt: number }> {
  const { now, account } = context;
  const read = documentFromJSON(json);
  if (!read.ok) throw new InvalidError(read.faults);
  const document = read.value;
  return inTransaction(context.database, async (trx) => {
    const [locked] = await rowsOf<{ version: number; document: PageDocument; changed_by_id: number | null }>(
      trx,
      'SELECT version, document, changed_by AS changed_by_id FROM draft WHERE portfolio_id = ? AND page_id = ? FOR UPDATE',
      [portfolioId, pageId],
    );
    if (!locked) throw new NotFoundError();
    await refuseForeign(trx, portfolioId, document);
    const { sharePictureId, iconPictureId } = document.metadata;
    // Without one that was chosen the first of the page is shown where it is shared.
    const firstId = picturesOf(document)[0]?.value.pictureId;
    if (sharePictureId !== undefined) await faceForm(trx, context, portfolioId, sharePictureId, 'share');
    else if (firstId !== undefined) await firstFaceForm(trx, context, portfolioId, firstId);
    if (iconPictureId !== undefined) await faceForm(trx, context, portfolioId, iconPictureId, 'icon');
    if (locked.version !== version) {
      const current = await draftRow(trx, portfolioId, pageId, now);
      throw new StaleError(
        say.hasChangedThisPageSinceYou(current?.changed_by ?? say.someoneElse),
        current && { ...viewOf(current), overridden: await overriddenOf(trx, context, pageId) },
      );
    }
    const next = version + 1;
    await keepStates(trx, [pageId]);
    const told = over.length ? await keepOverridden(trx, context, portfolioId, pageId, locked, over) : null;
    await trx('draft')
      .where({ page_id: pageId })
      .update({ document: JSON.stringify(document), version: next, changed_at: dateOf(now), changed_by: account });
    await trx('page')
      .where({ id: pageId })
      .update({ changed_at: dateOf(now), changed_by: account });
    await writeAudit(trx, {
      portfolioId,
      at: now,
      accountId: account,
      act: 'save-draft',
      object: 'draft',
      objectId: pageId,
      before: { version },
      after: { version: next },
    });
    const event = { portfolioId, kind: 'draft', pageIds: [pageId], by: account, version: next, at: now } as const;
    await notifyEvent(trx, { ...event, ...(told === null ? {} : { to: told }) });
    return { version: next, changedAt: now };
  });
}

/** Refuses references to what is not of this portfolio, at the field they stand in. */
async function refuseForeign(db: Db, portfolioId: PortfolioId, document: PageDocument): Promise<void> {
  const pathOf = ({ blockId, field }: { blockId: string; field: string }) =>
    `blocks[${document.blocks.findIndex(({ id }) => id === blockId)}].fields.${field}`;
  const links = linksOf(document);
  const placed: { table: keyof typeof FOREIGN; id: number; path: string }[] = [
    ...links.flatMap((at) =>
      at.value.kind === 'page' ? [{ table: 'page' as const, id: at.value.pageId as number, path: pathOf(at) }] : [],
    ),
    ...picturesOf(document).map((at) => ({
      table: 'picture' as const,
      id: at.value.pictureId as number,
      path: pathOf(at),
    })),
    ...referencesOf(document, 'file').map((id) => ({ table: 'stored_file' as const, id, path: 'blocks' })),
    ...referencesOf(document, 'piece').map((id) => ({ table: 'stock_item' as const, id, path: 'blocks' })),
  ];
  for (const key of ['sharePictureId', 'iconPictureId'] as const) {
    const id = document.metadata[key];
    if (id !== undefined) placed.push({ table: 'picture', id, path: `metadata.${key}` });
  }
  const { canonical } = document.metadata;
  if (canonical?.kind === 'page') placed.push({ table: 'page', id: canonical.pageId, path: 'metadata.canonical' });
  const faults: Fault[] = await foreignParts(db, portfolioId, document.metadata.frame);
  for (const [table, used] of groupBy(placed, (one) => one.table)) {
    const ids = used.map(({ id }) => id);
    const rows = await rowsOf<{ id: number }>(db, `SELECT id FROM ${table} WHERE portfolio_id = ? AND id = ANY(?)`, [
      portfolioId,
      ids,
    ]);
    const known = new Set(rows.map(({ id }) => id));
    for (const { id, path } of used) if (!known.has(id)) faults.push({ path, ...wrong(FOREIGN[table]) });
  }
  if (faults.length) throw new InvalidError(faults);
}

/** What a page chooses to stand around it is there, and is what it is chosen as. */
async function foreignParts(db: Db, portfolioId: PortfolioId, frame: PageFrame | undefined): Promise<Fault[]> {
  if (!frame) return [];
  const rows = await rowsOf<{ id: number; kind: string }>(
    db,
    'SELECT id, kind FROM stock_item WHERE portfolio_id = ? AND id = ANY(?) AND removed_at IS NULL',
    [portfolioId, partsNamed(frame)],
  );
  const isOf = (id: number, kind: PartKind) => rows.some((row) => row.id === id && row.kind === kind);
  const isWrong = (choice: PartChoice, kind: PartKind) => typeof choice === 'number' && !isOf(choice, kind);
  const wrongAt = [
    ...(isWrong(frame.header, 'header') ? ['header'] : []),
    ...(isWrong(frame.footer, 'footer') ? ['footer'] : []),
    ...(frame.bands?.some((id) => !isOf(id, 'band')) ? ['bands'] : []),
  ];
  return wrongAt.map((field) => ({ path: `metadata.frame.${field}`, ...wrong('part-missing') }));
}

const FOREIGN = {
  page: 'page-elsewhere',
  picture: 'picture-elsewhere',
  stored_file: 'file-elsewhere',
  stock_item: 'piece-elsewhere',
} as const;

async function draftRow(db: Db, portfolioId: PortfolioId, pageId: number, now: Instant): Promise<DraftRow | null> {
  const [row] = await rowsOf<DraftRow>(
    db,
    `SELECT d.version, d.document, d.changed_at, c.name AS changed_by, p.name, l.site_id, h.name AS host, a.base_path, l.path, r.number AS latest, r.document = d.document AS is_same
    FROM draft d JOIN page p ON p.id = d.page_id JOIN placement l ON l.page_id = p.id AND l.during @> ?::timestamptz
    JOIN site_address a ON a.site_id = l.site_id AND a.is_primary AND a.during @> ?::timestamptz JOIN host h ON h.id = a.host_id
    LEFT JOIN account c ON c.id = d.changed_by LEFT JOIN LATERAL (SELECT number, document FROM revision WHERE page_id = p.id ORDER BY number DESC LIMIT 1) r ON true
    WHERE d.portfolio_id = ? AND d.page_id = ?`,
    [dateOf(now), dateOf(now), portfolioId, pageId],
  );
  return row ?? null;
}

function viewOf(row: DraftRow): DraftView {
  return {
    version: row.version,
    document: completeDocument(row.document),
    changedAt: row.changed_at,
    changedBy: row.changed_by,
    name: row.name,
    siteId: row.site_id,
    host: row.host,
    path: joinPath(row.base_path, row.path),
    latestRevision: row.latest,
    differsFromLatest: row.is_same !== true,
    overridden: [],
  };
}
