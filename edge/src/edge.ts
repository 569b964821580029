import { createServer, type Server } from 'node:http';
import { join } from 'node:path';
import { BlobStore, smallPool, Spool, type Settings, swallowed } from '@domatium/storage';
import { Ahead } from './ahead.js';
import { Artifacts } from './artifacts.js';
import { EdgeClock } from './clock.js';
import { Follower } from './follower.js';
import { identityOf } from './identity.js';
import { visitorHandler } from './handler.js';
import { Shipper } from './shipper.js';
import { Visits } from './visits.js';

const FLUSH = 250;

export interface Edge {
  readonly server: Server;
  readonly follower: Follower;
  readonly artifacts: Artifacts;
  readonly spool: Spool;
  stop(): Promise<void>;
}

/** How long a client may take, in milliseconds: for the head of a request, all of it, and until it asks again. */
export const PATIENCE = { head: 8_000, request: 10_000, idle: 30_000 };

/** A whole edge on a port of this machine. */
export async function startEdge(settings: Settings, patience = PATIENCE): Promise<Edge> {
  const { edgeDatabaseUrl: databaseUrl, dataFolder, edgePort, style } = settings;
  const edgeId = await identityOf(dataFolder, edgePort);
  const time = new EdgeClock();
  const clock = time.now;
  const artifacts = new Artifacts(new BlobStore(dataFolder), settings.cacheBytes);
  const spool = new Spool(join(dataFolder, 'spool'), edgeId);
  await spool.close(true).catch(swallowed('closing the spool'));
  const visits = new Visits(spool, settings.trustedProxies);
  const counts = smallPool(databaseUrl, 'domatium counts', 1);
  const shipper = new Shipper(counts, spool);
  const follower = new Follower({
    url: databaseUrl,
    edgeId,
    folder: join(dataFolder, 'edge', edgeId),
    style,
    artifacts,
    visits,
    clock,
    followClock: (databaseNow) => time.follow(databaseNow),
    unread: () => shipper.unread,
  });
  const ahead = new Ahead(follower, artifacts, clock);
  const server = createServer(
    {
      maxHeaderSize: 16_384,
      headersTimeout: patience.head,
      requestTimeout: patience.request,
      keepAliveTimeout: patience.idle,
      connectionsCheckingInterval: 2_000,
    },
    visitorHandler({ follower, artifacts, visits, ahead, style, clock }),
  );
  // A client that reads too slowly to ever finish is let go.
  server.setTimeout(60_000, (socket) => socket.destroy());
  server.maxConnections = 20_000;
  await follower.start();
  ahead.start();
  const flush = setInterval(() => void visits.flush(clock()), FLUSH);
  await new Promise<void>((ready, fail) => server.once('error', fail).listen(edgePort, settings.edgeBind, ready));
  return {
    server,
    follower,
    artifacts,
    spool,
    async stop() {
      clearInterval(flush);
      ahead.stop();
      const closed = new Promise((done) => server.close(done));
      server.closeIdleConnections();
      setTimeout(() => server.closeAllConnections(), 2_000).unref();
      await closed;
      await visits.flush(clock());
      await shipper.stop();
      await counts.end().catch(swallowed('ending the pool'));
      await follower.stop();
    },
  };
}
