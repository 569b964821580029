import type { PictureView } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import type { BlobStore } from '@domatium/storage';
import type { Response } from 'express';
import { rowsOf, type Db } from '../database/context.js';

interface PictureRow extends Omit<PictureView, 'variants'> {
  readonly variants: readonly { readonly width: number; readonly hash: string }[];
}

/** Pictures of a portfolio with the addresses of their files below a place; some of them where those are named. */
export async function picturesWith(
  db: Db,
  portfolioId: PortfolioId,
  place: string,
  ids: readonly number[] | null = null,
): Promise<PictureView[]> {
  const rows = await rowsOf<PictureRow>(
    db,
    `SELECT id, name, description, width, height, variants FROM picture WHERE portfolio_id = ? ${ids ? 'AND id = ANY(?)' : ''} ORDER BY name LIMIT 1000`,
    ids ? [portfolioId, ids] : [portfolioId],
  );
  return rows.map(({ variants, ...picture }) => ({
    ...picture,
    variants: variants.map(({ width, hash }) => ({ width, src: `${place}/${hash}.webp` })),
  }));
}

/** Answers with a file of one of the portfolio's pictures, named `HASH.ending`; gives whether there is one. */
export async function sendPicture(
  db: Db,
  blobs: BlobStore,
  portfolioId: PortfolioId,
  file: string,
  response: Response,
): Promise<boolean> {
  const [hash = '', ending = ''] = file.split('.');
  const known = await rowsOf(db, 'SELECT 1 FROM picture WHERE portfolio_id = ? AND variants @> ?::jsonb', [
    portfolioId,
    JSON.stringify([{ hash }]),
  ]);
  const bytes = known.length ? await blobs.read('files', hash) : null;
  if (bytes) response.type(ending).setHeader('Cache-Control', 'private, max-age=31536000, immutable').send(bytes);
  return bytes !== null;
}
