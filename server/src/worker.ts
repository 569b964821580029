import { instant } from '@domatium/core/time';
import { BlobStore, openDatabase, settingsOrExit } from '@domatium/storage';
import { ThumbnailDrawer } from './thumbnails/index.js';
import { checkDrafts } from './checks/index.js';
import { PictureMaker } from './pictures/index.js';
import { MailSender } from './mail/sender.js';
import { remindOfDue } from './tasks/index.js';
import { verifyDaily } from './verify/index.js';
import { openQueue, publishPlans, PublishWorker, PageFiles, readyYears } from './publishing/index.js';

/** Runs jobs: makes releases ready for visitors. */
const settings = settingsOrExit();
const database = openDatabase(settings.databaseUrl, { max: 6 });
const blobs = new BlobStore(settings.dataFolder);
const files = await PageFiles.open(blobs);
const boss = await openQueue(settings.databaseUrl, true);
const clock = () => instant(Date.now());
const publisher = { database, blobs, style: settings.style, files, clock };
const worker = new PublishWorker(publisher, boss, settings.databaseUrl);
await worker.start();
const maker = new PictureMaker(database, blobs, (portfolioId, pageIds) =>
  publishPlans(publisher, portfolioId, pageIds),
);
maker.start();
const { smtpUrl, mailFrom, databaseUrl } = settings;
const sender = smtpUrl ? new MailSender(database, databaseUrl, smtpUrl, mailFrom, clock) : null;
await sender?.start();
const remind = () => void remindOfDue(database, clock()).catch((error: unknown) => console.error('reminders', error));
const reminders = setInterval(remind, 5 * 60_000);
remind();
let checking: Promise<unknown> | null = null;
const check = () => {
  checking ??= checkDrafts(database)
    .catch((error: unknown) => console.error('checks', error))
    .finally(() => (checking = null));
};
const checks = setInterval(check, 1_000);
check();
const turn = () => void readyYears(publisher).catch((error: unknown) => console.error('years', error));
const turns = setInterval(turn, 24 * 3_600_000);
turn();
const verifying = () =>
  void verifyDaily({ database, style: settings.style, clock }).catch((error: unknown) =>
    console.error('verify', error),
  );
// Whoever was not verified for a day is; looked at every hour, so that a worker that starts anew does it no sooner.
const verifications = setInterval(verifying, 3_600_000);
setTimeout(verifying, 60_000).unref();
const drawer = settings.chromium ? new ThumbnailDrawer(database, blobs, settings.chromium) : null;
await drawer?.start();
console.log(`ready: worker${drawer ? '' : ' (no small pictures of pages: there is no Chromium)'}`);

async function stop(): Promise<void> {
  clearInterval(reminders);
  clearInterval(turns);
  clearInterval(checks);
  clearInterval(verifications);
  await checking;
  await maker.stop();
  await drawer?.stop();
  await sender?.stop();
  await worker.stop();
  await boss.stop({ graceful: false, wait: false });
  await database.destroy();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
