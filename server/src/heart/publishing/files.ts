import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { BLOCK_TYPES } from '@domatium/core/blocks';
import { blockViews } from '@domatium/core/blocks/views';
import { canonical } from '@domatium/core/plan';
import { codesScript } from '@domatium/core/codes';
import { frameScript } from '@domatium/core/render';
import { FONTS, fontOf, stylesheetOf, type Theme } from '@domatium/core/theme';
import { sha256, type BlobStore } from '@domatium/storage';

/** What a theme's pages fetch besides themselves, by address on every host. */
export interface ThemeFiles {
  readonly stylesheetHref: string;
  readonly fontHrefs: readonly string[];
  /** An icon in its colours. */
  readonly plainIcon: string;
}

const HOUR = 3_600_000;
const require = createRequire(import.meta.url);

/** The address of a public file: named by its hash, the same on every host. */
export const fileHref = (hash: string, ending: string) => `/-/${hash}.${ending}`;

/** The files that pages share: fonts, scripts of blocks, stylesheets of themes. Written once, found again by what they hold. */
export class PageFiles {
  private readonly themes = new Map<string, { readonly at: number; readonly files: Promise<ThemeFiles> }>();

  /** Themes as they are compared: asked for by every site. */
  private readonly written = new WeakMap<Theme, string>();

  private constructor(
    private readonly blobs: BlobStore,
    private readonly fonts: ReadonlyMap<string, string>,
    /** Addresses of the scripts of blocks, by type. */
    readonly scripts: Readonly<Record<string, string>>,
    /** The address of the script of frames. */
    readonly frameScript: string,
    /** The address of the script that lets codes wait. */
    readonly codesScript: string,
    /** Hashes of what ships: it stays, whether a page asks for it or not. */
    readonly shipped: ReadonlySet<string>,
  ) {}

  /** Writes what ships: fonts and scripts. */
  static async open(blobs: BlobStore): Promise<PageFiles> {
    const files = new Map<string, Buffer>();
    const fonts = new Map<string, string>();
    for (const { package: name, file } of Object.values(FONTS)) {
      const bytes = await readFile(join(dirname(require.resolve(`${name}/package.json`)), 'files', file));
      const hash = sha256(bytes);
      files.set(hash, bytes);
      fonts.set(file, fileHref(hash, 'woff2'));
    }
    const shippedScript = (script: string) => {
      const bytes = Buffer.from(script);
      files.set(sha256(bytes), bytes);
      return fileHref(sha256(bytes), 'js');
    };
    const scripts = BLOCK_TYPES.flatMap((type) => {
      const { script } = blockViews[type];
      if (!script) return [];
      return [[type, shippedScript(script)]];
    });
    const [around, codes] = [shippedScript(frameScript), shippedScript(codesScript)];
    await blobs.write('files', files);
    const byType = Object.fromEntries(scripts) as Record<string, string>;
    return new PageFiles(blobs, fonts, byType, around, codes, new Set(files.keys()));
  }

  /** The files of a theme; its stylesheet is written anew every hour, so that it is never among what nobody needs. */
  ofTheme(theme: Theme): Promise<ThemeFiles> {
    const key = this.written.get(theme) ?? canonical(theme);
    this.written.set(theme, key);
    const known = this.themes.get(key);
    if (known && known.at > Date.now() - HOUR) return known.files;
    const files = this.write(theme);
    this.themes.set(key, { at: Date.now(), files });
    files.catch(() => this.themes.delete(key));
    return files;
  }

  /** The address of a stylesheet of a site's own CSS. */
  async ofCss(css: string): Promise<string> {
    const bytes = Buffer.from(css);
    await this.blobs.write('files', new Map([[sha256(bytes), bytes]]));
    return fileHref(sha256(bytes), 'css');
  }

  private async write(theme: Theme): Promise<ThemeFiles> {
    // A font that was brought in is a public file already, named by its hash.
    const hrefOf = (file: string) => this.fonts.get(file) ?? `/-/${file}`;
    const css = Buffer.from(stylesheetOf(theme, hrefOf));
    const hash = sha256(css);
    const icon = Buffer.from(plainIconOf(theme));
    const iconHash = sha256(icon);
    await this.blobs.write(
      'files',
      new Map([
        [hash, css],
        [iconHash, icon],
      ]),
    );
    const files = [...new Set([theme.display, theme.text].map((key) => fontOf(theme, key).file))];
    return {
      stylesheetHref: fileHref(hash, 'css'),
      fontHrefs: files.map(hrefOf),
      plainIcon: fileHref(iconHash, 'svg'),
    };
  }
}

/** The icon of pages that have none of their own: a sheet in the colours of the theme. */
const plainIconOf = ({ colours: { accent, onAccent } }: Theme): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 32 32"><rect width="32" height="32" rx="7" fill="${accent}"/><path d="M9 10h14v3H9zM9 16h14v3H9zM9 22h8v3H9z" fill="${onAccent}"/></svg>`;
