import type { Finding } from '@domatium/core/checks';
import type { Given, ReleaseFaultCode } from '@domatium/core/words';
import { array, boolean, lazy, mixed, number, object, string, type Schema, type TestConfig } from 'yup';
import { endpoint } from './endpoint.js';
import {
  answer,
  id,
  moment,
  path,
  isoMoment,
  wallTime,
  type AnswerInput,
  type MomentInput,
  type WallTimeInput,
} from './fields.js';
import { inPortfolio } from './pages.js';
import { say } from '@domatium/core/words/answers/requests';

/** Another period of the same revision, later than the one before it. */
const furtherPeriod = object({
  from: wallTime.required(say.chooseWhen),
  until: wallTime.nullable().default(null),
  afterwards: lazy((value: unknown) => (value === null || value === undefined ? mixed().nullable() : answer)),
}).noUnknown(say.unknownField);

/** As many further periods as one change may have. */
const MOST_FURTHER = 100;

const releaseChange = object({
  act: mixed<'release'>().oneOf(['release']).required(),
  pageId: id(),
  from: moment,
  until: wallTime.nullable().default(null),
  /** `null`: back to the plan. */
  afterwards: lazy((value: unknown) => (value === null || value === undefined ? mixed().nullable() : answer)),
  cutsLater: boolean().default(false),
  /** The draft that was seen: a newer one is not released unseen. */
  draftVersion: number().integer().positive().optional(),
  further: array().of(furtherPeriod.required()).max(MOST_FURTHER, say.atMostPeriods(MOST_FURTHER)).optional(),
}).noUnknown(say.unknownField);

const takeOffChange = object({
  act: mixed<'take-off'>().oneOf(['take-off']).required(),
  pageId: id(),
  from: moment,
  until: wallTime.nullable().default(null),
  afterwards: answer,
}).noUnknown(say.unknownField);

const moveChange = object({
  act: mixed<'move'>().oneOf(['move']).required(),
  pageId: id(),
  at: moment,
  siteId: id().typeError(say.chooseASite),
  path: path(),
  /** `null`: a redirect to the page, the default. */
  leaves: lazy((value: unknown) => (value === null || value === undefined ? mixed().nullable() : answer)),
}).noUnknown(say.unknownField);

const shiftChange = object({
  act: mixed<'shift'>().oneOf(['shift']).required(),
  pageId: id(),
  days: number()
    .typeError(say.enterANumberOfDays)
    .required(say.enterANumberOfDays)
    .integer(say.wholeDays)
    .min(-3650, say.atMostTenYears)
    .max(3650, say.atMostTenYears)
    .notOneOf([0], say.shiftByAtLeastOneDay),
}).noUnknown(say.unknownField);

const retimeChange = object({
  act: mixed<'retime'>().oneOf(['retime']).required(),
  pageId: id(),
  start: isoMoment().required(say.choosePeriod),
  from: wallTime.nullable().default(null),
  until: wallTime.nullable().default(null),
  afterwards: lazy((value: unknown) => (value === null || value === undefined ? mixed().nullable() : answer)),
  cutsLater: boolean().default(false),
}).noUnknown(say.unknownField);

const afterwardsChange = object({
  act: mixed<'afterwards'>().oneOf(['afterwards']).required(),
  pageId: id(),
  afterwards: answer,
}).noUnknown(say.unknownField);

const binChange = object({
  act: mixed<'bin'>().oneOf(['bin']).required(),
  pageId: id(),
  afterwards: answer,
}).noUnknown(say.unknownField);

const restoreChange = object({
  act: mixed<'restore'>().oneOf(['restore']).required(),
  pageId: id(),
  isPlanned: boolean().required(),
  path: lazy((value: unknown) => (value === null || value === undefined ? mixed().nullable() : path())),
}).noUnknown(say.unknownField);

export interface FurtherPeriod {
  readonly from: WallTimeInput;
  readonly until: WallTimeInput | null;
  readonly afterwards: AnswerInput | null;
}

