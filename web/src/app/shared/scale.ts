import { DAY, instantOfWall, startOfDay, wallOf, type Instant } from '@domatium/core/time';

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

export interface Tick {
  readonly at: number;
  readonly label: string;
  /** Whether it stands at the first of a month that is named. */
  readonly isMonth: boolean;
}

const HOUR = DAY / 24;
/** Steps between labelled ticks, the finest first: a scale takes the first that gives it no more than it can label. */
const STEPS = [
  { unit: 'hour', by: 1, length: HOUR },
  { unit: 'hour', by: 3, length: 3 * HOUR },
  { unit: 'hour', by: 12, length: 12 * HOUR },
  { unit: 'day', by: 1, length: DAY },
  { unit: 'day', by: 3, length: 3 * DAY },
  { unit: 'day', by: 7, length: 7 * DAY },
  { unit: 'month', by: 1, length: 30 * DAY },
  { unit: 'month', by: 3, length: 91 * DAY },
  { unit: 'month', by: 12, length: 365 * DAY },
  { unit: 'month', by: 60, length: 1826 * DAY },
] as const;
const LABELLED = 9;

/** The step of a scale's labelled ticks. */
const stepOf = ({ from, until }: Scale) =>
  STEPS.find(({ length }) => (until - from) / length <= LABELLED) ?? STEPS[STEPS.length - 1] ?? STEPS[0];

/** Labelled ticks of a scale in a zone: hours, days, months or years, whichever it has room for. */
export function ticksOn(scale: Scale, zone: string): Tick[] {
  const { unit, by } = stepOf(scale);
  if (unit === 'month') return monthTicks(scale, zone, by);
  const ticks: Tick[] = [];
  const first = startOfDay(scale.from as Instant, zone);
  for (let day = 0; ; day += unit === 'day' ? by : 1) {
    const start = startOfDay(first, zone, day);
    if (start >= scale.until) return ticks;
    const hours = unit === 'day' ? [0] : Array.from({ length: 24 / by }, (_, n) => n * by);
    for (const hour of hours) {
      const at = start + hour * HOUR;
      if (at < scale.from || at >= scale.until) continue;
      const wall = wallOf(at as Instant, zone);
      ticks.push({ at, label: unit === 'day' || hour === 0 ? dayLabel(wall) : wall.slice(11), isMonth: false });
    }
  }
}

/** "27 Nov" of a wall-clock time. */
function dayLabel(wall: string): string {
  const [year = 0, month = 1, day = 1] = wall.slice(0, 10).split('-').map(Number);
  return new Date(Date.UTC(year, month - 1, day)).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    timeZone: 'UTC',
  });
}

function monthTicks(scale: Scale, zone: string, by: number): Tick[] {
  const ticks: Tick[] = [];
  const [year = 1970, month = 1] = wallOf(scale.from as Instant, zone)
    .split('-')
    .map(Number);
  // Months are counted from year 0, so that steps of more than one begin where one expects them.
  for (let count = Math.ceil((year * 12 + month) / by) * by; ; count += by) {
    const [y, m] = [Math.floor(count / 12), (count % 12) + 1];
    const at = instantOfWall({ local: `${y}-${String(m).padStart(2, '0')}-01T00:00`, zone });
    if (at === null || at >= scale.until) return ticks;
    const name = new Date(Date.UTC(y, m - 1, 1)).toLocaleString('en-GB', { month: 'short', timeZone: 'UTC' });
    ticks.push({ at, label: by >= 12 ? String(y) : by > 1 && m === 1 ? `${name} ${y}` : name, isMonth: by === 1 });
  }
}

/** Unlabelled ticks between the others: every seventh day on the usual scale, days or hours on finer ones. */
export function fineTicksOn(scale: Scale, zone: string): number[] {
  const step = stepOf(scale);
  if (step.unit === 'month' && step.by > 1) return [];
  const days = step.unit === 'month' ? 7 : step.unit === 'day' ? 1 : 0;
  if (!days) return [];
  const first = startOfDay(scale.from as Instant, zone, 1);
  return Array.from(
    { length: Math.max(0, Math.floor((scale.until - first) / (days * DAY)) + 1) },
    (_, n) => first + n * days * DAY,
  );
}

/** To what a moment that is dragged snaps: about a pixel, in steps people think in. */
export function snapOf({ from, until }: Scale): number {
  const span = until - from;
  return span > 400 * DAY ? DAY : span > 20 * DAY ? HOUR : span > 3 * DAY ? HOUR / 4 : HOUR / 60;
}

/** How far a key moves the shown moment: a day on the usual scale, more or less on others. */
export function keyStepOf({ from, until }: Scale): number {
  const span = until - from;
  return span > 400 * DAY ? 7 * DAY : span > 20 * DAY ? DAY : span > 3 * DAY ? HOUR : HOUR / 4;
}
