/** What a visitor's browser fetches for a page, by what it is. */
export type WeightKind = 'page' | 'style' | 'fonts' | 'pictures';

/** Bytes on the line, compressed as they are sent. */
export type PageWeight = Readonly<Record<WeightKind, number>>;

/** A file that a page names: one that is always fetched, or the choice of a picture's widths. */
export type NamedFile =
  | { readonly kind: 'style' | 'fonts'; readonly src: string }
  | { readonly kind: 'pictures'; readonly variants: readonly { readonly src: string; readonly width: number }[] };

/** How wide a screen is: its width in CSS pixels and how many pixels of the screen each of them has. */
export interface Screen {
  readonly width: number;
  readonly density: number;
}

export const PHONE: Screen = { width: 390, density: 2 };

const STYLE = /<link rel="stylesheet" href="([^"]+)"/g;
const FONT = /<link rel="preload" href="([^"]+)" as="font"/g;
/** A picture with AVIF beside WebP is fetched as AVIF. */
const PICTURE = /<source type="image\/avif" srcset="([^"]+)"[^>]*><img [^>]*>|<img [^>]*srcset="([^"]+)"/g;

/** The files that HTML made by `core/render` names, in its order. */
export function namedFiles(html: string): NamedFile[] {
  const fixed = (pattern: RegExp, kind: 'style' | 'fonts') =>
    [...html.matchAll(pattern)].map(([, src = '']): NamedFile => ({ kind, src }));
  return [
    ...fixed(STYLE, 'style'),
    ...fixed(FONT, 'fonts'),
    ...[...html.matchAll(PICTURE)].map(([, avif, srcset = avif ?? '']): NamedFile => ({
      kind: 'pictures',
      variants: srcset.split(', ').map((candidate) => {
        const [src = '', width = ''] = candidate.split(' ');
        return { src, width: Number.parseInt(width, 10) };
      }),
    })),
  ];
}

/**
 * The file a browser takes of each that is named: of a picture the narrowest that fills the screen, else the widest
 * (HTML, 4.8.4.2.4, with every picture taken as wide as the screen: an upper bound).
 */
export function fetchedFiles(files: readonly NamedFile[], { width, density }: Screen): Map<string, WeightKind> {
  const fetched = new Map<string, WeightKind>();
  for (const file of files) {
    if (file.kind !== 'pictures') fetched.set(file.src, file.kind);
    else {
      const sorted = [...file.variants].sort((a, b) => a.width - b.width);
      const chosen = sorted.find((variant) => variant.width >= width * density) ?? sorted.at(-1);
      if (chosen) fetched.set(chosen.src, 'pictures');
    }
  }
  return fetched;
}

/** Adds up a page and what it fetches; `sizeOf` gives a file's bytes, 0 where it is not there. */
export function weightOf(
  pageBytes: number,
  fetched: ReadonlyMap<string, WeightKind>,
  sizeOf: (src: string) => number,
): PageWeight {
  const weight: Record<WeightKind, number> = { page: pageBytes, style: 0, fonts: 0, pictures: 0 };
  for (const [src, kind] of fetched) weight[kind] += sizeOf(src);
  return weight;
}

export const totalOf = (weight: PageWeight) => weight.page + weight.style + weight.fonts + weight.pictures;
