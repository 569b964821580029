import { array, mixed, number, object, string } from 'yup';
import { BLOCK_TYPES, type BlockType } from '@domatium/core/blocks';
import type { NotPlaced } from '@domatium/core/document';
import { endpoint } from './endpoint.js';
import { id } from './fields.js';
import { inPortfolio } from './pages.js';
import { MOST_CHANGES } from './releases.js';

/** A page on which a piece is placed, with what stands around the place. */
export interface PlacedPage {
  readonly pageId: number;
  readonly name: string;
  /** The draft that was looked at, or that was written. */
  readonly version: number;
  readonly lines: readonly { readonly words: string; readonly how: 'same' | 'new' | 'gone' }[];
  /** Its draft has more in it than visitors get: that goes out with it. */
  readonly hasMore: boolean;
}

/** What becomes of the drafts of many pages when a piece is placed on them. */
export interface PlacingView {
  readonly pages: readonly PlacedPage[];
  readonly out: readonly { readonly pageId: number; readonly name: string; readonly why: NotPlaced }[];
}

const pageIds = array().of(id().required()).min(1).max(MOST_CHANGES).required();
const seenPages = array()
  .of(object({ pageId: id(), version: number().integer().positive().required() }).required())
  .min(1)
  .max(MOST_CHANGES);

export const placing = {
  placePiece: endpoint<PlacingView>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/pieces/placing',
    who: 'write',
    summary:
      'Put a piece on the drafts of many pages, or take it off; without `seen` only say what would become of them',
    params: inPortfolio,
    body: object({
      act: mixed<'insert' | 'remove'>().oneOf(['insert', 'remove']).required(),
      pieceId: id(),
      where: mixed<'first' | 'last' | 'before' | 'after' | 'instead'>()
        .oneOf(['first', 'last', 'before', 'after', 'instead'])
        .default('last'),
      byType: string<BlockType>()
        .oneOf([...BLOCK_TYPES])
        .nullable()
        .default(null),
      byPieceId: number().integer().positive().nullable().default(null),
      pageIds,
      /** The drafts that were looked at: one that has changed since is not written. */
      seen: seenPages.nullable().default(null),
    }),
    isLong: true,
  }),
};
