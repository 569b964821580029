import { join } from 'node:path';
import { createServer } from 'node:http';
import { instant } from '@domatium/core/time';
import { BlobStore, log, migrate, nameProcess, openDatabase, settingsOrExit } from '@domatium/storage';
import { whenThere } from './platform/database/there.js';
import { EventHub } from './platform/events/index.js';
import { firstLink } from './features/people/index.js';
import { buildApp } from './app.js';
import { Health } from './platform/http/health.js';
import { Reader } from './platform/readers/index.js';
import { tellServerFigures } from './platform/telling/index.js';

/** Answers HTTP: the API and the web application. */
const settings = settingsOrExit();
nameProcess('server');
const database = openDatabase(settings.databaseUrl, { max: settings.poolSize });
await whenThere('server', () => migrate(database));
const hub = new EventHub(settings.databaseUrl);
await hub.connect();
const blobs = new BlobStore(settings.dataFolder);
const health = new Health(database, blobs, hub);
await health.start();
const reader = new Reader();
const app = buildApp({
  database,
  hub,
  blobs,
  health,
  reader,
  style: settings.style,
  origin: settings.origin,
  installationHost: settings.installationHost,
  limitFactor: settings.limitFactor,
  quota: settings.quotaGigabytes * 1024 ** 3,
  privateHost: settings.privateHost,
  hasChromium: settings.chromium !== null,
  hasMail: settings.smtpUrl !== null,
  webFolder: join(import.meta.dirname, '../../web/dist/browser'),
});
app.set('trust proxy', settings.trustedProxies.length ? settings.trustedProxies : false);
// Files of a hundred megabytes come over slow lines: what is sent may take long, its head may not.
const server = createServer(
  {
    ...{ maxHeaderSize: 16_384, requestTimeout: 0, headersTimeout: 10_000 },
    // Longer than whoever is before it keeps a connection (nginx: 60 s), so that nobody asks on one that is just closed.
    keepAliveTimeout: 75_000,
  },
  app,
);
// Nothing comes for so long: whoever sends that slowly has gone.
server.setTimeout(60_000, (socket) => socket.destroy());
const first = await whenThere('server', () => firstLink(database, instant(Date.now())));
server.listen(settings.appPort, settings.appBind, () => {
  log.info(`ready: application on ${settings.origin}`);
  if (first) log.info(`first: nobody works here yet. Begin at ${settings.origin}${first}`);
});
await tellServerFigures(settings, database, health);

async function stop(): Promise<void> {
  const closed = new Promise((done) => server.close(done));
  health.stop();
  reader.close();
  await hub.close();
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), 2000).unref();
  await closed;
  await database.destroy();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
