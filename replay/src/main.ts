import { demoScenario } from '@domatium/demo';
import type { PortfolioId } from '@domatium/core/plan';
import { instant } from '@domatium/core/time';
import { BlobStore, migrate, openDatabase, settingsOrExit } from '@domatium/storage';
import { PageFiles } from '@domatium/server';
import { fillLarge, LARGE, publishLarge } from './large.js';
import { drawPictures } from './pictures.js';
import { replay } from './replay.js';

/** Makes the demo where the database is empty: draws its pictures, then replays its scenario. */
const settings = settingsOrExit();
const database = openDatabase(settings.databaseUrl, { max: 4 });
await migrate(database);
const [known] = (await database('portfolio').limit(1)) as { id: number }[];
if (!known) {
  const blobs = new BlobStore(settings.dataFolder);
  const files = await PageFiles.open(blobs);
  const report = (step: string, done: number, of: number) => console.log(`  ${step}: ${done} of ${of}`);
  const pictures = await drawPictures(blobs, (done, of) =>
    done % 9 === 0 || done === of ? report('pictures', done, of) : undefined,
  );
  const clock = () => instant(Date.now());
  const scenario = demoScenario(`http://lists.localhost:${settings.standinsPort}/join`);
  const publisher = { database, blobs, files, style: settings.style, clock };
  await replay(publisher, scenario, pictures, clock(), report);
  if (process.env['DOMATIUM_DEMO_SIZE'] === 'large') {
    const [first] = (await database('portfolio').orderBy('id').limit(1)) as { id: PortfolioId }[];
    if (!first) throw new Error('The scenario made no portfolio');
    console.log(`  ${LARGE.pages.toLocaleString('en')} pages more, with two years of visits: some minutes`);
    await fillLarge(database, first.id);
    await publishLarge(publisher, first.id, report);
  }
}
await database.destroy();
process.exit(0);
