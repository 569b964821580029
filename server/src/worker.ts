import { BlobStore, log, nameProcess, openDatabase, settingsOrExit, swallowed } from '@domatium/storage';
import { checksWork } from './heart/checks/work.js';
import { DatabaseClock } from './platform/database/clock.js';
import { whenThere } from './platform/database/there.js';
import { digestWork } from './platform/mail/digest.js';
import { mailWork } from './platform/mail/sender.js';
import { PictureMaker } from './features/pictures/index.js';
import { openPublished, PageFiles, publishingWork, publishPlans } from './heart/publishing/index.js';
import { Reader } from './platform/readers/index.js';
import { judgementWork } from './features/fixing/index.js';
import { endsWork, remindersWork } from './features/tasks/index.js';
import { tellWorkerFigures } from './platform/telling/index.js';
import { ThumbnailDrawer } from './features/thumbnails/index.js';
import { tidyWork } from './features/tidy/index.js';
import { verifyApart } from './features/verify/apart.js';
import { verifyWork } from './features/verify/index.js';
import { WorkEngine, type Work } from './platform/work/index.js';

/** Does what is to be done in the background: makes releases ready for visitors first of all. */
const settings = settingsOrExit();
nameProcess('worker');
const { databaseUrl, smtpUrl, mailFrom, style, chromium, origin } = settings;
const database = openDatabase(databaseUrl, { max: 6 });
const blobs = new BlobStore(settings.dataFolder);
/** Releases are made ready by the database's clock: one that is off would leave out what is due. */
const time = new DatabaseClock(database);
const clock = time.now;
const asking = setInterval(() => void time.ask().catch(swallowed('asking for the time')), 3_000);
const files = await whenThere('worker', async () => {
  await time.ask();
  await openPublished(database, blobs);
  return PageFiles.open(blobs);
});
const publisher = { database, blobs, style, files, clock };
const reader = new Reader();
const maker = new PictureMaker(database, blobs, reader, (portfolioId, pageIds) =>
  publishPlans(publisher, portfolioId, pageIds),
);
const drawer = chromium ? new ThumbnailDrawer(database, blobs, chromium) : null;
await drawer?.start();
/** A worker that starts has enough to do. */
const notAtOnce = (work: Work): Work => ({
  ...work,
  pending: async () => (process.uptime() < 60 ? [] : work.pending()),
});
const engine = new WorkEngine(database, databaseUrl, [
  ...publishingWork(publisher),
  ...maker.works(),
  checksWork(database),
  ...(drawer ? [drawer.work()] : []),
  ...(smtpUrl ? [mailWork(database, { smtpUrl, from: mailFrom, origin }, clock), digestWork(database, clock)] : []),
  notAtOnce(judgementWork(database, clock)),
  endsWork(database, clock),
  remindersWork(database, clock),
  notAtOnce(verifyWork({ database, style, clock }, verifyApart)),
  tidyWork(publisher),
]);
await whenThere('worker', () => engine.start());
log.info(`ready: worker${drawer ? '' : ' (no small pictures of pages: there is no Chromium)'}`);
await tellWorkerFigures(settings, database, engine);

async function stop(): Promise<void> {
  setTimeout(() => process.exit(0), 4_000).unref();
  reader.close();
  clearInterval(asking);
  await engine.stop();
  drawer?.stop();
  await database.destroy();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
