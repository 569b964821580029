/** A look: type, colours by role, corners. Published pages and the canvas read it through custom properties only. */
export interface Theme {
  readonly label: string;
  readonly display: FontFamily;
  readonly text: FontFamily;
  readonly displayWeight: number;
  readonly displaySpacing: string;
  /** Ratio between neighbouring steps of the type scale. */
  readonly scale: number;
  readonly corner: string;
  readonly colours: Palette;
}

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

/** The families that ship. `file` is the name under which server and editor find the font file. */
export const FONTS = {
  hanken: {
    family: 'Hanken Grotesk Variable',
    file: 'hanken-grotesk-latin-wght-normal.woff2',
    package: '@fontsource-variable/hanken-grotesk',
    fallback: 'system-ui,sans-serif',
  },
  fraunces: {
    family: 'Fraunces Variable',
    file: 'fraunces-latin-wght-normal.woff2',
    package: '@fontsource-variable/fraunces',
    fallback: 'Georgia,serif',
  },
  bricolage: {
    family: 'Bricolage Grotesque Variable',
    file: 'bricolage-grotesque-latin-wght-normal.woff2',
    package: '@fontsource-variable/bricolage-grotesque',
    fallback: 'system-ui,sans-serif',
  },
  newsreader: {
    family: 'Newsreader Variable',
    file: 'newsreader-latin-wght-normal.woff2',
    package: '@fontsource-variable/newsreader',
    fallback: 'Georgia,serif',
  },
} as const;
export type FontFamily = keyof typeof FONTS;

export const THEMES = {
  ferry: {
    label: 'Deck',
    display: 'hanken',
    text: 'hanken',
    displayWeight: 700,
    displaySpacing: '-0.025em',
    scale: 1.27,
    corner: '4px',
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
    text: 'hanken',
    displayWeight: 720,
    displaySpacing: '-0.035em',
    scale: 1.34,
    corner: '0px',
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
    display: 'bricolage',
    text: 'hanken',
    displayWeight: 640,
    displaySpacing: '-0.02em',
    scale: 1.27,
    corner: '14px',
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
    display: 'newsreader',
    text: 'newsreader',
    displayWeight: 480,
    displaySpacing: '-0.015em',
    scale: 1.31,
    corner: '0px',
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
    display: 'fraunces',
    text: 'newsreader',
    displayWeight: 560,
    displaySpacing: '-0.015em',
    scale: 1.29,
    corner: '8px',
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

/** Contrast ratio of two colours `#rrggbb`, 1 to 21 (WCAG 2.2, relative luminance). */
export function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

function luminance(colour: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const channel = parseInt(colour.slice(at, at + 2), 16) / 255;
    return channel <= 0.04045 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
