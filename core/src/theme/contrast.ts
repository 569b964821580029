import { ROLES, type Palette } from './themes.js';

/** Contrast ratio of two colours `#rrggbb`, 1 to 21 (WCAG 2.2, relative luminance). */
export function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

function luminance(colour: string): number {
  const [r, g, b] = channelsOf(colour).map(linear) as Triple;
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

type Triple = [number, number, number];
const channelsOf = (colour: string) => [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16) / 255) as Triple;
const linear = (channel: number) => (channel <= 0.04045 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4);

/** A pair of colours that occurs on pages: which stands on which, and the least contrast (WCAG 2.2, 1.4.3 and 1.4.11). */
export interface ColourPair {
  readonly text: keyof Palette;
  readonly ground: keyof Palette;
  readonly least: number;
  readonly where: string;
}

export const PAIRS: readonly ColourPair[] = [
  { text: 'ink', ground: 'ground', least: 4.5, where: 'text on the page' },
  { text: 'ink', ground: 'tint', least: 4.5, where: 'text on tinted blocks' },
  { text: 'quiet', ground: 'ground', least: 4.5, where: 'captions on the page' },
  { text: 'quiet', ground: 'tint', least: 4.5, where: 'captions on tinted blocks' },
  { text: 'accent', ground: 'ground', least: 4.5, where: 'links on the page' },
  { text: 'accent', ground: 'tint', least: 4.5, where: 'links on tinted blocks' },
  { text: 'onAccent', ground: 'accent', least: 4.5, where: 'words on buttons' },
  { text: 'onDeep', ground: 'deep', least: 4.5, where: 'text on dark blocks' },
];

export interface PairFinding extends ColourPair {
  readonly ratio: number;
  /** The nearest colour in place of the text’s that is good wherever it stands; `null` where there is none. */
  readonly better: string | null;
}

/** Every pair that occurs, with its contrast; those that fall short with the nearest good colour. */
export function pairFindings(palette: Palette): PairFinding[] {
  return PAIRS.map((pair) => {
    const ratio = contrast(palette[pair.text], palette[pair.ground]);
    return { ...pair, ratio, better: ratio >= pair.least ? null : nearestGood(palette, pair.text) };
  });
}

/** The colour of a role made lighter or darker, as little as possible, until it is good on every ground it stands on. */
export function nearestGood(palette: Palette, role: keyof Palette): string | null {
  const own = PAIRS.filter(({ text }) => text === role);
  const isGood = (colour: string) => own.every(({ ground, least }) => contrast(colour, palette[ground]) >= least);
  const [lightness, a, b] = toLab(palette[role]);
  for (let by = 0; by <= 1; by += 0.004)
    for (const next of [lightness - by, lightness + by]) {
      if (next < 0 || next > 1) continue;
      const colour = fromLab([next, a, b]);
      if (isGood(colour)) return colour;
    }
  return null;
}

/** Colours for dark pages: the same hues, lightness turned round, every pair good. */
export function darkOf(palette: Palette): Palette {
  const at = (colour: string, lightness: number, chroma = 1): string => {
    const [, a, b] = toLab(colour);
    return fromLab([lightness, a * chroma, b * chroma]);
  };
  let dark: Palette = {
    ground: at(palette.deep, 0.19, 0.5),
    ink: at(palette.ground, 0.94),
    quiet: at(palette.quiet, 0.76),
    tint: at(palette.deep, 0.25, 0.6),
    accent: at(palette.accent, 0.76),
    onAccent: at(palette.deep, 0.17, 0.5),
    deep: at(palette.deep, 0.13, 0.6),
    onDeep: at(palette.onDeep, 0.93),
  };
  for (const role of ROLES) dark = { ...dark, [role]: nearestGood(dark, role) ?? dark[role] };
  return dark;
}

/** OKLab (B. Ottosson, "A perceptual color space for image processing", 2020). */
function toLab(colour: string): Triple {
  const [r, g, b] = channelsOf(colour).map(linear) as Triple;
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

function fromLab([lightness, a, b]: Triple): string {
  const l = (lightness + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m = (lightness - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s = (lightness - 0.0894841775 * a - 1.291485548 * b) ** 3;
  const channels = [
    4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s,
    -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s,
    -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s,
  ];
  const hex = (channel: number) => {
    const shown = channel <= 0.0031308 ? 12.92 * channel : 1.055 * Math.max(channel, 0) ** (1 / 2.4) - 0.055;
    return Math.round(Math.min(1, Math.max(0, shown)) * 255)
      .toString(16)
      .padStart(2, '0');
  };
  return `#${channels.map(hex).join('')}`;
}
