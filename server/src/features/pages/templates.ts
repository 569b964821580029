import type { TemplateView } from '@domatium/contracts';
import { picturesOf, type PageDocument } from '@domatium/core/document';
import { groupBy, type PortfolioId } from '@domatium/core/plan';
import { writeAudit } from '../../platform/database/audit.js';
import { inTransaction, type Context } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { InvalidError, NotFoundError, StaleError } from '../../platform/errors.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/pages';

/** Templates with their notes, a picture, and the pages made from each. */
export async function templates({ database, now }: Context, portfolioId: PortfolioId): Promise<TemplateView[]> {
  const rows = await store.templatesOf(database, portfolioId, now);
  const made = groupBy(await store.pagesOfTemplates(database, portfolioId), ({ template_id }) => template_id);
  return Promise.all(
    rows.map(async ({ id, name, version, notes, site, document }) => {
      const [picture] = picturesOf(document);
      const hash = picture ? await store.smallFile(database, portfolioId, picture.value.pictureId) : null;
      return {
        id,
        name,
        version,
        notes,
        siteName: site,
        picture: hash && `/api/portfolios/${portfolioId}/files/${hash}.webp`,
        pages: (made.get(id) ?? []).map((page) => ({ id: page.id, name: page.name })),
      };
    }),
  );
}

/** What a page made from a template begins with. */
export async function documentOfTemplate(
  { database, now }: Context,
  portfolioId: PortfolioId,
  id: number,
): Promise<PageDocument> {
  const [template] = await store.templatesOf(database, portfolioId, now, id);
  if (!template) throw new InvalidError([{ path: 'templateId', message: say.thatPageIsNoLongerA }]);
  return template.document;
}

export async function setTemplate(
  context: Context,
  portfolioId: PortfolioId,
  pageId: number,
  template: { readonly version: number; readonly isTemplate: boolean; readonly notes: string },
): Promise<{ version: number }> {
  const { now, account } = context;
  return inTransaction(context.database, async (trx) => {
    const page = await store.pageById(trx, portfolioId, pageId);
    if (!page) throw new NotFoundError();
    const version = await store.saveTemplate(trx, portfolioId, pageId, template);
    if (version === null)
      throw new StaleError(say.thisPageHasChangedSinceYou, {
        version: page.version,
      });
    const { isTemplate, notes } = template;
    await writeAudit(trx, {
      portfolioId,
      at: now,
      accountId: account,
      act: 'template',
      object: 'page',
      objectId: pageId,
      before: { isTemplate: page.is_template },
      after: { isTemplate, notes },
    });
    await notifyEvent(trx, { portfolioId, kind: 'page', pageIds: [pageId], by: account });
    return { version };
  });
}
