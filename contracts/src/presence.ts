import { boolean, object, string } from 'yup';
import { endpoint } from './endpoint.js';
import { onPage } from './pages.js';
import { say } from '@domatium/core/words/answers/requests';

/** Who has a page open, as others hear of it. */
export interface Presence {
  /** The window it is open in, named at random by itself. */
  readonly window: string;
  readonly name: string;
  readonly isEditing: boolean;
  readonly isLeaving: boolean;
  /** The block it is at, where it edits one. */
  readonly blockId?: string | undefined;
}

export const presence = {
  sayPresence: endpoint<Record<string, never>>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/pages/:pageId/presence',
    who: 'read',
    summary: 'Say that one has a page open, or has left it; others hear of it as an event, nothing is kept',
    params: onPage,
    body: object({
      window: string().required().max(40, say.atMost40Characters),
      isEditing: boolean().required(),
      isLeaving: boolean().required(),
      blockId: string().max(24).optional(),
    }).noUnknown(say.unknownField),
  }),
};
