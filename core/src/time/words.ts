import { DateTime } from 'luxon';
import { TIMES } from './said.js';
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
  return TIMES.endOf(day.toFormat(`ccc d LLL${year}`));
}

/** "in 3 days", "2 hours ago": the second reading of an instant. */
export function writeDistance(at: Instant, now: Instant): string {
  const ms = Math.abs(at - now);
  const [count, unit]: [number, Parameters<typeof TIMES.distance>[1]] =
    ms < 3_600_000
      ? [Math.round(ms / 60_000), 'minute']
      : ms < DAY
        ? [Math.round(ms / 3_600_000), 'hour']
        : ms < 60 * DAY
          ? [Math.round(ms / DAY), 'day']
          : ms < 730 * DAY
            ? [Math.round(ms / (30.44 * DAY)), 'month']
            : [Math.round(ms / (365.25 * DAY)), 'year'];
  if (count === 0) return TIMES.now;
  const words = TIMES.distance(count, unit);
  return at > now ? TIMES.ahead(words) : TIMES.ago(words);
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

/** Which of two numbers comes first where a day is written with strokes: as the reader's locale writes days. */
export type DayOrder = 'day-first' | 'month-first';

/** How a locale writes days: that of the browser where none is given. */
export function dayOrderOf(locale?: string): DayOrder {
  const parts = new Intl.DateTimeFormat(locale).formatToParts(new Date(0)).map(({ type }) => type);
  return parts.indexOf('month') < parts.indexOf('day') ? 'month-first' : 'day-first';
}

const WEEKDAYS = ['sun', 'mon', 'tues', 'wednes', 'thurs', 'fri', 'satur'];

/** A day so many days after another. */
function dayAfter(day: string, days: number): string {
  return new Date(Date.parse(`${day}T00:00:00Z`) + days * DAY).toISOString().slice(0, 10);
}

/** A day told from today: "tomorrow", "in 3 days", "next Monday"; `null` where it is none. A weekday is the next such day. */
function toldFrom(today: string, typed: string): string | null {
  if (typed === 'today') return today;
  if (typed === 'tomorrow') return dayAfter(today, 1);
  const [, count, unit] = /^in (\d{1,3}) (day|week)s?$/.exec(typed) ?? [];
  if (count) return dayAfter(today, Number(count) * (unit === 'week' ? 7 : 1));
  const [, word = ''] = /^(?:next |on |this )?([a-z]{3,9})$/.exec(typed) ?? [];
  const weekday = WEEKDAYS.findIndex((name) => `${name}day`.startsWith(word) && word.length > 2);
  if (weekday < 0) return null;
  const now = new Date(`${today}T00:00:00Z`).getUTCDay();
  return dayAfter(today, ((weekday - now + 6) % 7) + 1);
}
/**
 * A day as people write it: "2026-12-01", "1 Dec", "Tue 1 December 2026", "Dec 1, 2026", "1.12.2026", "30.11.", "1/12",
 * "tomorrow", "next Monday". The day comes before the month; between strokes as the order says, unless only the other can
 * be. Without a year it is the next such day from `today` on. `null` where it is no day.
 */
export function parseDay(text: string, today: string, order: DayOrder = 'day-first'): string | null {
  const typed = text.trim().toLowerCase().replace(/\s+/g, ' ');
  if (isDay(typed)) return typed;
  const told = toldFrom(today, typed);
  if (told) return told;
  const numbers = /^(\d{1,2})([./-])(\d{1,2})(?:[./-](\d{4})?)?$/.exec(typed);
  const words = /^(?:[a-z]{2,9}[.,]? )?(\d{1,2})(?:\.|st|nd|rd|th)? ([a-z]{3,9})\.?(?:,? (\d{4}))?$/.exec(typed);
  const american = /^(?:[a-z]{2,9}[.,]? )?([a-z]{3,9})\.? (\d{1,2})(?:st|nd|rd|th)?(?:,? (\d{4}))?$/.exec(typed);
  const [one, stroke, two] = [Number(numbers?.[1] ?? 0), numbers?.[2], Number(numbers?.[3] ?? 0)];
  const isMonthFirst = stroke === '/' && (order === 'month-first' ? one <= 12 : two > 12 && one <= 12);
  const named = words?.[2] ?? american?.[1];
  const month = named ? MONTHS.indexOf(named.slice(0, 3)) + 1 : isMonthFirst ? one : two;
  const day = Number(words?.[1] ?? american?.[2] ?? (isMonthFirst ? two : one));
  if (!month || !day) return null;
  const year = words?.[3] ?? american?.[3] ?? numbers?.[4];
  const of = (y: number) => `${y}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
  if (year) return isDay(of(Number(year))) ? of(Number(year)) : null;
  // 29 February may be years ahead.
  const first = Number(today.slice(0, 4));
  return [...Array(9).keys()].map((n) => of(first + n)).find((one) => isDay(one) && one >= today) ?? null;
}

/** A time of day as people write it: "9", "9:30", "0930", "9.30", "8 pm", "noon". `HH:MM`, or `null` where it is none. */
export function parseTime(text: string): string | null {
  const typed = text.trim().toLowerCase();
  if (typed === 'noon') return '12:00';
  if (typed === 'midnight') return '00:00';
  const [, hours = '', minutes = '00', half] = /^(\d{1,2})(?:[:. h]?(\d{2}))?h?(?: ?([ap])\.?m\.?)?$/.exec(typed) ?? [];
  if (!hours || Number(minutes) > 59 || (half && (Number(hours) < 1 || Number(hours) > 12))) return null;
  const hour = half ? (Number(hours) % 12) + (half === 'p' ? 12 : 0) : Number(hours);
  return hour > 23 ? null : `${String(hour).padStart(2, '0')}:${minutes}`;
}

/**
 * A moment as people type it into one field, a day with or without a time, or a time today: "24 Dec, 18:00", "tomorrow at
 * 9 am", "next Friday", "18:00". Wall-clock time `YYYY-MM-DDTHH:MM`; a day alone is its first minute. `null` where it is
 * none; a bare number is none either.
 */
export function parseWhen(text: string, today: string, order: DayOrder = 'day-first'): string | null {
  const typed = text.trim().replace(/^(\d{4}-\d\d-\d\d)T/i, '$1 ');
  const whole = parseDay(typed, today, order);
  if (whole) return `${whole}T00:00`;
  if (/^(noon|midnight)$|\d ?([:.h]|[ap]\.?m)/i.test(typed)) {
    const alone = parseTime(typed);
    if (alone) return `${today}T${alone}`;
  }
  for (const { index } of typed.matchAll(/[\s,]+/g)) {
    const day = parseDay(typed.slice(0, index).replace(/ at$/i, ''), today, order);
    const time = parseTime(typed.slice(index).replace(/^[\s,]+(at )?/i, ''));
    if (day && time) return `${day}T${time}`;
  }
  return null;
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
