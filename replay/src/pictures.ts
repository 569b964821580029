import type { PortfolioId } from '@domatium/core/plan';
import { demoPictures } from '@domatium/demo';
import { sha256, type BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import sharp from 'sharp';

const WIDTHS = [640, 1200, 1800] as const;
const FULL = { width: 1800, height: 1200 };

export interface DrawnPicture {
  readonly key: string;
  readonly description: string;
  readonly variants: readonly { readonly width: number; readonly hash: string; readonly bytes: number }[];
  readonly original: { readonly hash: string; readonly bytes: number };
}

/** Draws the scenario's pictures in every width as WebP and keeps them as public files. */
export async function drawPictures(
  blobs: BlobStore,
  progress: (done: number, of: number) => void,
): Promise<DrawnPicture[]> {
  const pictures = demoPictures();
  const drawn: DrawnPicture[] = [];
  for (const { key, description, svg } of pictures) {
    const source = sharp(Buffer.from(svg)).removeAlpha();
    const sizes = await Promise.all(
      WIDTHS.map(async (width) => ({
        width,
        bytes: await source.clone().resize(width).webp({ quality: 78, effort: 3 }).toBuffer(),
      })),
    );
    const hashed = sizes.map(({ width, bytes }) => ({ width, bytes, hash: sha256(bytes) }));
    await blobs.write('files', new Map(hashed.map(({ hash, bytes }) => [hash, bytes])));
    const largest = hashed.at(-1);
    if (!largest) continue;
    await blobs.write('originals', new Map([[largest.hash, largest.bytes]]));
    drawn.push({
      key,
      description,
      variants: hashed.map(({ width, hash, bytes }) => ({ width, hash, bytes: bytes.length })),
      original: { hash: largest.hash, bytes: largest.bytes.length },
    });
    progress(drawn.length, pictures.length);
  }
  return drawn;
}

/** Gives a portfolio its pictures; the identities by key. */
export async function insertPictures(
  database: Knex,
  portfolioId: PortfolioId,
  drawn: readonly DrawnPicture[],
): Promise<Map<string, number>> {
  const rows = (await database('picture')
    .insert(
      drawn.map(({ key, description, variants, original }) => ({
        portfolio_id: portfolioId,
        name: key,
        description,
        ...FULL,
        variants: JSON.stringify(variants),
        original: original.hash,
        original_bytes: original.bytes,
        format: 'webp',
      })),
    )
    .returning(['id', 'name'])) as { id: number; name: string }[];
  return new Map(rows.map(({ id, name }) => [name, id]));
}