export type ReleaseChange =
  | {
      readonly act: 'release';
      readonly pageId: number;
      readonly from: MomentInput;
      readonly until: WallTimeInput | null;
      readonly afterwards: AnswerInput | null;
      readonly cutsLater: boolean;
      readonly draftVersion?: number | undefined;
      /** More periods of the same revision: a release makes one change to a page. */
      readonly further?: readonly FurtherPeriod[] | undefined;
    }
  | {
      readonly act: 'take-off';
      readonly pageId: number;
      readonly from: MomentInput;
      readonly until: WallTimeInput | null;
      readonly afterwards: AnswerInput;
    }
  | {
      readonly act: 'move';
      readonly pageId: number;
      readonly at: MomentInput;
      readonly siteId: number;
      readonly path: string;
      readonly leaves: AnswerInput | null;
    }
  | {
      /** Everything still to come, that many days later (or earlier) at the same time of day. */
      readonly act: 'shift';
      readonly pageId: number;
      readonly days: number;
    }
  | {
      /** Other times for one of its periods, of the same revision: nothing is released anew. */
      readonly act: 'retime';
      readonly pageId: number;
      /** When the period begins that is meant, as it is planned now. */
      readonly start: string;
      /** `null`: its start stays. */
      readonly from: WallTimeInput | null;
      readonly until: WallTimeInput | null;
      /** What comes after its end; `null`: what came after it before. */
      readonly afterwards: AnswerInput | null;
      readonly cutsLater: boolean;
    }
  | {
      /** What the address gives behind the page's last end. */
      readonly act: 'afterwards';
      readonly pageId: number;
      readonly afterwards: AnswerInput;
    }
  | {
      /** Takes it off now and puts it in the bin, with all it has. */
      readonly act: 'bin';
      readonly pageId: number;
      readonly afterwards: AnswerInput;
    }
  | {
      /** Out of the bin: with the plan it had, as far as that is still to come, or off. */
      readonly act: 'restore';
      readonly pageId: number;
      readonly isPlanned: boolean;
      /** A different path if its own is taken. */
      readonly path: string | null;
    };

/** What becomes of something many pages use: its draft holds, or nothing of it, from a moment on or for a while. */
export type StockChange =
  | {
      readonly act: 'put';
      readonly itemId: number;
      readonly from: MomentInput;
      /** What was there before comes back then; `null` for no end. */
      readonly until: WallTimeInput | null;
      /** The draft that was seen: a newer one is not released unseen. */
      readonly draftVersion?: number | undefined;
    }
  | {
      /** A piece shows nothing. */
      readonly act: 'take-off';
      readonly itemId: number;
      readonly from: MomentInput;
      readonly until: WallTimeInput | null;
    };

const stockChange = object({
  act: mixed<StockChange['act']>().oneOf(['put', 'take-off'], say.chooseWhatHappensToIt).required(),
  itemId: id(),
  from: moment,
  until: wallTime.nullable().default(null),
  draftVersion: number().integer().positive().optional(),
}).noUnknown(say.unknownField);

const change = lazy((value: unknown) => {
  const act = (value as { act?: unknown } | null | undefined)?.act;
  switch (act) {
    case 'take-off':
      return takeOffChange.required();
    case 'move':
      return moveChange.required();
    case 'shift':
      return shiftChange.required();
    case 'retime':
      return retimeChange.required();
    case 'afterwards':
      return afterwardsChange.required();
    case 'bin':
      return binChange.required();
    case 'restore':
      return restoreChange.required();
    default:
      return releaseChange.required();
  }
});

/** As many pages as one release may change. */
export const MOST_CHANGES = 2000;

const changes = array()
  .of(change as unknown as typeof releaseChange)
  .max(MOST_CHANGES, say.atMostChangesInOneRelease(MOST_CHANGES.toLocaleString('en')))
  .required();

/** As many things of the stock as one release may change. */
const MOST_STOCK = 200;

const stockChanges = array()
  .of(stockChange.required())
  .max(MOST_STOCK, say.atMostThingsOfTheStock(MOST_STOCK))
  .default([]);

/** What a release changes, in a body: pages, things of the stock, or both. */
export const changesShape = { changes, stock: stockChanges };

/** A body that changes something. */
export const changesSomething: TestConfig<object> = {
  name: 'something',
  message: say.nothingToRelease,
  test: (body, { createError }) => {
    const { changes, stock } = body as Partial<Changes>;
    return changes?.length || stock?.length ? true : createError({ path: 'changes' });
  },
};

/** What a release changes. */
export interface Changes {
  readonly changes: readonly ReleaseChange[];
  readonly stock?: readonly StockChange[] | undefined;
}

