import type { PageDocument } from '@domatium/core/document';
import { number, object, string } from 'yup';
import { endpoint } from './endpoint.js';
import { id, trim } from './fields.js';
import { onPage } from './pages.js';
import { say } from '@domatium/core/words/answers/requests';

/** A state of a page that was kept: a revision, or the draft as somebody left it. */
export interface PageState {
  /** `r12` for revision 12, `v34` for version 34 of the draft. */
  readonly key: string;
  readonly at: number;
  readonly by: string | null;
  /** The revision’s number, `null` of a state of the draft. */
  readonly revision: number | null;
  readonly name: string | null;
  readonly isLive: boolean;
}

const stateKey = () =>
  string()
    .matches(/^[rv]\d{1,9}$/, say.unknownState)
    .required();

export const states = {
  pageStates: endpoint<readonly PageState[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId/states',
    who: 'read',
    summary: 'Every state of a page that was kept, newest first: revisions, and the draft as it was left',
    params: onPage,
  }),
  pageState: endpoint<{ readonly document: PageDocument }>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId/states/:key',
    who: 'read',
    summary: 'A page as it was in one of its states',
    params: object({ portfolioId: id(), pageId: id(), key: stateKey() }),
  }),
  nameRevision: endpoint<{ readonly revision: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/pages/:pageId/states',
    who: 'write',
    summary: 'Freeze the draft as a revision with a name, or name the revision it is',
    params: onPage,
    body: object({
      name: string().transform(trim).required(say.giveItAName).max(120, say.atMost120Characters),
      draftVersion: number().integer().positive().required(),
    }).noUnknown(say.unknownField),
  }),
};
