import type { Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { createTransport } from 'nodemailer';
import { dateOf, rowsOf } from '../database/context.js';
import type { Work } from '../work/index.js';
import { APPLICATION } from './index.js';

/** A mail that could not be sent is tried again later and later, for about two days. */
const TRIES = 12;
const AT_A_TIME = 20;
const SWEEP = 15_000;

interface Waiting {
  readonly recipient: string;
  readonly subject: string;
  readonly body: string;
  readonly path: string | null;
}

/** Sends the mails that are to go out through an SMTP server; noted when each went. */
export function mailWork(
  database: Knex,
  { smtpUrl, from, origin }: { readonly smtpUrl: string; readonly from: string; readonly origin: string },
  clock: () => Instant,
): Work {
  const transport = createTransport(smtpUrl);
  return {
    name: 'mail',
    every: SWEEP,
    pauses: [1_000, 60_000],
    pending: async () => {
      const rows = await rowsOf<{ id: number }>(
        database,
        `SELECT id FROM mail WHERE sent_at IS NULL AND tries < ?
         AND made_at + (power(2, tries) - 1) * interval '1 minute' <= ? ORDER BY id LIMIT ?`,
        [TRIES, dateOf(clock()), AT_A_TIME],
      );
      return rows.map(({ id }) => String(id));
    },
    run: async (key) => {
      const [mail] = await rowsOf<Waiting>(
        database,
        'SELECT recipient, subject, body, path FROM mail WHERE id = ? AND sent_at IS NULL',
        [key],
      );
      if (!mail) return;
      const failure = await transport
        .sendMail({ from, to: mail.recipient, subject: mail.subject, text: textOf(mail, origin) })
        .then(
          () => null,
          (error: unknown) => (error instanceof Error ? error.message.slice(0, 500) : String(error)),
        );
      await database('mail')
        .where({ id: key })
        .update(
          failure === null ? { sent_at: dateOf(clock()), failure } : { tries: database.raw('tries + 1'), failure },
        );
    },
  };
}

const textOf = ({ body, path }: Waiting, origin: string) =>
  body.replaceAll(APPLICATION, origin) + (path === null ? '' : `\n\n${origin}${path}`);
