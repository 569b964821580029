import { instant } from '@domatium/core/time';
import { BlobStore, openDatabase, settingsOrExit } from '@domatium/storage';
import { openQueue, PublishWorker, writeThemeFiles } from './publishing/index.js';

/** Runs jobs: makes releases ready for visitors. */
const settings = settingsOrExit();
const database = openDatabase(settings.databaseUrl, { max: 4 });
const blobs = new BlobStore(settings.dataFolder);
const themes = await writeThemeFiles(blobs);
const boss = await openQueue(settings.databaseUrl, true);
const worker = new PublishWorker(
  { database, blobs, style: settings.style, themes, clock: () => instant(Date.now()) },
  boss,
  settings.databaseUrl,
);
await worker.start();
console.log('ready: worker');

async function stop(): Promise<void> {
  await worker.stop();
  await boss.stop({ graceful: false, wait: false });
  await database.destroy();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
