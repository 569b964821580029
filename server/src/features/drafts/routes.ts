import { api } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import type { PageId } from '@domatium/core/plan';
import { dismissOverridden } from './overridden.js';
import { fillDrafts } from './filling.js';
import { draftSettings, setDrafts } from './setting.js';
import { draftsBack } from './many-drafts.js';
import { placePiece } from './placing.js';
import { draft, saveDraft } from './service.js';
import { nameRevision, pageState, pageStates } from './states.js';

export function routes({ on }: Features): void {
  on(api.draft, ({ context, portfolioId, params }) => draft(context, portfolioId, params.pageId));
  on(api.saveDraft, ({ context, portfolioId, params, body }) =>
    saveDraft(context, portfolioId, params.pageId, body.version, body.document, body.over),
  );
  on(api.dismissOverridden, ({ context, params }) => dismissOverridden(context, params.pageId, params.overriddenId));
  on(api.placePiece, ({ context, portfolioId, body }) => {
    const { act, pieceId, where, byType, byPieceId } = body;
    const by = byType ? { type: byType } : byPieceId ? { pieceId: byPieceId } : null;
    return placePiece(context, portfolioId, { act, pieceId, where, by }, body.pageIds, body.seen);
  });
  on(api.fillDrafts, ({ context, portfolioId, body: { pageIds, seen, ...filling } }) =>
    fillDrafts(context, portfolioId, filling, pageIds, seen),
  );
  on(api.draftSettings, ({ context, portfolioId, body }) => draftSettings(context, portfolioId, body.pageIds));
  on(api.setDrafts, ({ context, portfolioId, body }) => setDrafts(context, portfolioId, body.pages));
  on(api.draftsBack, ({ context, portfolioId, body }) => draftsBack(context, portfolioId, body.seen));
  on(api.pageStates, ({ context, portfolioId, params }) => pageStates(context, portfolioId, params.pageId as PageId));
  on(api.pageState, ({ context, portfolioId, params }) =>
    pageState(context, portfolioId, params.pageId as PageId, params.key),
  );
  on(api.nameRevision, ({ context, portfolioId, params, body }) =>
    nameRevision(context, portfolioId, params.pageId as PageId, body),
  );
}
