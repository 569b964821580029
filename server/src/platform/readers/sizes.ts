import { sha256, type BlobStore } from '@domatium/storage';
import sharp, { type Sharp } from 'sharp';
import type { Crop } from '@domatium/contracts';

/** One size of a picture as it is kept: hashes of public files. `ending` is of `hash`; WebP where it says nothing. */
export interface StoredVariant {
  readonly width: number;
  readonly hash: string;
  readonly ending?: string;
  readonly bytes?: number;
  readonly avif?: string;
}

export type Purpose = 'page' | 'share' | 'icon';

/** Widths that are made, in pixels: phones, phones with dense screens, desks, wide desks. */
export const WIDTHS = [480, 960, 1440, 2000] as const;
const SHARE = { width: 1200, height: 630 };
const ICONS = [32, 180] as const;

export interface Wanted {
  readonly format: string;
  readonly purpose: Purpose;
  readonly crop: Crop | null;
}

export interface Made {
  readonly variants: readonly StoredVariant[];
  /** A fingerprint by which pictures that look alike are found: 64 bits in hexadecimal. */
  readonly look: string | null;
  readonly width: number;
  readonly height: number;
}

/** Makes every size of a picture, one after the other, so that memory stays that of one. Place data and the like are left behind. */
export async function makeSizes(
  blobs: BlobStore,
  original: string,
  { format, purpose, crop }: Wanted,
  onShare: (share: number) => Promise<void>,
): Promise<Made> {
  const path = blobs.fileOf('originals', original);
  const keep = async (bytes: Buffer): Promise<string> => {
    const hash = sha256(bytes);
    await blobs.write('files', new Map([[hash, bytes]]));
    return hash;
  };
  const isDrawing = format === 'svg' && !crop && purpose === 'page';
  const isMoving = format === 'gif' && purpose === 'page' && !crop;
  const source = sharp(path, { animated: isMoving, limitInputPixels: false });
  const turned = await source.metadata().then(({ autoOrient }) => autoOrient);
  const area = crop && areaOf(crop, turned);
  const size = { width: area?.width ?? turned.width, height: area?.height ?? turned.height };
  const part = () => {
    const oriented = sharp(path, { limitInputPixels: false, sequentialRead: !area }).autoOrient();
    return area ? oriented.extract(area) : oriented;
  };
  if (purpose === 'share') {
    const bytes = await part()
      .resize({ ...SHARE, position: 'attention' })
      .flatten({ background: '#fff' })
      .jpeg({ quality: 82, mozjpeg: true })
      .toBuffer();
    return {
      ...SHARE,
      look: null,
      variants: [{ width: SHARE.width, hash: await keep(bytes), ending: 'jpg', bytes: bytes.length }],
    };
  }
  if (purpose === 'icon') {
    const variants: StoredVariant[] = [];
    for (const width of ICONS) {
      const bytes = await part().resize(width, width, { fit: 'cover', position: 'attention' }).png().toBuffer();
      variants.push({ width, hash: await keep(bytes), ending: 'png', bytes: bytes.length });
    }
    return { width: 180, height: 180, look: null, variants };
  }
  const look = await lookOf(part());
  if (isDrawing) {
    const bytes = await blobs.read('originals', original);
    if (!bytes) throw new Error('The original is not on this machine');
    return {
      ...size,
      look,
      variants: [{ width: size.width, hash: await keep(bytes), ending: 'svg', bytes: bytes.length }],
    };
  }
  if (isMoving) {
    const bytes = await source.resize(Math.min(turned.width, 960)).webp({ quality: 70, effort: 2 }).toBuffer();
    const { pageHeight = turned.height } = await sharp(path, { animated: true }).metadata();
    return {
      width: turned.width,
      height: pageHeight,
      look,
      variants: [{ width: Math.min(turned.width, 960), hash: await keep(bytes), bytes: bytes.length }],
    };
  }
  return { ...size, look, variants: await stillSizes(part(), size.width, keep, onShare) };
}

async function stillSizes(
  part: Sharp,
  full: number,
  keep: (bytes: Buffer) => Promise<string>,
  onShare: (share: number) => Promise<void>,
): Promise<StoredVariant[]> {
  const widths = [...new Set(WIDTHS.map((width) => Math.min(width, full)))];
  // Opened once and made as large as the largest; the others are made of that.
  const { data, info } = await part
    .resize(widths.at(-1))
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  await onShare(0.2);
  const variants: StoredVariant[] = [];
  for (const [index, width] of widths.entries()) {
    const sized = sharp(data, { raw: { width: info.width, height: info.height, channels: info.channels } }).resize(
      width,
    );
    const webp = await sized.clone().webp({ quality: 78, effort: 3 }).toBuffer();
    const avif = await sized.avif({ quality: 52, effort: 2 }).toBuffer();
    const isLighter = avif.length < webp.length;
    variants.push({
      width,
      hash: await keep(webp),
      bytes: isLighter ? avif.length : webp.length,
      ...(isLighter ? { avif: await keep(avif) } : {}),
    });
    await onShare(0.2 + (0.8 * (index + 1)) / widths.length);
  }
  return variants;
}

/** The pixels of a crop that is given in thousandths; at least one. */
export function areaOf(crop: Crop, { width, height }: { readonly width: number; readonly height: number }) {
  const left = Math.min(width - 1, Math.round((crop.x * width) / 1000));
  const top = Math.min(height - 1, Math.round((crop.y * height) / 1000));
  return {
    left,
    top,
    width: Math.max(1, Math.min(width - left, Math.round((crop.width * width) / 1000))),
    height: Math.max(1, Math.min(height - top, Math.round((crop.height * height) / 1000))),
  };
}

/** Difference hash: 9 × 8 greys, a bit for each that is darker than the next in its row. */
async function lookOf(part: Sharp): Promise<string> {
  const greys = await part.resize(9, 8, { fit: 'fill' }).greyscale().toColourspace('b-w').raw().toBuffer();
  let bits = 0n;
  const channels = greys.length / 72;
  for (let row = 0; row < 8; row++)
    for (let column = 0; column < 8; column++) {
      const at = (row * 9 + column) * channels;
      bits = (bits << 1n) | ((greys[at] ?? 0) < (greys[at + channels] ?? 0) ? 1n : 0n);
    }
  return bits.toString(16).padStart(16, '0');
}

/** In how many of 64 bits two fingerprints differ. */
export function lookDistance(a: string, b: string): number {
  let differing = BigInt(`0x${a}`) ^ BigInt(`0x${b}`);
  let count = 0;
  for (; differing; differing &= differing - 1n) count++;
  return count;
}
