import type { IncomingMessage, ServerResponse } from 'node:http';
import { simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import { escaped, page, send } from './pages.js';

interface Received {
  readonly at: Date;
  readonly to: string;
  readonly subject: string;
  readonly text: string;
}

const KEPT = 1000;

/** A simulated mail server: takes whatever is sent to it by SMTP; what arrived can be read at `/`, and as JSON at `/mails`. */
export class MailServer {
  private readonly received: Received[] = [];
  private readonly smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    size: 1024 * 1024,
    onData: (stream, session, done) => {
      simpleParser(stream)
        .then(({ subject, text }) => {
          const to = session.envelope.rcptTo.map(({ address }) => address).join(', ');
          this.received.unshift({ at: new Date(), to, subject: subject ?? '', text: text ?? '' });
          this.received.length = Math.min(this.received.length, KEPT);
          done();
        })
        .catch((error: unknown) => done(error instanceof Error ? error : new Error(String(error))));
    },
  });

  listen(port: number): Promise<void> {
    this.smtp.on('error', () => undefined);
    return new Promise((ready) => this.smtp.listen(port, '127.0.0.1', ready));
  }

  close(): void {
    this.smtp.close();
  }

  answer(request: IncomingMessage, response: ServerResponse): void {
    if (request.url === '/mails')
      return void response
        .writeHead(200, { 'Content-Type': 'application/json', 'Cache-Control': 'no-store' })
        .end(JSON.stringify(this.received));
    if (request.url !== '/') return send(response, 404, page('Not found', '<p>There is nothing at this address.</p>'));
    const mails = this.received.map(
      ({ at, to, subject, text }) =>
        `<article><h2>${escaped(subject)}</h2><p>to ${escaped(to)}, ${at.toISOString().slice(0, 16).replace('T', ' ')} UTC</p><pre>${escaped(text)}</pre></article>`,
    );
    send(response, 200, page('Simulated mail', mails.join('') || '<p>Nothing was sent since it was started.</p>'));
  }
}
