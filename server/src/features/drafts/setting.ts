import type { SettingsRow, WrittenDraft } from '@domatium/contracts';
import { METADATA_TEXTS, type MetadataText, type PageDocument } from '@domatium/core/document';
import { readablePath } from '@domatium/core/address';
import { namesIn } from '@domatium/core/text';
import { fillText } from '@domatium/core/text';
import { NOTHING_SAID } from '@domatium/core/metadata';
import type { PortfolioId } from '@domatium/core/plan';
import { inTransaction, type Context } from '../../platform/database/context.js';
import { placesOf } from './filling.js';
import { draftsToChange, writeDrafts } from './many-drafts.js';

/** What one page is to say; a text that is not named stays. */
export interface SetTexts {
  readonly pageId: number;
  readonly version: number;
  readonly texts: { readonly [Key in MetadataText]?: string | undefined };
}

/** The texts of many drafts side by side, in the order they were asked for. */
export async function draftSettings(
  context: Context,
  portfolioId: PortfolioId,
  pageIds: readonly number[],
): Promise<{ readonly pages: readonly SettingsRow[] }> {
  const { database } = context;
  const drafts = await draftsToChange(database, portfolioId, pageIds, null);
  const places = await placesOf(
    database,
    portfolioId,
    drafts.map(({ id }) => id),
    context,
  );
  const rows = drafts.map(({ id: pageId, name, version, document, has_more: hasMore }): SettingsRow => {
    const place = places.byPage.get(pageId);
    const values = places.values.get(place?.siteId ?? 0) ?? new Map<string, string>();
    const said = place?.siteId ? places.saidOn(place.siteId, place.path) : NOTHING_SAID;
    const texts = textsOf(document);
    const named = [...new Set(Object.values(texts).flatMap(namesIn))];
    return {
      ...{ pageId, name, version, hasMore, texts },
      address: place ? (place.host ?? '') + readablePath(place.path) : '',
      titleAlone: document.metadata.titleAlone === true,
      said: {
        titleBefore: fillText(said.titleBefore, values),
        titleAfter: fillText(said.titleAfter, values),
        description: fillText(said.description, values),
      },
      values: Object.fromEntries(named.flatMap((one) => (values.has(one) ? [[one, values.get(one) ?? '']] : []))),
    };
  });
  const order = new Map(pageIds.map((id, index) => [id, index]));
  return { pages: rows.sort((a, b) => (order.get(a.pageId) ?? 0) - (order.get(b.pageId) ?? 0)) };
}

const textsOf = ({ metadata }: PageDocument) =>
  Object.fromEntries(METADATA_TEXTS.map((key) => [key, metadata[key] ?? ''])) as Record<MetadataText, string>;

/** Sets texts in many drafts as they were seen, all of them or none; those that say it already are not written. */
export function setDrafts(
  context: Context,
  portfolioId: PortfolioId,
  pages: readonly SetTexts[],
): Promise<{ readonly pages: readonly WrittenDraft[] }> {
  return inTransaction(context.database, async (trx) => {
    const drafts = await draftsToChange(trx, portfolioId, [], pages);
    const asked = new Map(pages.map(({ pageId, texts }) => [pageId, texts]));
    const changed = drafts.flatMap(({ id: pageId, version, document }) => {
      const texts = Object.entries(asked.get(pageId) ?? {}) as [MetadataText, string | undefined][];
      const { metadata } = document;
      const others = texts.filter(([key, text]) => text !== undefined && text !== (metadata[key] ?? ''));
      if (!others.length) return [];
      const next = { ...metadata, ...(Object.fromEntries(others) as Partial<Record<MetadataText, string>>) };
      // A page without words of its own to be shared by says nothing of it.
      for (const key of ['shareTitle', 'shareDescription'] as const) if (!next[key]) delete next[key];
      return [{ pageId, version: version + 1, document: { ...document, metadata: next } }];
    });
    if (changed.length) await writeDrafts(trx, context, portfolioId, changed, 'fill-drafts');
    return { pages: changed.map(({ pageId, version }) => ({ pageId, version })) };
  });
}
