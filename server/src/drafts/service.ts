import type { DraftView } from '@domatium/contracts';
import { joinPath } from '@domatium/core/address';
import { documentFromJSON, linksOf, picturesOf, type PageDocument } from '@domatium/core/document';
import type { PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { writeAudit } from '../database/audit.js';
import { dateOf, inTransaction, rowsOf, type Context, type Db } from '../database/context.js';
import { notifyEvent } from '../events/index.js';
import { InvalidError, NotFoundError, StaleError } from '../http/problem.js';

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
export async function draft({ database, now }: Context, portfolioId: PortfolioId, pageId: number): Promise<DraftView> {
  const row = await draftRow(database, portfolioId, pageId, now);
  if (!row) throw new NotFoundError();
  return viewOf(row);
}

/** Keeps a draft. A save made from an older version is refused with the newest, so that the person can choose. */
export async function saveDraft(
  context: Context,
  portfolioId: PortfolioId,
  pageId: number,
  version: number,
  json: object,
): Promise<{ version: number; changedAt: number }> {
  const { now, account } = context;
  const read = documentFromJSON(json);
  if (!read.ok) throw new InvalidError(read.faults);
  const document = read.value;
  return inTransaction(context.database, async (trx) => {
    const [locked] = await rowsOf<{ version: number; document: PageDocument }>(
      trx,
      'SELECT version, document FROM draft WHERE portfolio_id = ? AND page_id = ? FOR UPDATE',
      [portfolioId, pageId],
    );
    if (!locked) throw new NotFoundError();
    await refuseForeign(trx, portfolioId, document);
    if (locked.version !== version) {
      const current = await draftRow(trx, portfolioId, pageId, now);
      throw new StaleError(
        `${current?.changed_by ?? 'Someone else'} has changed this page since you opened it.`,
        current && viewOf(current),
      );
    }
    const next = version + 1;
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
      before: locked,
      after: { version: next },
    });
    await notifyEvent(trx, { portfolioId, kind: 'draft', pageIds: [pageId], by: account });
    return { version: next, changedAt: now };
  });
}

/** Refuses references to pages and pictures that are not of this portfolio, at the field they stand in. */
async function refuseForeign(db: Db, portfolioId: PortfolioId, document: PageDocument): Promise<void> {
  const links = linksOf(document).flatMap(({ value, ...at }) =>
    value.kind === 'page' ? [{ ...at, id: value.pageId as number }] : [],
  );
  const pictures = picturesOf(document).map(({ value, ...at }) => ({ ...at, id: value.pictureId as number }));
  const known = async (table: string, ids: readonly number[]) =>
    new Set(
      (
        await rowsOf<{ id: number }>(db, `SELECT id FROM ${table} WHERE portfolio_id = ? AND id = ANY(?)`, [
          portfolioId,
          ids,
        ])
      ).map(({ id }) => id),
    );
  const [pages, own] = [
    await known(
      'page',
      links.map(({ id }) => id),
    ),
    await known(
      'picture',
      pictures.map(({ id }) => id),
    ),
  ];
  const pathOf = ({ blockId, field }: { blockId: string; field: string }) =>
    `blocks[${document.blocks.findIndex(({ id }) => id === blockId)}].fields.${field}`;
  const faults = [
    ...links
      .filter(({ id }) => !pages.has(id))
      .map((at) => ({ path: pathOf(at), message: 'This link points to a page that is not in this portfolio.' })),
    ...pictures
      .filter(({ id }) => !own.has(id))
      .map((at) => ({ path: pathOf(at), message: 'This picture is not in this portfolio.' })),
  ];
  if (faults.length) throw new InvalidError(faults);
}

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
    document: row.document,
    changedAt: row.changed_at,
    changedBy: row.changed_by,
    name: row.name,
    siteId: row.site_id,
    host: row.host,
    path: joinPath(row.base_path, row.path),
    latestRevision: row.latest,
    differsFromLatest: row.is_same !== true,
  };
}
