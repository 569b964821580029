import { DAY, startOfDay, wallOf, instantOfWall, type Instant } from '@domatium/core/time';

/** The stretch of time that rail and when column show, and how its instants lie on it. */
export interface Scale {
  readonly from: number;
  readonly until: number;
}

/** Thirty days back to ninety ahead. */
export function defaultScale(now: Instant): Scale {
  return { from: now - 30 * DAY, until: now + 90 * DAY };
}

/** Where an instant lies on a scale: 0 at its start, 1 at its end; beyond them outside of that. */
export const fraction = ({ from, until }: Scale, at: number): number => (at - from) / (until - from);

/** The first of each month on a scale, in a zone. */
export function monthsOn(scale: Scale, zone: string): { at: number; label: string }[] {
  const months: { at: number; label: string }[] = [];
  let [year, month] = wallOf(scale.from as Instant, zone)
    .split('-')
    .map(Number) as [number, number];
  for (;;) {
    month = month === 12 ? ((year += 1), 1) : month + 1;
    const at = instantOfWall({ local: `${year}-${String(month).padStart(2, '0')}-01T00:00`, zone });
    if (at === null || at >= scale.until) return months;
    months.push({
      at,
      label: new Date(Date.UTC(year, month - 1, 1)).toLocaleString('en-GB', { month: 'short', timeZone: 'UTC' }),
    });
  }
}

/** Every seventh day on a scale, for the fine ticks. */
export function weeksOn(scale: Scale, zone: string): number[] {
  const first = startOfDay(scale.from as Instant, zone, 1);
  return Array.from({ length: Math.floor((scale.until - first) / (7 * DAY)) + 1 }, (_, week) => first + week * 7 * DAY);
}
