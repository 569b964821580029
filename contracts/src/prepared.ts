import { boolean, number, object, string, type Schema } from 'yup';
import { endpoint } from './endpoint.js';
import { id, name, trim } from './fields.js';
import { inPortfolio } from './pages.js';
import { changesShape, changesSomething, type Changes, type ReleaseView, type StockChange } from './releases.js';
import { say } from '@domatium/core/words/answers/requests';

/** Changes written down but not decided: they hold no address and are checked like any release when they are pressed. */
export interface PreparedView extends Changes {
  readonly stock: readonly StockChange[];
  readonly id: number;
  readonly name: string;
  readonly version: number;
  readonly madeAt: number;
  readonly madeBy: string | null;
  readonly changedAt: number;
  readonly changedBy: string | null;
  readonly pages: readonly { readonly id: number; readonly name: string }[];
  /** The things of the stock that it changes. */
  readonly items: readonly { readonly id: number; readonly name: string }[];
  /** The first instant of its changes that is not *now*; `null` where all begin at the press. */
  readonly startsAt: number | null;
  /** Its time passed before it was pressed: it did not go live, and needs other times. */
  readonly isLapsed: boolean;
  readonly approvals: {
    /** How many its sites want; 0 where none is wanted. */
    readonly needed: number;
    readonly given: readonly { readonly id: number; readonly name: string }[];
    /** Who can still give one. */
    readonly waitsFor: readonly { readonly id: number; readonly name: string }[];
  };
  /** What was said of it, the first first. */
  readonly words: readonly PreparedWord[];
  /** It was sent back, and nobody has changed it since. */
  readonly isSentBack: boolean;
}

export interface PreparedWord {
  readonly id: number;
  readonly at: number;
  readonly by: string | null;
  readonly text: string;
  readonly sendsBack: boolean;
}

const version = () => number().integer().positive().required(say.theVersionIsMissing);
const onPrepared = object({ portfolioId: id(), preparedId: id() });
export interface PreparedBody extends Changes {
  readonly name: string;
}

const preparedBody = object({ ...changesShape, name: name() })
  .noUnknown(say.unknownField)
  .test(changesSomething) as unknown as Schema<PreparedBody>;

export const prepared = {
  preparedReleases: endpoint<readonly PreparedView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/prepared',
    who: 'read',
    summary: 'Prepared releases that are neither pressed nor dropped',
    params: inPortfolio,
  }),
  prepare: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/prepared',
    who: 'write',
    summary: 'Write changes down without deciding them',
    params: inPortfolio,
    body: preparedBody,
  }),
  changePrepared: endpoint<{ readonly version: number }>()({
    method: 'PUT',
    path: '/api/portfolios/:portfolioId/prepared/:preparedId',
    who: 'write',
    summary: 'Change a prepared release',
    params: onPrepared,
    body: object({ ...changesShape, version: version(), name: name() })
      .noUnknown(say.unknownField)
      .test(changesSomething) as unknown as Schema<PreparedBody & { readonly version: number }>,
  }),
  pressPrepared: endpoint<ReleaseView>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/prepared/:preparedId/press',
    who: 'release',
    summary: 'Release what was prepared; checked like any release',
    params: onPrepared,
    body: object({ version: version(), idempotencyKey: string().required().min(8).max(100) }).noUnknown(
      say.unknownField,
    ),
  }),
  approvePrepared: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/prepared/:preparedId/approve',
    who: 'release',
    summary: 'Say that what somebody else prepared may go',
    params: onPrepared,
    body: object({ version: version() }).noUnknown(say.unknownField),
  }),
  sayOfPrepared: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/prepared/:preparedId/words',
    who: 'write',
    summary: 'Say something of a prepared release to those who work on it, or send it back with words',
    params: onPrepared,
    body: object({
      version: version(),
      text: string().transform(trim).required(say.writeSomething).max(2000, say.atMost2000Characters),
      sendsBack: boolean().default(false),
    }).noUnknown(say.unknownField),
  }),
  dropPrepared: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/prepared/:preparedId/drop',
    who: 'write',
    summary: 'Drop a prepared release: nothing of it was ever live',
    params: onPrepared,
    body: object({ version: version() }).noUnknown(say.unknownField),
  }),
};
