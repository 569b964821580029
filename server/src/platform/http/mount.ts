import { mayAct, type Act, type Endpoint, type Role } from '@domatium/contracts';
import { logging } from '@domatium/storage';
import type { Request, Response, Router } from 'express';
import { CancelledError, type Context } from '../database/context.js';
import { notifyEvent } from '../events/index.js';
import type { Call, Handler } from './feature.js';
import { LIMITS, readJson } from './body.js';
import type { Health } from './health.js';
import type { CallLimits } from './limits.js';
import { NotFoundError, Refused } from '../errors.js';
import { validated } from './validate.js';
import type { SignedIn } from '../sessions/index.js';
import { say } from '@domatium/core/words/answers/http';

/** What the HTTP layer adds to a request before handlers see it. */
export interface Prepared {
  readonly context: Context;
  readonly signedIn: SignedIn | null;
  readonly limits: CallLimits;
  readonly health: Health;
}

/** Looks at what an endpoint is about to answer. */
export type CheckAnswer = (endpoint: Endpoint, answer: unknown) => void;

/** Puts an endpoint of the contracts on a router: who asks, then what they send, then the handler, then JSON. */
export function mount<E extends Endpoint>(
  router: Router,
  endpoint: E,
  prepare: (request: Request) => Promise<Prepared>,
  handler: Handler<E>,
  checkAnswer: CheckAnswer = () => undefined,
): void {
  const method = endpoint.method.toLowerCase() as 'get';
  router[method](endpoint.path, async (request: Request, response: Response) => {
    response.locals['endpoint'] = `${endpoint.method} ${endpoint.path}`;
    const { context, signedIn, limits, health } = await prepare(request);
    if (endpoint.who !== 'anyone' && !signedIn) throw new Refused('signed-out', say.yourSessionHasEndedOrYou);
    const params = endpoint.params ? await validated(endpoint.params, request.params, 'params') : undefined;
    const { portfolioId = 0 } = (params ?? {}) as { portfolioId?: number };
    if (portfolioId) response.locals['portfolio'] = portfolioId;
    const role = portfolioId ? roleIn(signedIn, portfolioId, endpoint.who) : null;
    await limits.count(endpoint, {
      account: signedIn?.account ?? null,
      address: request.ip ?? '',
      portfolioId: role ? portfolioId : 0,
    });
    if (endpoint.method !== 'GET' && signedIn) health.refuseSkew();
    const query = endpoint.query ? await validated(endpoint.query, request.query, 'query') : undefined;
    const body = endpoint.body
      ? await validated(endpoint.body, await readJson(request, limitOf(endpoint, signedIn)), 'body')
      : undefined;
    const call = {
      context: { ...context, step: stepsOf(request, response, context, portfolioId) },
      ...{ signedIn, role, portfolioId, params, query, body, request, response },
    } as unknown as Call<E>;
    const answer = await logging(portfolioId ? { portfolio: portfolioId } : {}, () => handler(call));
    if (endpoint.answers !== 'json') return;
    checkAnswer(endpoint, answer);
    response.json(answer);
  });
}

const limitOf = ({ isLong }: Endpoint, signedIn: SignedIn | null) =>
  signedIn ? (isLong ? LIMITS.long : LIMITS.known) : LIMITS.unknown;

/** Told of no more often than this; and at least so often do others get their turn. */
const PROGRESS_PAUSE = 120;

/** Progress of a request under the name its header `X-Work` gives it; a connection that was closed cancels it. */
function stepsOf(request: Request, response: Response, context: Context, portfolioId: number): Context['step'] {
  const work = request.get('x-work')?.slice(0, 100);
  let isClosed = false;
  let last = 0;
  response.on('close', () => (isClosed = !response.writableFinished));
  return async (share) => {
    await new Promise((done) => setImmediate(done));
    if (isClosed) throw new CancelledError(say.thePersonCancelled);
    if (!work || !portfolioId || Date.now() - last < PROGRESS_PAUSE) return;
    last = Date.now();
    await notifyEvent(context.database, { portfolioId, kind: 'progress', work, share, by: context.account });
  };
}

/** The role in a portfolio; one that is not the caller's does not exist for them. */
function roleIn(signedIn: SignedIn | null, portfolioId: number, who: Endpoint['who']): Role {
  const role = signedIn?.roles.get(portfolioId);
  if (!role) throw new NotFoundError('portfolio');
  const wantsFactor = signedIn?.memberships.find(({ id }) => id === portfolioId)?.wants_factor;
  if (wantsFactor && !signedIn?.hasFactor) throw new Refused('factor-needed', say.thisPortfolioLetsInOnlyThose);
  if (who !== 'anyone' && who !== 'signed-in' && !mayAct(role, who satisfies Act))
    throw new Refused('not-allowed', say.asYouCantDoThisHere(role));
  return role;
}
