import type { Crop } from '@domatium/contracts';

interface Size {
  readonly width: number;
  readonly height: number;
}

/**
 * The part of another picture that keeps the proportion of a part of this one, around the same middle and with the same
 * share of the whole as far as that has room. In thousandths of its width and height, as parts are.
 */
export function keptCrop(crop: Crop, was: Size, now: Size): Crop {
  const share = (crop.width * crop.height) / 1e6;
  const proportion = (crop.width * was.width) / (crop.height * was.height);
  const high = Math.sqrt((share * now.width * now.height) / proportion);
  const fit = Math.min(1, now.width / (high * proportion), now.height / high);
  const part = (pixels: number, of: number) => Math.max(1, Math.min(1000, Math.round((pixels / of) * 1000)));
  const width = part(high * proportion * fit, now.width);
  const height = part(high * fit, now.height);
  const place = (from: number, size: number, taken: number) =>
    Math.max(0, Math.min(1000 - taken, Math.round(from + size / 2 - taken / 2)));
  return { x: place(crop.x, crop.width, width), y: place(crop.y, crop.height, height), width, height };
}
