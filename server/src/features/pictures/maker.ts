import { log, type BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { instant } from '@domatium/core/time';
import { notifyEvent } from '../../platform/events/index.js';
import type { Work } from '../../platform/work/index.js';
import { TaskError, TooMuchError, type Reader } from '../../platform/readers/index.js';
import { filesToPublish, noteFilesPublished } from './files-store.js';
import { reachOfFile, reachOfPictures } from './judge.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/pictures';

const LOOK = 400;

/**
 * Makes the sizes of pictures that were brought in, one picture at a time, on one thread: people type meanwhile. A picture
 * that was begun when the worker died is begun again; one it died over three times is given up, and says so.
 */
export class PictureMaker {
  constructor(
    private readonly database: Knex,
    private readonly blobs: BlobStore,
    private readonly reader: Reader,
    private readonly publish: (portfolioId: PortfolioId, pageIds: readonly PageId[]) => Promise<void>,
  ) {}

  works(): Work[] {
    const { database } = this;
    return [
      {
        name: 'pictures',
        every: LOOK,
        pauses: [1_000, 60_000],
        words: say.uploadedPicturesCantBeProcessed,
        pending: async () => (await store.waiting(database)).map(({ id }) => String(id)),
        run: async (key) => {
          const picture = await store.waitingPicture(database, Number(key));
          if (picture) await this.make(picture);
        },
      },
      {
        name: 'pictures-shown',
        every: LOOK,
        pauses: [1_000, 60_000],
        pending: async () => ((await store.hasToPublish(database)) ? ['all'] : []),
        run: () => this.publishMade(),
      },
    ];
  }

  private async make(picture: store.PictureRow & { portfolio_id: PortfolioId }): Promise<void> {
    const { id, portfolio_id: portfolioId, original, crop, purpose, format } = picture;
    const tell = () => notifyEvent(this.database, { portfolioId, kind: 'picture', pageIds: [] });
    const damaged = say.thisPictureIsDamagedItOpens;
    // A worker that dies over a picture must not die over it for ever.
    if ((await store.failuresOf(this.database, id)) >= store.MOST_FAILURES)
      return store.noteFailed(this.database, id, damaged);
    await store.noteTry(this.database, id);
    try {
      const wanted = { format: format ?? '', crop, purpose };
      const asks = { dataFolder: this.blobs.folder, original: original ?? '', wanted };
      const made = await this.reader.run('sizes', asks, async (share) => {
        await store.noteProgress(this.database, id, Math.min(share, 0.99));
        await tell();
      });
      await store.noteMade(this.database, picture, made);
    } catch (error) {
      if (error instanceof TooMuchError)
        return store.noteFailed(this.database, id, say.makingThisPicturesSizesTakesToo);
      // A disk that takes nothing says nothing of the picture.
      if (!(error instanceof TaskError) || error.code !== null) {
        await store.takeBackTry(this.database, id);
        throw error;
      }
      log.warn({ err: error, picture: id }, 'a picture can’t be read');
      await store.noteFailed(this.database, id, damaged);
    }
    await tell();
  }

  /**
   * Pages that show what was made are published anew: with the picture they waited for, or with the one that replaced it;
   * so are pages that lead to a file that was replaced, and the pages of sites whose icon or share picture was made.
   */
  private async publishMade(): Promise<void> {
    const now = instant(Date.now());
    const [all, files] = [await store.toPublish(this.database), await filesToPublish(this.database)];
    const sites = await store.pagesOfSitesShowing(
      this.database,
      all.map(({ shown }) => shown),
      now,
    );
    const portfolios = new Set([...all, ...files, ...sites].map(({ portfolio_id }) => portfolio_id));
    for (const portfolioId of portfolios) {
      const ofIt = <Row extends { readonly portfolio_id: PortfolioId }>(rows: readonly Row[]) =>
        rows.filter(({ portfolio_id }) => portfolio_id === portfolioId);
      const [made, replaced, changed] = [ofIt(all), ofIt(files), ofIt(sites)];
      const pageIds = new Set(changed.map(({ page_id }) => page_id));
      const shown = made.map(({ shown: id }) => id);
      const reaches = [
        ...(shown.length ? [await reachOfPictures(this.database, portfolioId, shown, now)] : []),
        ...(await Promise.all(replaced.map(({ id }) => reachOfFile(this.database, portfolioId, id, now)))),
      ];
      for (const { live } of reaches) for (const id of live) pageIds.add(id);
      // Frames show them too, with no page of their own.
      await this.publish(portfolioId, [...pageIds]);
      await noteFilesPublished(this.database, replaced);
      await store.notePublished(
        this.database,
        made.map(({ id }) => id),
      );
    }
  }
}