export interface ReleaseBody extends Changes {
  /** Made by the client: the same key is the same release, however often it is sent. */
  readonly idempotencyKey: string;
  /** That of the preview somebody looked at. */
  readonly basis?: string | undefined;
}

const releaseBody = object({
  ...changesShape,
  idempotencyKey: string().required().min(8).max(100),
  basis: string().max(64).optional(),
})
  .noUnknown(say.unknownField)
  .test(changesSomething) as unknown as Schema<ReleaseBody>;
/** Changes as a form makes them: the browser checks them with this too, before it asks. */
export const previewBody = object(changesShape)
  .noUnknown(say.unknownField)
  .test(changesSomething) as unknown as Schema<Changes>;
const undoBody = object({
  idempotencyKey: string().required().min(8).max(100),
  leavesRedirect: boolean().default(true),
}).noUnknown(say.unknownField);

/** One thing that changes for visitors. */
export interface PreviewLine extends Given {
  readonly at: number;
  readonly address: string;
  /** The words of its code. */
  readonly words: string;
  /** Worth a second look: an older revision returns, a link comes to lead through a redirect. */
  readonly isWarning: boolean;
}

export interface PreviewCut {
  readonly pageName: string;
  readonly revision: number;
  readonly from: number;
  readonly until: number | null;
  readonly isLater: boolean;
}

export interface ReleasePreview {
  readonly now: number;
  readonly lines: readonly PreviewLine[];
  readonly cuts: readonly PreviewCut[];
  readonly findings: readonly (Finding & { readonly pageId: number; readonly pageName: string })[];
  /** What it rests on, in short: pressed with it, a release is refused where something of that is another by then. */
  readonly basis: string;
  /** The last thing that somebody else did to what it rests on: a release, with what it did, or a change of a draft. */
  readonly latest: { readonly at: number; readonly by: string | null; readonly summary: string | null } | null;
  /** Refusals by field, as the press would give them. */
  readonly faults: readonly {
    readonly path: string;
    /** What it is, with what its words were made of. */
    readonly code: ReleaseFaultCode;
    readonly params: object;
    readonly message: string;
  }[];
  readonly pages: readonly {
    readonly pageId: number;
    /** The number the draft would have, or has. */
    readonly revision: number;
    readonly draftVersion: number;
    readonly canGoBackToPlan: boolean;
    /** The end that fits the plan there is, and its afterwards. */
    readonly proposedUntil: number | null;
    readonly proposedAfterwards: AnswerInput | null;
  }[];
  /** Things of the stock: what they become, and on how many pages. */
  readonly stock: readonly {
    readonly itemId: number;
    readonly name: string;
    /** The number the draft would have, or has; `null` where it is taken off. */
    readonly revision: number | null;
    readonly draftVersion: number;
    readonly pages: number;
  }[];
  /** How many lines there are in all; `lines` holds the first of them. */
  readonly lineCount: number;
  /** Links on other pages that will lead through a redirect, or nowhere, because of this. */
  readonly links: { readonly redirect: number; readonly nowhere: number };
}

export interface ReleaseView {
  readonly id: number;
  readonly at: number;
  readonly summary: string;
}

export const releases = {
  preview: endpoint<ReleasePreview>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/releases/preview',
    who: 'read',
    summary: 'What a release would change for visitors, what it would cut, and what is wrong with it',
    params: inPortfolio,
    body: previewBody,
  }),
  release: endpoint<ReleaseView>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/releases',
    who: 'release',
    summary: 'Release: all changes are decided together, or none',
    params: inPortfolio,
    body: releaseBody,
  }),
  undo: endpoint<ReleaseView>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/releases/:releaseId/undo',
    who: 'release',
    summary: 'Put back what a release changed, from now on',
    params: object({ portfolioId: id(), releaseId: id() }),
    body: undoBody,
  }),
  releaseOfKey: endpoint<{ readonly release: ReleaseView | null }>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/releases/of-key/:key',
    who: 'release',
    summary: 'What was decided under a key; a press that is under way is waited for',
    params: object({ portfolioId: id(), key: string().required().min(8).max(100) }),
  }),
  releaseState: endpoint<{ id: number; outAt: number | null; failure: string | null }>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/releases/:releaseId',
    who: 'read',
    summary: 'Whether a release is out',
    params: object({ portfolioId: id(), releaseId: id() }),
  }),
};
