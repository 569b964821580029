import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { allEndpoints, type Endpoint } from '@domatium/contracts';
import { openApiOf } from '@domatium/contracts/openapi';
import type { AddressStyle } from '@domatium/core/address';
import { instant, type Instant } from '@domatium/core/time';
import { log, type BlobStore } from '@domatium/storage';
import { Reader } from '../readers/index.js';
import compression from 'compression';
import express, { Router, type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import type { Knex } from 'knex';
import { CancelledError, type Context } from '../database/context.js';
import type { EventHub } from '../events/index.js';
import { SessionCookie, whoIs } from '../sessions/index.js';
import { refuseForgery } from './forgery.js';
import { CallLimits } from './limits.js';
import { Health } from './health.js';
import type { Feature, Features, Handler } from './feature.js';
import { mount, type CheckAnswer } from './mount.js';
import { NotFoundError, Refused } from '../errors.js';
import { problemOf } from './problem.js';
import { instanceOf, watchRequests } from './requests.js';
import { say } from '@domatium/core/words/answers/http';

export interface AppParts {
  readonly database: Knex;
  readonly blobs: BlobStore;
  readonly hub: EventHub;
  /** Reads what people send; one of its own where none is given. */
  readonly reader?: Reader;
  /** What the server stands on; looked after by whoever starts it. */
  readonly health?: Health;
  /** Where people find the application: what links in mails begin with; cookies are bound to https where it is. */
  readonly origin?: string;
  /** Bytes that the files of one portfolio may have. */
  readonly quota?: number;
  /** Raises the limits of calls. */
  readonly limitFactor?: number;
  readonly style: AddressStyle;
  /** A new portfolio gets a host below this one. */
  readonly installationHost?: string;
  /** The built web application; absent in tests of the API. */
  readonly webFolder?: string;
  readonly clock?: () => Instant;
  /** The host of private links, a host of its own: nothing of the application is reached on it, and nothing of theirs elsewhere. */
  readonly privateHost?: string;
  /** Whether mail goes out; invitations are handed over by hand where it does not. */
  readonly hasMail?: boolean;
  /** Whether there is a Chromium that draws small pictures of pages. */
  readonly hasChromium?: boolean;
  /** Looks at every answer before it goes out; tests do, and throw. */
  readonly checkAnswer?: CheckAnswer;
}

/** The application's HTTP side: the endpoints of its features, health, and the web application. */
export function buildHttp(parts: AppParts, features: readonly Feature[]): express.Express {
  const { database, style } = parts;
  const clock = parts.clock ?? (() => instant(Date.now()));
  const app = express();
  app.disable('x-powered-by');
  app.set('query parser', 'simple');
  app.set('case sensitive routing', true);
  app.use(watchRequests);
  const origin = parts.origin ?? 'http://localhost';
  const cookie = new SessionCookie(origin);
  app.use(
    helmet({
      contentSecurityPolicy: { directives: contentPolicy(style) },
      strictTransportSecurity: origin.startsWith('https:'),
      crossOriginEmbedderPolicy: false,
    }),
  );
  app.use(
    compression({
      filter: (request, response) =>
        !/event-stream/.test(String(response.getHeader('content-type'))) && compression.filter(request, response),
    }),
  );
  const privateHost = parts.privateHost ?? 'private.localhost';
  app.use((request, response, next) => {
    const host = hostOf(request);
    if (host === null) throw new Refused('unreadable', say.aRequestNamesOneHostRFC);
    const isPrivate = host === privateHost;
    if (isPrivate) response.setHeader('X-Robots-Tag', 'noindex, nofollow');
    const path = request.path.toLowerCase();
    const isApi = path === '/api' || path.startsWith('/api/');
    if (isApi) response.setHeader('Cache-Control', 'no-store');
    if (isApi && path.startsWith('/api/private/') !== isPrivate) throw new NotFoundError('endpoint');
    next();
  });
  const health = parts.health ?? new Health(database, parts.blobs, parts.hub);
  app.get('/healthz', async (_request, response) => {
    const condition = await health.condition();
    response.status(condition.ok ? 200 : 503).json(condition);
  });
  const description = openApiOf(allEndpoints);
  app.get('/api/openapi.json', (_request, response) => void response.json(description));
  app.use('/api', (request, _response, next) => {
    if (
      request.method !== 'GET' &&
      request.method !== 'HEAD' &&
      !request.is(['application/json', 'application/octet-stream']) &&
      Number(request.headers['content-length'] ?? 0) > 0
    )
      throw new Refused('not-supported', say.sendJSONContent);
    next();
  });
  const router = Router({ caseSensitive: true });
  const limits = new CallLimits(parts.limitFactor);
  const prepare = async (request: Request) => {
    const anonymous: Context = { database, now: clock(), clock, account: null, style };
    const signedIn = await whoIs(anonymous, cookie.tokenOf(request));
    refuseForgery(request, signedIn);
    return { context: { ...anonymous, account: signedIn?.account ?? null }, signedIn, limits, health };
  };
  const given: Features = {
    on: (endpoint, handler) =>
      mount(
        router,
        endpoint as unknown as Endpoint,
        prepare,
        handler as unknown as Handler<Endpoint>,
        parts.checkAnswer,
      ),
    blobs: parts.blobs,
    hub: parts.hub,
    reader: parts.reader ?? new Reader(),
    health: parts.health ?? null,
    origin,
    cookie,
    installationHost: parts.installationHost ?? 'domatium.example',
    quota: parts.quota ?? Infinity,
    hasMail: parts.hasMail ?? false,
    privateHost,
    hasChromium: parts.hasChromium ?? false,
  };
  for (const routes of features) routes(given);
  app.use(router);
  app.use('/api', () => {
    throw new NotFoundError('endpoint');
  });
  if (parts.webFolder && existsSync(parts.webFolder)) serveWeb(app, parts.webFolder);
  app.use((error: unknown, request: Request, response: Response, next: NextFunction) => {
    if (error instanceof CancelledError) return void response.destroy();
    const problem = { ...problemOf(error), instance: instanceOf(response) };
    if (problem.status >= 500) log.error({ err: error, status: problem.status }, 'a request failed');
    if (response.headersSent) return next(error);
    const { retryAfter } = error instanceof Refused ? error.extra : {};
    if (retryAfter !== undefined) response.setHeader('Retry-After', String(retryAfter));
    // What was not read of a refused request is not read any more.
    if (!request.complete) response.setHeader('Connection', 'close');
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  });
  return app;
}

/** The host a request names, as a name is compared: without port and last dot, in small letters; `null` where it names none or two. */
function hostOf({ rawHeaders, headers }: Request): string | null {
  const named = rawHeaders.filter((name, index) => index % 2 === 0 && name.toLowerCase() === 'host').length;
  if (named !== 1) return null;
  return (headers.host ?? '').toLowerCase().replace(/:\d*$/, '').replace(/\.$/, '');
}

function serveWeb(app: express.Express, folder: string): void {
  app.use(
    express.static(folder, {
      index: false,
      setHeaders: (response, path) =>
        void response.setHeader(
          'Cache-Control',
          /-[A-Z0-9]{8}\.|\/media\//.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache',
        ),
    }),
  );
  app.get(
    /^\/(?!api\/|.*\.\w+$).*/,
    (_request, response) => void response.setHeader('Cache-Control', 'no-cache').sendFile(join(folder, 'index.html')),
  );
}

/** The application runs its own scripts only; the canvas is a frame of the same origin without any. */
function contentPolicy({ scheme, suffix, port }: AddressStyle): Record<string, string[]> {
  return {
    'default-src': ["'self'"],
    'script-src': ["'self'"],
    'style-src': ["'self'", "'unsafe-inline'"],
    // A picture that was chosen and is not sent yet is shown from memory.
    'img-src': ["'self'", 'data:', 'blob:', `${scheme}://*${suffix}${port === null ? '' : `:${port}`}`],
    // So is a film, to see whether it plays.
    'media-src': ["'self'", 'blob:'],
    'font-src': ["'self'", 'data:'],
    'connect-src': ["'self'"],
    'worker-src': ["'self'", 'blob:'],
    'frame-src': ["'self'"],
    'object-src': ["'none'"],
    'base-uri': ["'self'"],
    'form-action': ["'self'"],
    'frame-ancestors': ["'self'"],
    'require-trusted-types-for': ["'script'"],
    'trusted-types': ['default', 'domatium-inert', 'angular', 'angular#bundler', 'dompurify', 'ProseMirrorClipboard'],
    'upgrade-insecure-requests': null as unknown as string[],
  };
}
