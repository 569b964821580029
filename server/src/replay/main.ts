import { demoScenario } from '@domatium/demo';
import { instant } from '@domatium/core/time';
import { BlobStore, migrate, openDatabase, settingsOrExit } from '@domatium/storage';
import { openQueue, writeThemeFiles } from '../publishing/index.js';
import { drawPictures } from './pictures.js';
import { replay } from './replay.js';

/** Makes the demo where the database is empty: draws its pictures, then replays its scenario. */
const settings = settingsOrExit();
const database = openDatabase(settings.databaseUrl, { max: 4 });
await migrate(database);
const [known] = (await database('portfolio').limit(1)) as { id: number }[];
if (!known) {
  const blobs = new BlobStore(settings.dataFolder);
  const themes = await writeThemeFiles(blobs);
  const boss = await openQueue(settings.databaseUrl, false);
  const report = (step: string, done: number, of: number) => console.log(`  ${step}: ${done} of ${of}`);
  const pictures = await drawPictures(blobs, (done, of) =>
    done % 9 === 0 || done === of ? report('pictures', done, of) : undefined,
  );
  const clock = () => instant(Date.now());
  const scenario = demoScenario(`http://lists.localhost:${settings.standinsPort}/join`);
  await replay({ database, blobs, themes, style: settings.style, clock }, scenario, pictures, clock(), report);
  // The scenario published its releases itself.
  await boss.purgeQueue('publish');
  await boss.stop({ graceful: false, wait: false });
}
await database.destroy();
process.exit(0);
