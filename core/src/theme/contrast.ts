import { clampRgb, formatHex, modeLrgb, modeOklab, modeRgb, useMode, wcagContrast } from 'culori/fn';
import type { ColourPlace } from '../words/colour-places.js';
import { ROLES, type Palette } from './themes.js';

useMode(modeRgb);
useMode(modeLrgb);
const oklab = useMode(modeOklab);

/** Contrast ratio of two colours `#rrggbb`, 1 to 21 (WCAG 2.2, relative luminance). */
export const contrast = (a: string, b: string): number => wcagContrast(a, b);

/** A pair of colours that occurs on pages: which stands on which, and the least contrast (WCAG 2.2, 1.4.3 and 1.4.11). */
export interface ColourPair {
  readonly text: keyof Palette;
  readonly ground: keyof Palette;
  readonly least: number;
  readonly where: ColourPlace;
}

export const PAIRS: readonly ColourPair[] = [
  { text: 'ink', ground: 'ground', least: 4.5, where: 'text' },
  { text: 'ink', ground: 'tint', least: 4.5, where: 'text-tinted' },
  { text: 'quiet', ground: 'ground', least: 4.5, where: 'captions' },
  { text: 'quiet', ground: 'tint', least: 4.5, where: 'captions-tinted' },
  { text: 'accent', ground: 'ground', least: 4.5, where: 'links' },
  { text: 'accent', ground: 'tint', least: 4.5, where: 'links-tinted' },
  { text: 'onAccent', ground: 'accent', least: 4.5, where: 'buttons' },
  { text: 'onDeep', ground: 'deep', least: 4.5, where: 'text-dark' },
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

/** Below this share of the least contrast a text can't be read by most: 3 : 1 where 4.5 is asked for. */
const UNREADABLE = 2 / 3;

/** The pair of a theme that can't be read, the worst of them; `null` where all can. */
export function unreadablePair({
  colours,
  dark,
}: {
  readonly colours: Palette;
  readonly dark: Palette | null;
}): { readonly place: ColourPlace; readonly ratio: number; readonly isDark: boolean } | null {
  const all = [colours, ...(dark ? [dark] : [])].flatMap((palette) =>
    pairFindings(palette).map(({ where, ratio, least }) => ({ place: where, ratio, least, isDark: palette === dark })),
  );
  const [worst] = all.filter(({ ratio, least }) => ratio < least * UNREADABLE).sort((a, b) => a.ratio - b.ratio);
  return worst ? { place: worst.place, ratio: worst.ratio, isDark: worst.isDark } : null;
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

/**
 * How much of the strong ground, in hundredths, must lie over a picture for the text on it to hold 4.5 : 1 whatever the
 * picture shows (WCAG 2.2, 1.4.3): its lightest and its darkest point are the hardest.
 */
export function veilOf({ deep, onDeep }: Palette): number {
  const over = (share: number, other: number): string =>
    `#${[1, 3, 5]
      .map((at) => Math.round((Number.parseInt(deep.slice(at, at + 2), 16) * share + other * (100 - share)) / 100))
      .map((value) => value.toString(16).padStart(2, '0'))
      .join('')}`;
  for (let share = 40; share < 100; share++)
    if ([0, 255].every((other) => contrast(onDeep, over(share, other)) >= 4.5)) return share;
  return 100;
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

type Triple = readonly [number, number, number];

function toLab(colour: string): Triple {
  const { l, a, b } = oklab(colour) ?? { l: 0, a: 0, b: 0 };
  return [l, a, b];
}

/** The nearest colour a screen can show. */
const fromLab = ([l, a, b]: Triple): string => formatHex(clampRgb({ mode: 'oklab', l, a, b }));
