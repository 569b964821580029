import { instant } from '@domatium/core/time';
import { BlobStore, openDatabase, settingsOrExit } from '@domatium/storage';
import { PageFiles } from '../../heart/publishing/index.js';
import { portfolios } from './store.js';
import { keepVerification, verifyPortfolio } from './service.js';

/** npm run verify: derives everything anew, compares, says what differs. Exit 1 where anything does. */
const settings = settingsOrExit();
const database = openDatabase(settings.databaseUrl, { max: 3 });
const clock = () => instant(Date.now());
const blobs = new BlobStore(settings.dataFolder);
const n = (value: number) => value.toLocaleString('en');
const counted = (count: number, one: string, many = `${one}s`) => `${n(count)} ${count === 1 ? one : many}`;
const MOST_SHOWN = 50;
/** One portfolio where it is named, and all otherwise. */
const only = process.argv[2] === undefined ? null : Number(process.argv[2]);
// Frames that an earlier version drew may look otherwise than this one would draw them: that is told to whoever asks, and no alarm each day.
const frames = only === null ? { shared: { blobs, files: await PageFiles.open(blobs) } } : {};
let failed = 0;
let isBroken = false;
try {
  for (const { id, name } of (await portfolios(database)).filter((one) => only === null || one.id === only)) {
    const began = Date.now();
    const found = await verifyPortfolio({ database, style: settings.style, clock, ...frames }, id);
    await keepVerification(database, found);
    const { pages, claims, routes, places, edges, answers } = found.checked;
    const seconds = ((Date.now() - began) / 1000).toFixed(1);
    console.log(`${name}: ${counted(pages, 'page')}, ${seconds} s`);
    console.log(`  ${counted(claims, 'claim')} held against what is derived`);
    console.log(`  ${counted(routes, 'route')} held against claims, ${counted(places, 'place')} against references`);
    if (frames.shared) console.log(`  ${counted(found.checked.frames, 'frame')} held against what is derived`);
    if (edges) console.log(`  ${counted(answers, 'answer')} of ${counted(edges, 'edge')} held against the database`);
    else console.log('  no edge is running: none was asked');
    if (!found.differences.length) console.log('  All as it should be.');
    else console.log(`  ${counted(found.differences.length, 'difference')}:`);
    for (const { kind, address, words } of found.differences.slice(0, MOST_SHOWN))
      console.log(`    ${kind} ${address}: ${words}`);
    if (found.differences.length > MOST_SHOWN) console.log(`    and ${n(found.differences.length - MOST_SHOWN)} more`);
    failed += found.differences.length;
  }
} catch (error) {
  console.error(`Can’t verify: ${error instanceof Error ? error.message : String(error)}`);
  isBroken = true;
}
await database.destroy();
process.exit(isBroken ? 2 : failed ? 1 : 0);
