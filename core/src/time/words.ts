import { DateTime } from 'luxon';
import { DAY, type Instant } from './instant.js';

const inZone = (at: Instant, zone: string) => DateTime.fromMillis(at, { zone, locale: 'en-GB' });

/** "Tue 24 Nov, 09:00"; the year is added where it is not the year of `now`. */
export function writeInstant(at: Instant, zone: string, now: Instant): string {
  const time = inZone(at, zone);
  const year = time.year === inZone(now, zone).year ? '' : ' yyyy';
  return time.toFormat(`ccc d LLL${year}, HH:mm`);
}

/** An end as people say it: an end at midnight reads "the end of Sun 20 Dec", any other as its instant. */
export function writeEnd(at: Instant, zone: string, now: Instant): string {
  const time = inZone(at, zone);
  if (time.hour !== 0 || time.minute !== 0) return writeInstant(at, zone, now);
  const day = time.minus({ days: 1 });
  const year = day.year === inZone(now, zone).year ? '' : ' yyyy';
  return `the end of ${day.toFormat(`ccc d LLL${year}`)}`;
}

/** "in 3 days", "2 hours ago": the second reading of an instant. */
export function writeDistance(at: Instant, now: Instant): string {
  const ms = Math.abs(at - now);
  const [count, unit] =
    ms < 3_600_000
      ? [Math.round(ms / 60_000), 'minute']
      : ms < DAY
        ? [Math.round(ms / 3_600_000), 'hour']
        : ms < 60 * DAY
          ? [Math.round(ms / DAY), 'day']
          : ms < 730 * DAY
            ? [Math.round(ms / (30.44 * DAY)), 'month']
            : [Math.round(ms / (365.25 * DAY)), 'year'];
  if (count === 0) return 'just now';
  const words = `${count} ${unit}${count === 1 ? '' : 's'}`;
  return at > now ? `in ${words}` : `${words} ago`;
}
