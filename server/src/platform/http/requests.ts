import { randomUUID } from 'node:crypto';
import { durations, log, logging } from '@domatium/storage';
import type { NextFunction, Request, Response } from 'express';

const took = durations('domatium_http_request_seconds', 'Requests of the application, by endpoint and status.', [
  'endpoint',
  'status',
]);

/** Gives a request its identity, and writes and counts how it ended. Health is asked for all the time and not written. */
export function watchRequests(request: Request, response: Response, next: NextFunction): void {
  const id = randomUUID();
  const began = performance.now();
  response.locals['requestId'] = id;
  logging({ request: id }, () => {
    response.once('close', () => {
      const endpoint = (response.locals['endpoint'] as string | undefined) ?? 'other';
      const status = response.writableFinished || response.headersSent ? response.statusCode : 499;
      const seconds = (performance.now() - began) / 1000;
      took.observe({ endpoint, status: String(status) }, seconds);
      if (request.path === '/healthz') return;
      const line = {
        endpoint,
        status,
        ms: Math.round(seconds * 1000),
        portfolio: response.locals['portfolio'] as number,
      };
      if (status >= 500) log.error(line, 'request');
      else if (status >= 400) log.info(line, 'request');
      else log.debug(line, 'request');
    });
    next();
  });
}

/** The identity of a request as a URI (RFC 9562, 4), for `Problem.instance`. */
export const instanceOf = (response: Response): string => `urn:uuid:${String(response.locals['requestId'])}`;
