/** What must be known of a font so that a fallback takes the same room: parts of its em. */
export interface FontMetrics {
  readonly ascent: number;
  readonly descent: number;
  /** Mean advance of a letter, weighted by how often letters come in prose. */
  readonly advance: number;
}

export interface Font {
  readonly family: string;
  /** The name under which server and editor find the font file. */
  readonly file: string;
  /** The package it comes in; `null` of one that was brought in. */
  readonly package: string | null;
  readonly kind: 'sans' | 'serif';
  readonly metrics: FontMetrics;
}

/** Fonts that are on nearly every machine, by the same measures (those of their metric-compatible free twins). */
const EVERYWHERE = {
  sans: { names: ['Arial', 'Liberation Sans'], advance: 0.4402, generic: 'system-ui,sans-serif' },
  serif: { names: ['Times New Roman', 'Liberation Serif'], advance: 0.3987, generic: 'Georgia,serif' },
} as const;

const shipped = (
  name: string,
  file: string,
  kind: Font['kind'],
  ascent: number,
  descent: number,
  advance: number,
): Font => ({
  family: `${name} Variable`,
  file: `${file}-latin-wght-normal.woff2`,
  package: `@fontsource-variable/${file}`,
  kind,
  metrics: { ascent, descent, advance },
});

/** The families that ship, subset to Latin; measures as `fontkit` reads them from the files. */
export const FONTS = {
  hanken: shipped('Hanken Grotesk', 'hanken-grotesk', 'sans', 1, 0.303, 0.4469),
  bricolage: shipped('Bricolage Grotesque', 'bricolage-grotesque', 'sans', 0.93, 0.27, 0.493),
  manrope: shipped('Manrope', 'manrope', 'sans', 1.066, 0.3, 0.4401),
  archivo: shipped('Archivo', 'archivo', 'sans', 0.878, 0.21, 0.4483),
  instrument: shipped('Instrument Sans', 'instrument-sans', 'sans', 0.97, 0.25, 0.4515),
  outfit: shipped('Outfit', 'outfit', 'sans', 1, 0.26, 0.4353),
  karla: shipped('Karla', 'karla', 'sans', 0.917, 0.252, 0.456),
  fraunces: shipped('Fraunces', 'fraunces', 'serif', 0.978, 0.255, 0.5068),
  newsreader: shipped('Newsreader', 'newsreader', 'serif', 0.735, 0.265, 0.4205),
  literata: shipped('Literata', 'literata', 'serif', 1.177, 0.308, 0.4731),
  petrona: shipped('Petrona', 'petrona', 'serif', 0.858, 0.27, 0.4291),
  lora: shipped('Lora', 'lora', 'serif', 1.006, 0.274, 0.4649),
} as const satisfies Record<string, Font>;
export type FontFamily = keyof typeof FONTS;

/** How a family is asked for: itself, then a fallback that takes the same room, then whatever there is. */
export function familyOf({ family, kind }: Font): string {
  return `"${family}","${family} meanwhile",${EVERYWHERE[kind].generic}`;
}

/**
 * The rules that fetch a font and shape its fallback (CSS Fonts 5, `size-adjust` and the metric overrides): letters as
 * wide on the whole, lines as high, so that nothing moves when the font arrives.
 */
export function facesOf({ family, kind, metrics }: Font, href: string): string {
  const { names, advance } = EVERYWHERE[kind];
  const size = metrics.advance / advance;
  const share = (value: number) => `${((value / size) * 100).toFixed(2)}%`;
  const local = names.map((name) => `local("${name}")`).join(',');
  return `@font-face{font-family:"${family}";src:url("${href}") format("woff2");font-weight:100 900;font-display:swap}
@font-face{font-family:"${family} meanwhile";src:${local};size-adjust:${(size * 100).toFixed(2)}%;ascent-override:${share(metrics.ascent)};descent-override:${share(metrics.descent)};line-gap-override:0%}`;
}
