import type { Db } from '../database/context.js';
import { EVENTS_CHANNEL, type PortfolioEvent } from './hub.js';

export { EventHub, type PortfolioEvent } from './hub.js';

/** PostgreSQL takes notices of fewer than 8,000 bytes. */
const LONGEST_NOTICE = 7_900;

/** Announces an event; it is heard when the transaction commits, and not at all where it does not. */
export async function notifyEvent(db: Db, event: PortfolioEvent): Promise<void> {
  const { pageIds: _, ...short } = event;
  const whole = JSON.stringify(event);
  // Of so many pages it is said that something changed, not which: all are fetched then anyway.
  const payload = Buffer.byteLength(whole) < LONGEST_NOTICE ? whole : JSON.stringify(short);
  await db.raw('SELECT pg_notify(?, ?)', [EVENTS_CHANNEL, payload]);
}
