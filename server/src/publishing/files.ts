import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { FONTS, stylesheetOf, THEMES, type FontFamily, type ThemeKey } from '@domatium/core/theme';
import { sha256, type BlobStore } from '@domatium/storage';

/** What a theme's pages fetch besides themselves, by address on every host. */
export interface ThemeFiles {
  readonly stylesheetHref: string;
  readonly fontHrefs: readonly string[];
}

const require = createRequire(import.meta.url);

/** The address of a public file: named by its hash, the same on every host. */
export const fileHref = (hash: string, ending: string) => `/-/${hash}.${ending}`;

/** Writes fonts and stylesheets of all themes as public files; gives their addresses. Does nothing twice. */
export async function writeThemeFiles(blobs: BlobStore): Promise<Record<ThemeKey, ThemeFiles>> {
  const files = new Map<string, Buffer>();
  const fonts = new Map<FontFamily, { file: string; href: string }>();
  for (const [key, { package: name, file }] of Object.entries(FONTS) as [FontFamily, (typeof FONTS)[FontFamily]][]) {
    const bytes = await readFile(join(dirname(require.resolve(`${name}/package.json`)), 'files', file));
    const hash = sha256(bytes);
    files.set(hash, bytes);
    fonts.set(key, { file, href: fileHref(hash, 'woff2') });
  }
  const hrefOf = (file: string) => [...fonts.values()].find((font) => font.file === file)?.href ?? '';
  const entries = Object.entries(THEMES).map(([key, theme]) => {
    const css = Buffer.from(stylesheetOf(theme, hrefOf));
    const hash = sha256(css);
    files.set(hash, css);
    const fontHrefs = [...new Set<FontFamily>([theme.display, theme.text])].map(
      (family) => fonts.get(family)?.href ?? '',
    );
    return [key, { stylesheetHref: fileHref(hash, 'css'), fontHrefs }];
  });
  await blobs.write('files', files);
  return Object.fromEntries(entries) as Record<ThemeKey, ThemeFiles>;
}
