import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../database/context.js';
import { tellWork } from '../work/index.js';

export interface Mail {
  readonly to: string;
  readonly subject: string;
  readonly body: string;
}

/** Puts a mail among those that are to go out, in the transaction it belongs to: it goes when that commits. */
export async function postMail(trx: Db, mail: Mail, now: Instant): Promise<void> {
  await rowsOf(trx, 'INSERT INTO mail (recipient, subject, body, made_at) VALUES (?, ?, ?, ?)', [
    mail.to,
    mail.subject.replace(/[\r\n]+/g, ' ').slice(0, 200),
    mail.body,
    dateOf(now),
  ]);
  await tellWork(trx, 'mail');
}
