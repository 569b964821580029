import type { IncomingMessage, ServerResponse } from 'node:http';
import { escaped, page, send } from './pages.js';

interface Joined {
  readonly at: Date;
  readonly email: string;
  /** The page whose form was sent, as the browser says. */
  readonly from: string;
}

const KEPT = 1000;
const MAX_BODY = 8 * 1024;

/** A simulated list service: people join by a form on somebody's page; what arrived can be read at `/`. */
export class ListService {
  private readonly joined: Joined[] = [];

  async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    if (request.url === '/join' && request.method === 'POST') return this.join(request, response);
    if (request.url === '/' && request.method === 'GET') return send(response, 200, this.overview());
    return send(response, 404, page('Not found', '<p>There is nothing at this address.</p>'));
  }

  private async join(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const body = await bodyOf(request);
    if (body === null) return send(response, 413, page('Too large', '<p>That is more than a form sends.</p>'));
    const email = new URLSearchParams(body).get('email')?.trim() ?? '';
    if (email.length > 254 || !/^[^\s@<>]+@[^\s@<>]+\.[^\s@<>]+$/.test(email))
      return send(response, 422, page('Not joined', '<p>That is not an e-mail address. Go back and try again.</p>'));
    this.joined.unshift({ at: new Date(), email, from: request.headers.referer ?? request.headers.origin ?? '' });
    this.joined.length = Math.min(this.joined.length, KEPT);
    send(response, 200, page('You are on the list', `<p>We will write to ${escaped(email)}.</p>`));
  }

  private overview(): string {
    const rows = this.joined.map(
      ({ at, email, from }) =>
        `<tr><td>${at.toISOString().slice(0, 16).replace('T', ' ')}</td><td>${escaped(email)}</td><td>${escaped(from)}</td></tr>`,
    );
    return page(
      'Simulated list service',
      rows.length
        ? `<table><tr><th>When (UTC)</th><th>E-mail address</th><th>From</th></tr>${rows.join('')}</table>`
        : '<p>Nobody has joined since it was started.</p>',
    );
  }
}

/** The body as text, `null` where it is more than a form sends. */
async function bodyOf(request: IncomingMessage): Promise<string | null> {
  let body = '';
  for await (const chunk of request.setEncoding('utf8')) {
    body += String(chunk);
    if (body.length > MAX_BODY) return null;
  }
  return body;
}
