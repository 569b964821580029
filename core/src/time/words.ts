import { DateTime } from 'luxon';
import { zoneNamed } from './steady-zone.js';
import { DAY, type Instant } from './instant.js';

const inZone = (at: Instant, zone: string) => DateTime.fromMillis(at, { zone: zoneNamed(zone), locale: 'en-GB' });

/** "Tue 24 Nov, 09:00"; the year is added where it is not the year of `now`. */
export function writeInstant(at: Instant, zone: string, now: Instant): string {
  const time = inZone(at, zone);
  const year = time.year === inZone(now, zone).year ? '' : ' yyyy';
  return time.toFormat(`ccc d LLL${year}, HH:mm`);
}

/** An instant for visitors, in the language of their page, whole: "Fri 18 Dec 2026, 18:00". */
export function writeMoment(at: number, zone: string, language: string): string {
  const time = DateTime.fromMillis(at, { zone: zoneNamed(zone) }).setLocale(language === 'en' ? 'en-GB' : language);
  return `${time.toLocaleString({ weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' })}, ${time.toFormat('HH:mm')}`;
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

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/** A day, `YYYY-MM-DD`, written out: "Tue 1 Dec 2026". What is no day is given back as it is. */
export function writeDay(day: string): string {
  const at = isDay(day) ? Date.parse(`${day}T00:00:00Z`) : Number.NaN;
  if (Number.isNaN(at)) return day;
  const date = new Date(at);
  const part = (options: Intl.DateTimeFormatOptions) => date.toLocaleString('en-GB', { ...options, timeZone: 'UTC' });
  return `${part({ weekday: 'short' })} ${date.getUTCDate()} ${part({ month: 'short' })} ${date.getUTCFullYear()}`;
}

/**
 * A day as people write it: "2026-12-01", "1 Dec", "Tue 1 December 2026", "1.12.2026", "1/12". The day comes before
 * the month. Without a year it is the next such day from `today` on. `null` where it is no day.
 */
export function parseDay(text: string, today: string): string | null {
  const typed = text.trim().toLowerCase();
  if (isDay(typed)) return typed;
  const numbers = /^(\d{1,2})[./-](\d{1,2})(?:[./-](\d{4})?)?$/.exec(typed);
  const words = /^(?:[a-z]{2,9}[.,]?\s+)?(\d{1,2})\.?\s+([a-z]{3,9})\.?(?:,?\s+(\d{4}))?$/.exec(typed);
  const month = words ? MONTHS.indexOf((words[2] ?? '').slice(0, 3)) + 1 : Number(numbers?.[2] ?? 0);
  const day = Number(words?.[1] ?? numbers?.[1] ?? 0);
  if (!month || !day) return null;
  const year = words?.[3] ?? numbers?.[3];
  const of = (y: number) => `${y}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
  if (year) return isDay(of(Number(year))) ? of(Number(year)) : null;
  // 29 February may be years ahead.
  const first = Number(today.slice(0, 4));
  return [...Array(9).keys()].map((n) => of(first + n)).find((one) => isDay(one) && one >= today) ?? null;
}

/** A time of day as people write it: "9", "9:30", "0930", "9.30". `HH:MM`, or `null` where it is none. */
export function parseTime(text: string): string | null {
  const [, hours = '', minutes = '00'] = /^(\d{1,2})(?:[:. h]?(\d{2}))?h?$/.exec(text.trim()) ?? [];
  if (!hours || Number(hours) > 23 || Number(minutes) > 59) return null;
  return `${hours.padStart(2, '0')}:${minutes}`;
}

/** Whether a text is a day of the calendar, `YYYY-MM-DD`. */
function isDay(text: string): boolean {
  if (!/^\d{4}-\d\d-\d\d$/.test(text)) return false;
  const at = Date.parse(`${text}T00:00:00Z`);
  return !Number.isNaN(at) && new Date(at).toISOString().startsWith(text);
}

/**
 * A moment as files write it, as wall-clock time `YYYY-MM-DDTHH:MM`: a day with or without a time of day. A day alone is
 * its first minute, or as an end the whole day, which is the first minute of the next. `null` where it is none.
 */
export function parseMoment(text: string, today: string, isEnd: boolean): string | null {
  const typed = text.trim().replace(/^(\d{4}-\d\d-\d\d)T/i, '$1 ');
  const [, dayText = typed, timeText] = /^(.+?)[, ]+(\d{1,2}[:.]\d\d)(?::00)?$/.exec(typed) ?? [];
  const day = parseDay(dayText, today);
  if (day === null) return null;
  if (timeText !== undefined) {
    const time = parseTime(timeText);
    return time === null ? null : `${day}T${time}`;
  }
  if (!isEnd) return `${day}T00:00`;
  return `${new Date(Date.parse(`${day}T00:00Z`) + DAY).toISOString().slice(0, 10)}T00:00`;
}
