import type { PageDocument } from '@domatium/core/document';
import { BARE_FRAME, contextOf, pageHtml, type RenderWorld } from '@domatium/core/render';
import { stylesheetOf, type Theme } from '@domatium/core/theme';
import { zip, type Zippable } from 'fflate';
import { filesPlace, fontHref, ownCssOf } from '../shared/preview-frame';

export interface Exported {
  readonly document: PageDocument;
  readonly theme: Theme;
  readonly brand: string;
  readonly siteCss: string;
  readonly world: RenderWorld;
  readonly portfolioId: number;
  /** Turns an address of this portfolio into one that works from anywhere. */
  readonly outside: (href: string) => string;
}

/** A page as a folder of HTML, CSS, fonts and pictures that opens from disk, in one ZIP file. */
export async function exportPage({
  document: page,
  theme,
  brand,
  siteCss,
  world,
  portfolioId,
  outside,
}: Exported): Promise<Blob> {
  const files: Record<string, Uint8Array> = {};
  const wanted = new Map<string, string>();
  /** Where a file of ours lies in the folder. */
  const place = (src: string, folder: string): string => {
    const known = wanted.get(src);
    if (known) return known;
    const name = src.split('/').at(-1) ?? 'file';
    const path = `${folder}/${name.replace(/^([0-9a-f]{12})[0-9a-f]+\./, '$1.')}`;
    wanted.set(src, path);
    return path;
  };
  const css =
    stylesheetOf(theme, (file) => place(fontHref(file, filesPlace(portfolioId)), 'fonts')) + ownCssOf(siteCss, page);
  const html = pageHtml(
    page,
    { ...BARE_FRAME, language: world.language, siteName: brand, stylesheetHref: 'style.css', isIndexable: true },
    contextOf({
      ...world,
      pageHref: (id) => {
        const href = world.pageHref(id);
        return href === null ? null : outside(href);
      },
      pictureOf: (id) => {
        const picture = world.pictureOf(id);
        if (!picture) return null;
        const variants = picture.variants.map(({ width, src, avif }) => ({
          width,
          src: place(src, 'pictures'),
          ...(avif ? { avif: place(avif, 'pictures') } : {}),
        }));
        return { ...picture, variants };
      },
      fileOf: (id) => {
        const file = world.fileOf(id);
        return file && { ...file, src: place(file.src, 'files') };
      },
    }),
  );
  for (const [src, path] of wanted) {
    const response = await fetch(src);
    if (response.ok) files[path] = new Uint8Array(await response.arrayBuffer());
  }
  const text = new TextEncoder();
  files['index.html'] = text.encode(html);
  files['style.css'] = text.encode(css);
  // What is packed already is not packed again.
  const packed: Zippable = Object.fromEntries(
    Object.entries(files).map(([path, bytes]) => [path, [bytes, { level: /\.(html|css|svg)$/.test(path) ? 6 : 0 }]]),
  );
  return new Promise((done, fail) =>
    zip(packed, (error, bytes) =>
      error ? fail(error) : done(new Blob([bytes.slice().buffer], { type: 'application/zip' })),
    ),
  );
}

/** Gives the person the folder of a page, packed. */
export async function saveFolder(name: string, page: Exported): Promise<void> {
  const href = URL.createObjectURL(await exportPage(page));
  const file = `${name.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase()}.zip`;
  Object.assign(document.createElement('a'), { href, download: file }).click();
  setTimeout(() => URL.revokeObjectURL(href), 10_000);
}
