/** A moment, in whole milliseconds since 1970-01-01T00:00:00Z. */
export type Instant = number & { readonly __instant: unique symbol };

export const MINUTE = 60_000;
export const DAY = 86_400_000;

/** Wraps a number of milliseconds. Throws `RangeError` if it is not a whole number that dates can hold. */
export function instant(ms: number): Instant {
  if (!Number.isInteger(ms) || Math.abs(ms) > 8.64e15) throw new RangeError(`Not an instant: ${ms}`);
  return ms as Instant;
}

/** The instant of an ISO 8601 text that carries its own offset, or `null` if the text is not one. */
export function parseInstant(text: string): Instant | null {
  if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d{1,3})?)?(Z|[+-]\d\d:\d\d)$/.test(text)) return null;
  const ms = Date.parse(text);
  return Number.isNaN(ms) ? null : instant(ms);
}

/** ISO 8601 in UTC. */
export function isoInstant(at: Instant): string {
  return new Date(at).toISOString();
}

/** Planned instants are whole minutes (design rule 5). */
export function isWholeMinute(at: Instant): boolean {
  return at % MINUTE === 0;
}

export function later(at: Instant, ms: number): Instant {
  return (at + ms) as Instant;
}

/** The first whole minute after `at`. */
export function nextWholeMinute(at: Instant): Instant {
  return ((Math.floor(at / MINUTE) + 1) * MINUTE) as Instant;
}

/** The last wall-clock time that can be planned: the end of 31 December 2199. */
export const LAST_WALL = '2200-01-01T00:00';
/** Past this instant nothing is planned in any zone. */
export const LAST_INSTANT = Date.UTC(2200, 0, 1, 12) as Instant;
