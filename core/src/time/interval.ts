import type { Instant } from './instant.js';

/** A half-open stretch of time `[from, until)`; `until: null` is an open end. Never empty. */
export interface Interval {
  readonly from: Instant;
  readonly until: Instant | null;
}

/** The end of an interval as a number that can be compared: an open end is `Infinity`. */
export function endOf(during: Interval): number {
  return during.until ?? Infinity;
}

/** `[from, until)` with `until` as a number, or `null` where nothing is left between them. */
export function interval(from: number, until: number): Interval | null {
  if (!(from < until)) return null;
  return { from: from as Instant, until: until === Infinity ? null : (until as Instant) };
}

export function contains(during: Interval, at: Instant): boolean {
  return during.from <= at && at < endOf(during);
}

export function intersect(a: Interval, b: Interval): Interval | null {
  return interval(Math.max(a.from, b.from), Math.min(endOf(a), endOf(b)));
}

export function overlaps(a: Interval, b: Interval): boolean {
  return intersect(a, b) !== null;
}

/** What is left of `a` where `b` is taken out: none, one or two stretches, in order. */
export function subtract(a: Interval, b: Interval): Interval[] {
  const before = interval(a.from, Math.min(endOf(a), b.from));
  const after = interval(Math.max(a.from, endOf(b)), endOf(a));
  return [before, after].filter((part) => part !== null);
}

/** The part of `a` before `at`, or `null`. */
export function before(a: Interval, at: Instant): Interval | null {
  return interval(a.from, Math.min(endOf(a), at));
}

/** The part of `a` from `at` on, or `null`. */
export function fromOn(a: Interval, at: Instant): Interval | null {
  return interval(Math.max(a.from, at), endOf(a));
}

export function sameInterval(a: Interval, b: Interval): boolean {
  return a.from === b.from && a.until === b.until;
}
