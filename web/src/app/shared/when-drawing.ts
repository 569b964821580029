import { rowState, type RegisterRow } from '@domatium/core/register';
import { writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import { fraction, type Scale } from './scale';
import { say } from '@domatium/core/words/shared';

/** How far a draft's dotted line reaches: it has no period, only the wish for one. */
const DRAFT_REACH = 0.36;
/** Where the shown moment is on the scale, as a share: set on what holds the drawings, so that it moves in none of them. */
export const MOMENT = '--moment';

/** A page's periods in words: what the drawing shows, for tooltips and screen readers. */
export function whenWords(page: RegisterRow, now: Instant, zone: string): string {
  if (page.binnedSince !== null) return say.inTheBinSince(writeInstant(page.binnedSince as Instant, zone, now));
  const prepared = page.prepared.map(({ from, until }) =>
    say.preparedNotDecided(
      from === null ? say.withThePress : say.from(writeInstant(from as Instant, zone, now)),
      until === null ? '' : say.to(writeEnd(until as Instant, zone, now)),
    ),
  );
  if (!page.periods.length && prepared.length) return say.neverLive(prepared.join('; '));
  if (!page.periods.length) return say.draftNeverLiveNothingPlanned;
  const parts = merged(page).map(({ from, until }) => {
    const verb = from > now ? say.goesLive : until !== null && until <= now ? say.wasLive : say.liveSince;
    const end = until === null ? say.noEndPlanned : say.to(writeEnd(until as Instant, zone, now));
    return `${verb} ${writeInstant(from as Instant, zone, now)}${end}`;
  });
  return [`${parts.join('; ')}${page.redirectsAfter ? say.thenARedirect : ''}`, ...prepared].join('; ');
}

/** Periods that follow each other directly are one bar: a new revision is no gap. */
function merged({ periods }: RegisterRow): { from: number; until: number | null }[] {
  const bars: { from: number; until: number | null }[] = [];
  for (const { from, until } of periods) {
    const last = bars.at(-1);
    if (last && last.until === from) last.until = until;
    else bars.push({ from, until });
  }
  return bars;
}

/**
 * What a drawing and its words take from the shown moment, besides where that is (`MOMENT`): where this is the same at
 * two moments, nothing has to be drawn anew. `year`: that of the moment.
 */
export function momentKey(page: RegisterRow, at: number, year: string): string {
  const bars = merged(page).map(({ from, until }) => (from > at ? 'c' : until !== null && until <= at ? 'e' : 'l'));
  return `${year} ${bars.join('')} ${page.binnedSince ?? ''}`;
}

/** Draws a page's periods on a scale. Shape says the state: solid live, hollow coming, thin grey ended, dotted draft. */
export function drawWhen(page: RegisterRow, scale: Scale, now: Instant, zone: string): HTMLElement {
  const root = document.createElement('div');
  root.className = 'when-bars';
  root.title = whenWords(page, now, zone);
  root.setAttribute('aria-label', root.title);
  root.setAttribute('role', 'img');
  for (const { from, until } of page.prepared) {
    const [start, end] = [from === null ? null : fraction(scale, from), until === null ? 1 : fraction(scale, until)];
    if (start === null && end > 0) root.append(barFromMoment('prepared', String(Math.min(1, end))));
    else if (start !== null && end > 0 && start < 1) root.append(bar('prepared', Math.max(0, start), Math.min(1, end)));
  }
  if (page.prepared.length && !page.periods.length) return root;
  if (rowState(page, now) === 'draft') {
    root.append(barFromMoment('draft', `min(1, var(${MOMENT}) + ${DRAFT_REACH})`));
    return root;
  }
  const bars = merged(page);
  bars.forEach(({ from, until }, index) => {
    const state = until !== null && until <= now ? 'ended' : from > now ? 'coming' : 'live';
    const [start, end] = [fraction(scale, from), until === null ? 1 : fraction(scale, until)];
    if (end <= 0 || start >= 1) return;
    root.append(bar(`${state}${until === null || end > 1 ? ' open' : ''}`, Math.max(0, start), Math.min(1, end)));
    if (page.redirectsAfter && index === bars.length - 1 && until !== null && end < 0.985) {
      const arrow = document.createElement('i');
      arrow.className = 'arrow';
      arrow.style.left = `${end * 100}%`;
      root.append(arrow);
    }
  });
  return root;
}

function bar(className: string, start: number, end: number): HTMLElement {
  const element = document.createElement('i');
  element.className = className;
  element.style.left = `${(start * 100).toFixed(2)}%`;
  element.style.width = `max(4px, ${((Math.min(1, end) - start) * 100).toFixed(2)}%)`;
  return element;
}

/** A bar from the shown moment on, wherever that is. */
function barFromMoment(className: string, end: string): HTMLElement {
  const element = document.createElement('i');
  element.className = className;
  element.style.left = `calc(max(0, var(${MOMENT})) * 100%)`;
  element.style.width = `max(4px, calc((${end} - max(0, var(${MOMENT}))) * 100%))`;
  return element;
}

const LINE = { width: 66, height: 20 };

/** Visits of the last days as a fine line; empty where there were none. */
export function drawLine(daily: readonly number[]): HTMLElement {
  const root = document.createElement('div');
  root.className = 'visits-line';
  const most = Math.max(...daily, 0);
  if (!most) return root;
  const points = daily.map(
    (count, index) =>
      `${((index / Math.max(1, daily.length - 1)) * LINE.width).toFixed(1)},${(LINE.height - 2 - (count / most) * (LINE.height - 4)).toFixed(1)}`,
  );
  const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
  svg.setAttribute('width', String(LINE.width));
  svg.setAttribute('height', String(LINE.height));
  svg.setAttribute('aria-hidden', 'true');
  const line = document.createElementNS('http://www.w3.org/2000/svg', 'polyline');
  line.setAttribute('points', points.join(' '));
  svg.append(line);
  root.append(svg);
  return root;
}
