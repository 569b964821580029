import { FONTS, type Font } from './fonts.js';

/** A look: type, colours by role, corners, manners. Published pages and the canvas read it through custom properties only. */
export interface Theme {
  readonly label: string;
  /** Keys of `FONTS`, or of the theme's own fonts. */
  readonly display: string;
  readonly text: string;
  /** 100 to 900. */
  readonly displayWeight: number;
  /** Letter spacing of headings, in em. */
  readonly displaySpacing: string;
  /** Ratio between neighbouring steps of the type scale. */
  readonly scale: number;
  readonly corner: string;
  /** Space between blocks. */
  readonly spacing: (typeof SPACINGS)[number];
  readonly buttons: (typeof BUTTONS)[number];
  readonly pictures: (typeof PICTURES)[number];
  readonly colours: Palette;
  /** Colours for those who ask for dark pages; `null` where they get the same as all. */
  readonly dark: Palette | null;
  /** Own CSS of its sites, after everything else. */
  readonly css: string;
  readonly ownFonts: readonly OwnFont[];
}

/** A font that was brought in: a file of the portfolio. */
export interface OwnFont extends Font {
  readonly key: string;
  readonly fileId: number;
}

export const SPACINGS = ['close', 'even', 'wide'] as const;
export const BUTTONS = ['filled', 'framed', 'round', 'block', 'underlined'] as const;
export const PICTURES = ['plain', 'soft', 'framed', 'raised'] as const;

/** Colours by role, as `#rrggbb`. `on…` is the text on the ground of that name. */
export interface Palette {
  readonly ground: string;
  readonly ink: string;
  readonly quiet: string;
  readonly tint: string;
  readonly accent: string;
  readonly onAccent: string;
  readonly deep: string;
  readonly onDeep: string;
}
export const ROLES = [
  'ground',
  'ink',
  'quiet',
  'tint',
  'accent',
  'onAccent',
  'deep',
  'onDeep',
] as const satisfies readonly (keyof Palette)[];

/** A font of a theme by its key; the first that ships where there is none of that key any more. */
export function fontOf(theme: Theme, key: string): Font {
  return (
    theme.ownFonts.find((font) => font.key === key) ??
    (Object.hasOwn(FONTS, key) ? FONTS[key as keyof typeof FONTS] : FONTS.hanken)
  );
}

export const THEMES = {
  ferry: {
    label: 'Deck',
    display: 'hanken',
    text: 'hanken',
    displayWeight: 700,
    displaySpacing: '-0.025em',
    scale: 1.27,
    corner: '4px',
    spacing: 'even',
    buttons: 'filled',
    pictures: 'plain',
    dark: null,
    css: '',
    ownFonts: [],
    colours: {
      ground: '#ffffff',
      ink: '#12303f',
      quiet: '#4d6470',
      tint: '#eef3f4',
      accent: '#b0492a',
      onAccent: '#ffffff',
      deep: '#123a4c',
      onDeep: '#f4f8f8',
    },
  },
  lantern: {
    label: 'Lantern',
    display: 'fraunces',
    text: 'hanken',
    displayWeight: 420,
    displaySpacing: '-0.02em',
    scale: 1.3,
    corner: '2px',
    spacing: 'wide',
    buttons: 'framed',
    pictures: 'framed',
    dark: null,
    css: '',
    ownFonts: [],
    colours: {
      ground: '#fbf7f0',
      ink: '#33261d',
      quiet: '#6d5c4e',
      tint: '#f3e9da',
      accent: '#8a4b17',
      onAccent: '#fffaf2',
      deep: '#3a2a20',
      onDeep: '#f8ecd8',
    },
  },
  tide: {
    label: 'Tide',
    display: 'bricolage',
    text: 'instrument',
    displayWeight: 720,
    displaySpacing: '-0.035em',
    scale: 1.34,
    corner: '0px',
    spacing: 'even',
    buttons: 'block',
    pictures: 'plain',
    dark: null,
    css: '',
    ownFonts: [],
    colours: {
      ground: '#f7f6f2',
      ink: '#1b1b1d',
      quiet: '#5a595c',
      tint: '#e6e3f0',
      accent: '#4b32b4',
      onAccent: '#ffffff',
      deep: '#221a4a',
      onDeep: '#efecff',
    },
  },
  sail: {
    label: 'Sail',
    display: 'outfit',
    text: 'karla',
    displayWeight: 640,
    displaySpacing: '-0.02em',
    scale: 1.27,
    corner: '14px',
    spacing: 'even',
    buttons: 'round',
    pictures: 'soft',
    dark: null,
    css: '',
    ownFonts: [],
    colours: {
      ground: '#ffffff',
      ink: '#0f2e2b',
      quiet: '#4a6461',
      tint: '#e8f3f0',
      accent: '#0d6e62',
      onAccent: '#ffffff',
      deep: '#0c4a44',
      onDeep: '#e9fbf6',
    },
  },
  smoke: {
    label: 'Smoke',
    display: 'petrona',
    text: 'newsreader',
    displayWeight: 480,
    displaySpacing: '-0.015em',
    scale: 1.31,
    corner: '0px',
    spacing: 'wide',
    buttons: 'underlined',
    pictures: 'plain',
    dark: null,
    css: '',
    ownFonts: [],
    colours: {
      ground: '#f6f3ee',
      ink: '#262220',
      quiet: '#645b55',
      tint: '#ebe4da',
      accent: '#93351d',
      onAccent: '#ffffff',
      deep: '#2b2422',
      onDeep: '#f4e9dd',
    },
  },
  orchard: {
    label: 'Orchard',
    display: 'literata',
    text: 'literata',
    displayWeight: 560,
    displaySpacing: '-0.015em',
    scale: 1.29,
    corner: '8px',
    spacing: 'close',
    buttons: 'filled',
    pictures: 'raised',
    dark: null,
    css: '',
    ownFonts: [],
    colours: {
      ground: '#fdfbf5',
      ink: '#2a3018',
      quiet: '#5d6346',
      tint: '#eef0dc',
      accent: '#8c2f22',
      onAccent: '#ffffff',
      deep: '#37421c',
      onDeep: '#f6f6e2',
    },
  },
} as const satisfies Record<string, Theme>;
export type ThemeKey = keyof typeof THEMES;

export function isThemeKey(value: unknown): value is ThemeKey {
  return typeof value === 'string' && Object.hasOwn(THEMES, value);
}
