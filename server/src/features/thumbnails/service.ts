import type { ThumbnailView } from '@domatium/contracts';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import type { BlobStore } from '@domatium/storage';
import type { Context } from '../../platform/database/context.js';
import { NotFoundError } from '../../platform/errors.js';
import { seen } from '../pages/index.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/thumbnails';

/** More wishes than this are not kept: whoever moved on over hundreds of rows looks at the last ones. */
const MOST_WANTED = 60;

/** The small picture of a page as it is at a moment; where there is none yet, it is wanted from now on. */
export async function thumbnail(
  context: Context,
  portfolioId: PortfolioId,
  pageId: PageId,
  at: Instant,
  hasDrawer: boolean,
): Promise<ThumbnailView> {
  const { stored, words } = await seen(context, portfolioId, pageId, at);
  if (!stored) return { state: 'none', words };
  const known = await store.thumbnailOf(context.database, store.keyOf(stored));
  if (known?.file) return { state: 'ready', words, file: known.file };
  if (!hasDrawer) return { state: 'missing', words: say.pageThumbnailsNeedChromiumWhich };
  if (known && store.hasFailed(known)) return { state: 'missing', words: say.theThumbnailOfThisPageCouldnt };
  await store.want(context.database, stored, context.now, MOST_WANTED);
  return { state: 'making', words };
}

/** The bytes of the picture, where it is of this page at this moment. */
export async function thumbnailFile(
  context: Context,
  blobs: BlobStore,
  portfolioId: PortfolioId,
  pageId: PageId,
  at: Instant,
): Promise<Buffer> {
  const { stored } = await seen(context, portfolioId, pageId, at);
  const known = stored ? await store.thumbnailOf(context.database, store.keyOf(stored)) : null;
  const bytes = known?.file ? await blobs.read('thumbnails', known.file) : null;
  if (!bytes) throw new NotFoundError('picture');
  return bytes;
}
