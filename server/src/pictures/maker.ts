import type { BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import sharp from 'sharp';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { instant } from '@domatium/core/time';
import { notifyEvent } from '../events/index.js';
import { makeSizes } from './sizes.js';
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
   * so are the pages of sites whose face was chosen anew.
   */
  private async publishMade(): Promise<void> {
    const now = instant(Date.now());
    const all = await store.toPublish(this.database);
    const sites = await store.pagesOfChangedSites(
      this.database,
      all.map(({ id }) => id),
      now,
    );
    const portfolios = new Set([...all, ...sites].map(({ portfolio_id }) => portfolio_id));
    for (const portfolioId of portfolios) {
      const made = all.filter((row) => row.portfolio_id === portfolioId);
      const changed = sites.filter((row) => row.portfolio_id === portfolioId);
      const showing = made.length
        ? await store.pagesShowing(
            this.database,
            portfolioId,
            made.map(({ shown }) => shown),
            now,
          )
        : [];
      const pieces = made.length
        ? await store.pagesShowingByPiece(
            this.database,
            portfolioId,
            made.map(({ shown }) => shown),
            now,
          )
        : [];
      const pageIds = new Set([
        ...showing.filter(({ in_plan }) => in_plan).map(({ page_id }) => page_id),
        ...pieces,
        ...changed.flatMap(({ page_id }) => page_id ?? []),
      ]);
      if (pageIds.size) await this.publish(portfolioId, [...pageIds]);
      const sitesOnce = new Map(changed.map((row) => [row.site_id, row]));
      await store.noteSitesPublished(this.database, [...sitesOnce.values()]);
      await store.notePublished(
        this.database,
        made.map(({ id }) => id),
      );
    }
  }
}
