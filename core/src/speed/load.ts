/** A line to a visitor. */
export interface Line {
  /** Bits a second. */
  readonly rate: number;
  /** Milliseconds for a question and its answer. */
  readonly roundTrip: number;
}

/** A phone at the edge of its network: 1.6 Mbit/s and 150 ms, the slow end of what fourth-generation networks give. */
export const SLOW_PHONE: Line = { rate: 1_600_000, roundTrip: 150 };

/**
 * Round trips before the last byte can come: the name, TCP (RFC 9293), TLS 1.3 (RFC 8446), the page, and what the page
 * names.
 */
const ROUND_TRIPS = 5;

/** Seconds until `bytes` have come over a line: waiting for answers, then the bytes themselves. */
export function secondsToLoad(bytes: number, { rate, roundTrip }: Line): number {
  return (ROUND_TRIPS * roundTrip) / 1000 + (bytes * 8) / rate;
}

/** Seconds after which a page should be there on a slow phone. Ours to choose; kept in one place. */
export const PATIENCE = 3;

/** How many bytes a page may have, so that it is there within `seconds`: the inverse of `secondsToLoad`. */
export function budgetOf(line: Line, seconds: number): number {
  return Math.max(0, Math.floor(((seconds - (ROUND_TRIPS * line.roundTrip) / 1000) * line.rate) / 8));
}
