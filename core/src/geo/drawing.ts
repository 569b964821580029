import { html, type Html } from '../html/index.js';
import { degreesOfMetres, degreesWords, metresBetween, type GeoPlace } from './place.js';

/** A place that helps to find the way, by its name. */
export interface Landmark {
  readonly name: string;
  readonly place: GeoPlace;
}

const WIDTH = 640;
const HEIGHT = 400;
/** Room at the edge for degrees, and for landmarks that lie beyond it. */
const RIM = 34;

/** 1, 2 or 5 times a power of ten: at most so much. */
export function roundBelow(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value));
  return ([5, 2, 1].find((times) => times * power <= value) ?? 1) * power;
}

const lengthWords = (metres: number) => (metres < 1000 ? `${metres} m` : `${metres / 1000} km`);
/** Distances as one says them: to 10 m, 100 m or 1 km. */
function distanceWords(metres: number): string {
  if (metres < 1000) return `${Math.round(metres / 10) * 10} m`;
  return metres < 10_000 ? `${(metres / 1000).toFixed(1)} km` : `${Math.round(metres / 1000)} km`;
}

/**
 * A plan drawn from coordinates alone, north above: the place in the middle, circles of equal distance around it, landmarks
 * where they lie (those beyond the edge at it, with their distance), a grid of degrees and a scale. Nothing of it is fetched.
 *
 * @param reach metres from the middle to the upper edge
 * @param says what the place is called; read out with the landmarks
 */
export function planHtml(place: GeoPlace, reach: number, landmarks: readonly Landmark[], says: string): Html {
  const scale = (HEIGHT / 2 - RIM) / reach;
  const [x0, y0] = [WIDTH / 2, HEIGHT / 2];
  const at = (to: GeoPlace) => {
    const { east, north } = metresBetween(place, to);
    return { x: x0 + east * scale, y: y0 - north * scale, metres: Math.hypot(east, north) };
  };
  const ring = roundBelow(reach * 0.55);
  const rings = [1, 2, 3].map((n) => n * ring).filter((metres) => metres * scale < HEIGHT / 2 - 18);
  const bar = roundBelow(reach / 2);
  const marks = landmarks.map(({ name, place: to }) => ({ name, ...within(at(to)) }));
  const words = [says, ...marks.map(({ name, metres }) => `${name}, ${distanceWords(metres)}`)]
    .filter(Boolean)
    .join('; ');
  return html`<svg class="plan" viewBox="0 0 ${WIDTH} ${HEIGHT}" role="img" aria-label="${words}"><rect class="plan-ground" width="${WIDTH}" height="${HEIGHT}"></rect>${gridHtml(place, scale, reach)}<g class="plan-rings">${rings.map((metres) => html`<circle cx="${x0}" cy="${y0}" r="${round(metres * scale)}"></circle><text x="${x0}" y="${round(y0 + metres * scale - 5)}">${lengthWords(metres)}</text>`)}</g><g class="plan-marks">${marks.map(
    ({ name, x, y, metres, isBeyond }) =>
      html`<circle cx="${round(x)}" cy="${round(y)}" r="${isBeyond ? 3 : 5}"></circle><text x="${round(x + (x > WIDTH * 0.7 ? -10 : 10))}" y="${round(y + 4)}"${x > WIDTH * 0.7 && html` text-anchor="end"`}>${name}${isBeyond && ` · ${distanceWords(metres)}`}</text>`,
  )}</g><path class="plan-pin" d="M${x0} ${y0}c-9-13-14-19-14-27a14 14 0 0 1 28 0c0 8-5 14-14 27z"></path><circle class="plan-hole" cx="${x0}" cy="${y0 - 27}" r="5"></circle><g class="plan-scale"><path d="M20 ${HEIGHT - 24}v5h${round(bar * scale)}v-5"></path><text x="20" y="${HEIGHT - 29}">${lengthWords(bar)}</text></g><g class="plan-north"><path d="M${WIDTH - 28} 20l7 20-7-5-7 5z"></path><text x="${WIDTH - 28}" y="54">N</text></g></svg>`;
}

const round = (value: number) => Math.round(value * 10) / 10;

/** A point on the plan; one beyond its edge stands at it, in its direction. */
function within(point: { readonly x: number; readonly y: number; readonly metres: number }) {
  const [x0, y0] = [WIDTH / 2, HEIGHT / 2];
  const [right, down] = [point.x - x0, point.y - y0];
  const over = Math.max(Math.abs(right) / (WIDTH / 2 - RIM), Math.abs(down) / (HEIGHT / 2 - RIM));
  return over <= 1
    ? { ...point, isBeyond: false }
    : { ...point, x: x0 + right / over, y: y0 + down / over, isBeyond: true };
}

/** Steps of a grid in minutes of arc. */
const STEPS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300].map((minutes) => minutes / 60);

function gridHtml(place: GeoPlace, scale: number, reach: number): Html {
  const lines = (axis: 'latitude' | 'longitude'): Html[] => {
    const isLatitude = axis === 'latitude';
    const perReach = degreesOfMetres(reach, place.latitude);
    const step = STEPS.find((one) => one > (isLatitude ? perReach.north : perReach.east) * 0.9) ?? 5;
    const middle = place[axis];
    const first = Math.ceil((middle - 4 * step) / step);
    return Array.from({ length: 8 }, (_, n) => (first + n) * step).flatMap((degrees): Html[] => {
      const { east, north } = metresBetween(place, { ...place, [axis]: degrees });
      const [x, y] = [round(WIDTH / 2 + east * scale), round(HEIGHT / 2 - north * scale)];
      if (isLatitude ? y < 16 || y > HEIGHT - 44 : x < 60 || x > WIDTH - 60) return [];
      return [
        isLatitude
          ? html`<path d="M0 ${y}H${WIDTH}"></path><text x="6" y="${round(y - 4)}">${degreesWords(degrees, axis)}</text>`
          : html`<path d="M${x} 0V${HEIGHT}"></path><text x="${round(x + 4)}" y="${HEIGHT - 6}">${degreesWords(degrees, axis)}</text>`,
      ];
    });
  };
  return html`<g class="plan-grid">${lines('latitude')}${lines('longitude')}</g>`;
}

/** What the plan looks like, in the colours of the theme. */
export const PLAN_STYLE = `
.plan{display:block;direction:ltr;width:100%;height:auto;border-radius:var(--corner);font:500 12px/1 var(--text);color:var(--ink)}
.plan-ground{fill:var(--tint)}.plan-grid path{stroke:currentcolor;stroke-opacity:.16;fill:none}.plan-grid text{fill:var(--quiet);font-size:10px}
.plan-rings circle{fill:none;stroke:var(--accent);stroke-opacity:.55;stroke-dasharray:3 5}.plan-rings text{fill:var(--quiet);text-anchor:middle;font-size:11px}
.plan-marks circle{fill:var(--ink)}.plan-marks text{fill:var(--ink);paint-order:stroke;stroke:var(--tint);stroke-width:4px}
.plan-pin{fill:var(--accent)}.plan-hole{fill:var(--on-accent)}
.plan-scale path{fill:none;stroke:var(--ink);stroke-width:2}.plan-scale text,.plan-north text{fill:var(--ink)}.plan-north path{fill:var(--ink)}.plan-north text{text-anchor:middle;font-weight:650}`;
