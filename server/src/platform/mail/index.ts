import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../database/context.js';
import { tellWork } from '../work/index.js';

export interface Mail {
  readonly to: string;
  readonly subject: string;
  readonly body: string;
  /** Where in the application it leads; the address of the application goes before it as it is sent. */
  readonly path?: string;
}

/** Stands in a mail for the address of the application. */
export const APPLICATION = '{application}';

/** Puts a mail among those that are to go out, in the transaction it belongs to: it goes when that commits. */
export async function postMail(trx: Db, mail: Mail, now: Instant): Promise<void> {
  await rowsOf(trx, 'INSERT INTO mail (recipient, subject, body, path, made_at) VALUES (?, ?, ?, ?, ?)', [
    mail.to,
    mail.subject.replace(/[\r\n]+/g, ' ').slice(0, 200),
    mail.body,
    mail.path ?? null,
    dateOf(now),
  ]);
  await tellWork(trx, 'mail');
}

/** Something that people are told of, each as they wish: at once, or in one mail a day. */
export interface News {
  readonly portfolioId: number;
  /** What happened, in one line. */
  readonly text: string;
  /** More of it, for the mail that goes at once. */
  readonly more?: string;
  readonly path: string;
}

/** Tells people by mail, once each. */
export async function tellByMail(
  trx: Db,
  accountIds: readonly (number | null)[],
  { portfolioId, text, more = '', path }: News,
  now: Instant,
): Promise<void> {
  const ids = [...new Set(accountIds)].filter((id) => id !== null);
  if (!ids.length) return;
  const people = await rowsOf<{ id: number; email: string; mail_wish: 'at-once' | 'daily' }>(
    trx,
    'SELECT id, email, mail_wish FROM account WHERE id = ANY(?) AND id IN (SELECT account_id FROM membership WHERE portfolio_id = ?)',
    [ids, portfolioId],
  );
  for (const { id, email, mail_wish } of people)
    if (mail_wish === 'at-once')
      await postMail(trx, { to: email, subject: text, body: more ? `${text}\n\n${more}` : text, path }, now);
    else
      await rowsOf(trx, 'INSERT INTO mail_line (portfolio_id, account_id, at, text, path) VALUES (?, ?, ?, ?, ?)', [
        portfolioId,
        id,
        dateOf(now),
        text,
        path,
      ]);
}
