import { DateTime } from 'luxon';
import { instant, later, type Instant } from './instant.js';
import { zoneNamed } from './steady-zone.js';

/** A wall-clock time a person chose, `YYYY-MM-DDTHH:mm`, in an IANA zone. */
export interface WallTime {
  readonly local: string;
  readonly zone: string;
}

export function isZone(zone: string): boolean {
  return zoneNamed(zone).isValid;
}

const LOCAL = /^(\d{4})-(\d\d)-(\d\d)T(\d\d):(\d\d)$/;

/**
 * The instant of a wall-clock time (design rule 10): a time that does not exist moves forward by the
 * length of the gap; of one that happens twice the earlier is taken. `null` if the text is no time.
 */
export function instantOfWall({ local, zone }: WallTime): Instant | null {
  const match = LOCAL.exec(local);
  if (!match) return null;
  const zoneOf = zoneNamed(zone);
  if (!zoneOf.isValid) return null;
  const [year, month, day, hour, minute] = match.slice(1).map(Number) as [number, number, number, number, number];
  const asUtc = Date.UTC(year, month - 1, day, hour, minute);
  const parts = new Date(asUtc);
  if (parts.getUTCMonth() !== month - 1 || parts.getUTCDate() !== day || hour > 23 || minute > 59) return null;
  // Every offset that can apply lies within a day around; a candidate is true where the zone has that offset then.
  const offsets = [zoneOf.offset(asUtc - 86_400_000), zoneOf.offset(asUtc), zoneOf.offset(asUtc + 86_400_000)];
  const fits = offsets
    .map((offset) => ({ at: asUtc - offset * 60_000, offset }))
    .filter(({ at, offset }) => zoneOf.offset(at) === offset)
    .map(({ at }) => at);
  if (fits.length) return instant(Math.min(...fits));
  // In a gap the offset before it holds: 02:30 becomes 03:30.
  return instant(asUtc - Math.min(...offsets) * 60_000);
}

/** The wall-clock time `YYYY-MM-DDTHH:mm` at an instant in a zone. */
export function wallOf(at: Instant, zone: string): string {
  return DateTime.fromMillis(at, { zone: zoneNamed(zone) }).toFormat("yyyy-MM-dd'T'HH:mm");
}

/** An instant by ISO 8601, to the second, with what its zone is away from UTC then: `2027-05-01T19:00:00+02:00`. */
export function isoOf(at: Instant, zone: string): string {
  return DateTime.fromMillis(at, { zone: zoneNamed(zone) }).toFormat("yyyy-MM-dd'T'HH:mm:ssZZ");
}

/** The day `YYYY-MM-DD` at an instant in a zone. */
export function dayOf(at: Instant, zone: string): string {
  return DateTime.fromMillis(at, { zone: zoneNamed(zone) }).toFormat('yyyy-MM-dd');
}

/** 00:00 of the day of `at`, moved by `days` calendar days, in a zone. */
export function startOfDay(at: Instant, zone: string, days = 0): Instant {
  const day = DateTime.fromMillis(at, { zone: zoneNamed(zone) })
    .startOf('day')
    .plus({ days })
    .toFormat('yyyy-MM-dd');
  return instantOfWall({ local: `${day}T00:00`, zone }) ?? at;
}

/** The same time of day so many days later in a zone; days have 23 to 25 hours where clocks change. */
export function daysLater(at: Instant, days: number, zone: string): Instant {
  const wall = wallOf(at, zone);
  const [year = 0, month = 1, day = 1] = wall.slice(0, 10).split('-').map(Number);
  const date = new Date(Date.UTC(year, month - 1, day + days)).toISOString().slice(0, 10);
  const moved = instantOfWall({ local: `${date}T${wall.slice(11, 16)}`, zone });
  if (moved === null) throw new RangeError(`No such day: ${date}`);
  // Seconds and their parts, which an instant that was decided *now* has, stay.
  return later(moved, at % 60_000);
}

/** The calendar year in a zone. */
export const yearOf = (at: Instant, zone: string): number => DateTime.fromMillis(at, { zone: zoneNamed(zone) }).year;

/** The instant at which the next calendar year begins in a zone. */
export const nextYear = (at: Instant, zone: string): Instant =>
  DateTime.fromMillis(at, { zone: zoneNamed(zone) })
    .startOf('year')
    .plus({ years: 1 })
    .toMillis() as Instant;

/** The place a zone is named after, as people call its time: "London" of Europe/London. */
export const placeOfZone = (zone: string): string => (zone.split('/').at(-1) ?? zone).replace(/_/g, ' ');
