import { join } from 'node:path';
import { createServer } from 'node:http';
import { instant } from '@domatium/core/time';
import { BlobStore, migrate, openDatabase, settingsOrExit } from '@domatium/storage';
import { EventHub } from './events/index.js';
import { firstLink } from './people/index.js';
import { buildApp } from './http/app.js';
import { openQueue } from './publishing/index.js';

/** Answers HTTP: the API and the web application. */
const settings = settingsOrExit();
const database = openDatabase(settings.databaseUrl);
await migrate(database);
const boss = await openQueue(settings.databaseUrl, false);
const hub = new EventHub(settings.databaseUrl);
await hub.connect();
const app = buildApp({
  database,
  hub,
  blobs: new BlobStore(settings.dataFolder),
  style: settings.style,
  privateHost: settings.privateHost,
  hasChromium: settings.chromium !== null,
  hasMail: settings.smtpUrl !== null,
  webFolder: join(import.meta.dirname, '../../web/dist/browser'),
});
app.set('trust proxy', false);
const server = createServer({ maxHeaderSize: 16_384, requestTimeout: 30_000, headersTimeout: 10_000 }, app);
const first = await firstLink(database, instant(Date.now()));
server.listen(settings.appPort, '127.0.0.1', () => {
  console.log(`ready: application on http://localhost:${settings.appPort}`);
  if (first) console.log(`first: nobody works here yet. Begin at http://localhost:${settings.appPort}${first}`);
});

async function stop(): Promise<void> {
  const closed = new Promise((done) => server.close(done));
  await hub.close();
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), 2000).unref();
  await closed;
  await boss.stop({ graceful: false, wait: false });
  await database.destroy();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
