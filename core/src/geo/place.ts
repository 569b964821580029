/** A place on the earth, in degrees north and east. */
export interface GeoPlace {
  readonly latitude: number;
  readonly longitude: number;
}

const NUMBER = String.raw`(\d+(?:[.,]\d+)?)`;
const DEGREES = String.raw`([+-])?\s*${NUMBER}\s*°?\s*(?:${NUMBER}\s*['’′])?\s*(?:${NUMBER}\s*(?:["”″]|''))?`;
const BETWEEN = String.raw`\s*[,;/ ]\s*`;
/** With the letters before the degrees, behind them, or without any. */
const FORMS = [`([NSEW])\\s*${DEGREES}`, `${DEGREES}\\s*([NSEW])`, DEGREES].map(
  (form) => new RegExp(`^${form}${BETWEEN}${form}$`, 'i'),
);

/**
 * A place as people write or copy it: `54.0743, -2.8512`, `54°4′27″ N 2°51′4″ W`, `N 54° 4.45' W 2° 51.07'`; `null` where it
 * is none. Latitude comes first unless letters say otherwise.
 */
export function placeFrom(text: string): GeoPlace | null {
  const typed = text.trim();
  const bare = /^geo:/i.test(typed) ? typed.slice(4).replace(/[?;].*$/s, '') : typed;
  const found = FORMS.map((form) => form.exec(bare)).find((one) => one);
  if (!found) return null;
  const parts = found.slice(1);
  const [one, two] = [parts.slice(0, parts.length / 2), parts.slice(parts.length / 2)].map(degreesOf);
  if (!one || !two) return null;
  const isTurned = one.axis === 'longitude' || two.axis === 'latitude';
  if (isTurned && (one.axis === 'latitude' || two.axis === 'longitude')) return null;
  const [latitude, longitude] = isTurned ? [two.degrees, one.degrees] : [one.degrees, two.degrees];
  return Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180 ? { latitude, longitude } : null;
}

function degreesOf(
  parts: readonly (string | undefined)[],
): { readonly degrees: number; readonly axis: 'latitude' | 'longitude' | null } | null {
  const letter = (parts.find((part) => part && /^[NSEW]$/i.test(part)) ?? '').toUpperCase();
  const isMinus = parts.includes('-');
  // Sign, degrees, minutes and seconds stand in this order; a letter stands before or behind them.
  const at = /^[NSEW]$/i.test(parts[0] ?? '') ? 2 : 1;
  const [degrees = 0, sixtieths = 0, small = 0] = parts
    .slice(at, at + 3)
    .map((part) => Number((part ?? '0').replace(',', '.')));
  if (sixtieths >= 60 || small >= 60) return null;
  const isBelow = isMinus || letter === 'S' || letter === 'W';
  const axis = /[NS]/.test(letter) ? 'latitude' : /[EW]/.test(letter) ? 'longitude' : null;
  return { degrees: (isBelow ? -1 : 1) * (degrees + sixtieths / 60 + small / 3600), axis };
}

/** Degrees and minutes, as maps write them: `54°04.5′ N`. */
export function degreesWords(degrees: number, axis: 'latitude' | 'longitude'): string {
  const tenths = Math.round(Math.abs(degrees) * 600);
  const [whole, minutes] = [Math.floor(tenths / 600), (tenths % 600) / 10];
  const letter = axis === 'latitude' ? (degrees < 0 ? 'S' : 'N') : degrees < 0 ? 'W' : 'E';
  return `${whole}°${minutes.toFixed(minutes % 1 ? 1 : 0).padStart(minutes % 1 ? 4 : 2, '0')}′ ${letter}`;
}

/** The mean radius of the earth in metres (IUGG). */
const EARTH = 6_371_009;
const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** Metres east and north from one place to another near it, on the plane that touches the earth between them. */
export function metresBetween(from: GeoPlace, to: GeoPlace): { readonly east: number; readonly north: number } {
  const across = ((to.longitude - from.longitude + 540) % 360) - 180;
  const middle = radians((from.latitude + to.latitude) / 2);
  return { east: EARTH * Math.cos(middle) * radians(across), north: EARTH * radians(to.latitude - from.latitude) };
}

/** The degrees that so many metres are, at a latitude. */
export const degreesOfMetres = (
  metres: number,
  latitude: number,
): { readonly north: number; readonly east: number } => {
  const north = (metres / EARTH) * (180 / Math.PI);
  return { north, east: north / Math.max(0.01, Math.cos(radians(latitude))) };
};
