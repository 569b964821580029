import type { Db } from '../database/context.js';
import { EVENTS_CHANNEL, type PortfolioEvent } from './hub.js';

export { EventHub, type PortfolioEvent } from './hub.js';

/** Announces an event; it is heard when the transaction commits, and not at all where it does not. */
export async function notifyEvent(db: Db, event: PortfolioEvent): Promise<void> {
  await db.raw('SELECT pg_notify(?, ?)', [EVENTS_CHANNEL, JSON.stringify(event)]);
}
