import { readFile, writeFile } from 'node:fs/promises';
import { fileTypeFromFile } from 'file-type';
import { create as createFont } from 'fontkit';
import sharp from 'sharp';
import type { Made, Wanted } from './sizes.js';

/** What can be asked of the process that reads what people send; paths are of files on this machine. */
export interface Tasks {
  /** What a file is by what it holds, as its usual ending; `null` where it is nothing known, or text. */
  kind: { readonly asks: { readonly path: string }; readonly gives: string | null };
  /** The head of a picture: `null` where it is none. */
  measure: { readonly asks: { readonly path: string }; readonly gives: Measured | null };
  /** Writes a drawing without anything that runs, loads or leads elsewhere to `to`; gives whether it could. */
  drawing: { readonly asks: { readonly path: string; readonly to: string }; readonly gives: boolean };
  /** Whether a font can be read. */
  font: { readonly asks: { readonly path: string }; readonly gives: boolean };
  /** Makes every size of a picture as blobs. */
  sizes: {
    readonly asks: { readonly dataFolder: string; readonly original: string; readonly wanted: Wanted };
    readonly gives: Made;
  };
}

export interface Measured {
  readonly width: number;
  readonly height: number;
  readonly format: string;
  readonly pages: number;
  readonly pageHeight: number | null;
  readonly turned: { readonly width: number; readonly height: number };
}

export type TaskName = keyof Tasks;
export type Asks<Name extends TaskName> = Tasks[Name]['asks'];
export type Gives<Name extends TaskName> = Tasks[Name]['gives'];

/** Glyphs beyond this are no font that a page loads; a packed font opens to at most so many bytes. */
const MOST_OPENED = 32 * 1024 * 1024;

type Does = {
  [Name in TaskName]: (asks: Asks<Name>, onShare: (share: number) => Promise<void>) => Promise<Gives<Name>>;
};

/** Whatever can't be read is no picture: that is the answer. */
const isNone = () => null;

/** Each in its own process, which is killed where it takes too long or too much. */
export const TASKS: Does = {
  async kind({ path }) {
    return (await fileTypeFromFile(path))?.ext ?? null;
  },
  async measure({ path }) {
    const read = await sharp(path, { limitInputPixels: false, animated: true }).metadata().catch(isNone);
    if (!read?.width || !read.height) return null;
    const { width, height, format, pages = 1, pageHeight = null } = read;
    return { width, height, format: format ?? '', pages, pageHeight, turned: read.autoOrient };
  },
  async drawing({ path, to }) {
    const { cleanSvg } = await import('./svg.js');
    const clean = cleanSvg(await readFile(path, 'utf8'));
    if (clean === null) return false;
    await writeFile(to, clean);
    return true;
  },
  async font({ path }) {
    const bytes = await readFile(path);
    // What it says it opens to (WOFF2 4.1, totalSfntSize); what it really does is bounded by the memory of this process.
    if (bytes.length < 48 || bytes.readUInt32BE(16) > MOST_OPENED) return false;
    try {
      const font = createFont(bytes);
      return 'unitsPerEm' in font && font.unitsPerEm > 0 && font.numGlyphs > 0;
    } catch {
      return false;
    }
  },
  async sizes({ dataFolder, original, wanted }, onShare) {
    const { BlobStore } = await import('@domatium/storage');
    const { makeSizes } = await import('./sizes.js');
    sharp.concurrency(1);
    sharp.cache(false);
    return makeSizes(new BlobStore(dataFolder), original, wanted, onShare);
  },
};
