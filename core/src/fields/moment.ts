import { isZone } from '../time/index.js';
import { isRecord } from './result.js';

/** An instant, in milliseconds since 1970 UTC, with the zone in which it was chosen and is written. */
export interface Moment {
  readonly at: number;
  readonly zone: string;
}

/** A moment from JSON, `null` where it is none. */
export function momentFromJSON(json: unknown): Moment | null {
  if (!isRecord(json)) return null;
  const { at, zone } = json;
  return Number.isSafeInteger(at) && typeof zone === 'string' && isZone(zone) ? { at: at as number, zone } : null;
}
