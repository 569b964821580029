import type { Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { createTransport, type Transporter } from 'nodemailer';
import pg from 'pg';
import { dateOf, rowsOf } from '../database/context.js';
import { MAIL_CHANNEL } from './index.js';

/** Looked at even when nobody called; a mail that could not be sent is tried again later and later, for about two days. */
const SWEEP = 15_000;
const TRIES = 12;
const AT_A_TIME = 20;

interface Waiting {
  readonly id: number;
  readonly recipient: string;
  readonly subject: string;
  readonly body: string;
}

/** Sends the mails that are to go out through an SMTP server; each at least once, and noted when it went. */
export class MailSender {
  private readonly transport: Transporter;
  private readonly sweep = setInterval(() => void this.wake(), SWEEP);
  private client: pg.Client | null = null;
  private running: Promise<void> | null = null;
  private isStopped = false;

  constructor(
    private readonly database: Knex,
    private readonly databaseUrl: string,
    smtpUrl: string,
    private readonly from: string,
    private readonly clock: () => Instant,
  ) {
    this.transport = createTransport(smtpUrl);
  }

  async start(): Promise<void> {
    await this.listen();
    await this.wake();
  }

  private async listen(): Promise<void> {
    if (this.isStopped) return;
    const client = new pg.Client({ connectionString: this.databaseUrl, application_name: 'domatium mail' });
    client.on('error', () => undefined);
    client.on('notification', () => void this.wake());
    client.on('end', () => {
      if (this.client === client) this.client = null;
      if (!this.isStopped) setTimeout(() => void this.listen(), 1000).unref();
    });
    try {
      await client.connect();
      await client.query(`LISTEN ${MAIL_CHANNEL}`);
      this.client = client;
    } catch {
      // `end` follows a connection that was made; the sweep sends what waits until there is one.
      await client.end().catch(() => undefined);
    }
  }

  /** Sends what waits; a call while it runs is served by the same round or the next sweep. */
  wake(): Promise<void> {
    this.running ??= this.drain()
      .catch((error: unknown) => console.error('mail', error))
      .finally(() => (this.running = null));
    return this.running;
  }

  private async drain(): Promise<void> {
    for (;;) {
      const waiting = await rowsOf<Waiting>(
        this.database,
        `SELECT id, recipient, subject, body FROM mail WHERE sent_at IS NULL AND tries < ?
        AND made_at + (power(2, tries) - 1) * interval '1 minute' <= ? ORDER BY id LIMIT ?`,
        [TRIES, dateOf(this.clock()), AT_A_TIME],
      );
      if (!waiting.length || this.isStopped) return;
      for (const mail of waiting) await this.send(mail);
    }
  }

  private async send({ id, recipient, subject, body }: Waiting): Promise<void> {
    try {
      await this.transport.sendMail({ from: this.from, to: recipient, subject, text: body });
      await this.database('mail')
        .where({ id })
        .update({ sent_at: dateOf(this.clock()), failure: null });
    } catch (error) {
      const failure = error instanceof Error ? error.message.slice(0, 500) : String(error);
      await this.database('mail')
        .where({ id })
        .update({ tries: this.database.raw('tries + 1'), failure });
    }
  }

  async stop(): Promise<void> {
    this.isStopped = true;
    clearInterval(this.sweep);
    await this.running?.catch(() => undefined);
    await this.client?.end().catch(() => undefined);
    this.transport.close();
  }
}
