import { RECORD_KINDS, type RecordKind } from '@domatium/core/words';
import { number, object, string } from 'yup';
import { endpoint } from './endpoint.js';
import { id } from './fields.js';
import { inPortfolio } from './pages.js';
import { say } from '@domatium/core/words/answers/requests';

const day = () => string().matches(/^\d{4}-\d\d-\d\d$/, { message: say.chooseADateAndTime, excludeEmptyString: true });
const filters = {
  /** Who did it. */
  by: number().integer().positive(),
  kind: string().oneOf([...RECORD_KINDS]),
  /** Of one page. */
  page: number().integer().positive(),
  /** Days in the portfolio's zone, both included. */
  from: day(),
  until: day(),
};

/** Something that somebody did: to one thing, or to `count` of them in one act. */
export interface RecordEntry {
  readonly id: number;
  readonly at: number;
  readonly by: string | null;
  readonly kind: RecordKind;
  readonly act: string;
  readonly words: string;
  /** What it was done to, by its name now; `null` where the words say it, or it has none. */
  readonly subject: string | null;
  readonly pageId: number | null;
  readonly count: number;
  readonly releaseId: number | null;
  /** Whether it can be undone from here. */
  readonly canUndo: boolean;
}

export const record = {
  record: endpoint<{ readonly entries: readonly RecordEntry[]; readonly earlier: number | null }>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/record',
    who: 'read',
    summary: 'Who did what, the newest first; what concerns people only for owners. `before`: what `earlier` said',
    params: inPortfolio,
    query: object({ ...filters, before: number().integer().positive() }),
  }),
  recordCsv: endpoint<never>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/record.csv',
    who: 'read',
    summary: 'The same as CSV (RFC 4180), all of it',
    params: inPortfolio,
    query: object(filters),
    answers: 'bytes',
  }),
  undoRecorded: endpoint<{ readonly pages: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/record/:entryId/undo',
    who: 'write',
    summary: 'Give pages back the owner, campaign and labels they had before; refused where they were changed since',
    params: object({ portfolioId: id(), entryId: id() }),
  }),
};
