import type { BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import sharp from 'sharp';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { instant } from '@domatium/core/time';
import { notifyEvent } from '../events/index.js';
import { makeSizes } from './sizes.js';
import { filesToPublish, noteFilesPublished } from './files-store.js';
import { reachOfFile, reachOfPictures } from './judge.js';
import * as store from './store.js';

const LOOK = 400;
/** After a failure, so that what fails again and again holds up nothing else. */
const REST = 5_000;

/**
 * Makes the sizes of pictures that were brought in, one picture at a time, on one thread: people type meanwhile. A picture
 * that was begun when the worker died is begun again; one it died over three times is given up, and says so.
 */
export class PictureMaker {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> | null = null;
  private isStopped = false;
  private restsUntil = 0;

  constructor(
    private readonly database: Knex,
    private readonly blobs: BlobStore,
    private readonly publish: (portfolioId: PortfolioId, pageIds: readonly PageId[]) => Promise<void>,
  ) {}

  start(): void {
    sharp.concurrency(1);
    sharp.cache(false);
    this.timer = setInterval(() => Date.now() >= this.restsUntil && void this.wake(), LOOK);
  }

  async stop(): Promise<void> {
    this.isStopped = true;
    if (this.timer) clearInterval(this.timer);
    await this.running;
  }

  wake(): Promise<void> {
    this.running ??= this.drain()
      .catch((error: unknown) => {
        console.error('pictures', error);
        this.restsUntil = Date.now() + REST;
      })
      .finally(() => (this.running = null));
    return this.running;
  }

  private async drain(): Promise<void> {
    for (;;) {
      const picture = this.isStopped ? null : await store.nextWaiting(this.database);
      if (!picture) break;
      await this.make(picture);
    }
    if (!this.isStopped) await this.publishMade();
  }

  private async make(picture: store.PictureRow & { portfolio_id: PortfolioId }): Promise<void> {
    const { id, portfolio_id: portfolioId, original, crop, purpose, format } = picture;
    const tell = () => notifyEvent(this.database, { portfolioId, kind: 'picture', pageIds: [] });
    try {
      await store.noteTry(this.database, id);
      const wanted = { format: format ?? '', crop, purpose };
      const made = await makeSizes(this.blobs, original ?? '', wanted, async (share) => {
        await store.noteProgress(this.database, id, Math.min(share, 0.99));
        await tell();
      });
      await store.noteMade(this.database, picture, made);
    } catch (error) {
      const [row] = (await this.database('picture').where({ id }).select('failures')) as { failures: number }[];
      console.error(`picture ${id}`, error instanceof Error ? error.message : error);
      if ((row?.failures ?? store.MOST_FAILURES) >= store.MOST_FAILURES)
        await store.noteFailed(
          this.database,
          id,
          'This picture is damaged: it could be opened, but not read to its end.',
        );
    }
    await tell();
  }

  /**
   * Pages that show what was made are published anew: with the picture they waited for, or with the one that replaced it;
   * so are pages that lead to a file that was replaced, and the pages of sites whose face was chosen anew.
   */
  private async publishMade(): Promise<void> {
    const now = instant(Date.now());
    const [all, files] = [await store.toPublish(this.database), await filesToPublish(this.database)];
    const sites = await store.pagesOfChangedSites(
      this.database,
      all.map(({ id }) => id),
      now,
    );
    const portfolios = new Set([...all, ...files, ...sites].map(({ portfolio_id }) => portfolio_id));
    for (const portfolioId of portfolios) {
      const ofIt = <Row extends { readonly portfolio_id: PortfolioId }>(rows: readonly Row[]) =>
        rows.filter(({ portfolio_id }) => portfolio_id === portfolioId);
      const [made, replaced, changed] = [ofIt(all), ofIt(files), ofIt(sites)];
      const pageIds = new Set(changed.flatMap(({ page_id }) => page_id ?? []));
      const shown = made.map(({ shown: id }) => id);
      const reaches = [
        ...(shown.length ? [await reachOfPictures(this.database, portfolioId, shown, now)] : []),
        ...(await Promise.all(replaced.map(({ id }) => reachOfFile(this.database, portfolioId, id, now)))),
      ];
      for (const { live } of reaches) for (const id of live) pageIds.add(id);
      if (pageIds.size) await this.publish(portfolioId, [...pageIds]);
      const sitesOnce = new Map(changed.map((row) => [row.site_id, row]));
      await store.noteSitesPublished(this.database, [...sitesOnce.values()]);
      await noteFilesPublished(this.database, replaced);
      await store.notePublished(
        this.database,
        made.map(({ id }) => id),
      );
    }
  }
}
