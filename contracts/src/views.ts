import { VIEW_PARTS, type ViewParts } from '@domatium/core/register';
import { boolean, object, string } from 'yup';
import { endpoint } from './endpoint.js';
import { id, isoMoment, trim } from './fields.js';
import { inPortfolio } from './pages.js';
import { say } from '@domatium/core/words/answers/requests';

const part = () => string().max(300).optional();
const partFields = Object.fromEntries(VIEW_PARTS.map((name) => [name, part()])) as Record<
  (typeof VIEW_PARTS)[number],
  ReturnType<typeof part>
>;
const viewQuery = object({ ...partFields, at: isoMoment().notRequired() });
const parts = object(partFields).noUnknown(say.unknownPartOfAView).required();
const viewName = () => string().transform(trim).required(say.aViewNeedsAName).max(100, say.atMost100Characters);
export const viewBody = object({ name: viewName(), isShared: boolean().default(false), parts }).noUnknown(
  say.unknownField,
);

/** A view with a name: for oneself, or for everyone in the portfolio. */
export interface NamedView {
  readonly id: number;
  readonly name: string;
  readonly isShared: boolean;
  readonly isOwn: boolean;
  readonly by: string;
  readonly parts: ViewParts;
}

export interface FeedView {
  readonly id: number;
  readonly name: string;
  readonly madeAt: number;
  readonly parts: ViewParts;
}

const onView = object({ portfolioId: id(), viewId: id() });
const onFeed = object({ portfolioId: id(), feedId: id() });

export const views = {
  exportCsv: endpoint<never>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/register/export.csv',
    who: 'read',
    summary: 'Any view of the register as CSV (RFC 4180), row by row; formulas are escaped',
    params: inPortfolio,
    query: viewQuery,
    answers: 'bytes',
  }),
  exportJson: endpoint<never>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/register/export.json',
    who: 'read',
    summary: 'Any view of the register as JSON, row by row',
    params: inPortfolio,
    query: viewQuery,
    answers: 'bytes',
  }),
  namedViews: endpoint<readonly NamedView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/views',
    who: 'read',
    summary: 'One’s own named views and those of the team',
    params: inPortfolio,
  }),
  nameView: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/views',
    who: 'read',
    summary: 'Keep a view under a name; the same name of one’s own is replaced',
    params: inPortfolio,
    body: viewBody,
  }),
  removeView: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/views/:viewId/remove',
    who: 'read',
    summary: 'Remove a named view of one’s own',
    params: onView,
  }),
  feeds: endpoint<readonly FeedView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/feeds',
    who: 'read',
    summary: 'One’s own calendar feeds',
    params: inPortfolio,
  }),
  newFeed: endpoint<{ readonly id: number; readonly path: string }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/feeds',
    who: 'read',
    summary: 'A calendar feed of a view; its private address is told this once',
    params: inPortfolio,
    body: object({ name: viewName(), parts }).noUnknown(say.unknownField),
  }),
  removeFeed: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/feeds/:feedId/remove',
    who: 'read',
    summary: 'End a calendar feed: its address stops working',
    params: onFeed,
  }),
  calendar: endpoint<never>()({
    method: 'GET',
    path: '/api/calendars/:token',
    who: 'anyone',
    summary: 'What goes live and comes off in a view, as a calendar (RFC 5545)',
    params: object({ token: string().required().max(100) }),
    answers: 'bytes',
  }),
};
