import { object, string } from 'yup';
import { endpoint } from './endpoint.js';
import { isoMoment } from './fields.js';
import { onPage } from './pages.js';

/** A small picture of a page: ready, being made, of nothing (the address gives no page), or not to be had. */
export interface ThumbnailView {
  readonly state: 'ready' | 'making' | 'none' | 'missing';
  /** What visitors get there, or why there is no picture. */
  readonly words: string;
  /** Changes with the picture: part of its address, so that an old one is not shown for a new one. */
  readonly file?: string;
}

export const thumbnails = {
  thumbnail: endpoint<ThumbnailView>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId/thumbnail',
    who: 'read',
    summary: 'Whether there is a small picture of a page as it is at a moment; asking for one has it made',
    params: onPage,
    query: object({ at: isoMoment().notRequired() }),
  }),
  thumbnailFile: endpoint<never>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId/thumbnail.webp',
    who: 'read',
    summary: 'The small picture of a page as it is at a moment',
    params: onPage,
    query: object({ at: isoMoment(), file: string().max(64).optional() }),
    answers: 'bytes',
  }),
};
