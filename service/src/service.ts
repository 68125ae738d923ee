import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { Allowance } from './access/allowance.js';
import { Guesses } from './access/callers.js';
import type { Config } from './config.js';
import { loadDemo } from './demo.js';
import { guarded } from './guarded.js';
import { makeApp } from './http/app.js';
import { Beats } from './live/feed.js';
import { Lines } from './live/lines.js';
import { serveSockets } from './live/socket.js';
import { openLog } from './log.js';
import { Metrics } from './metrics.js';
import { Peers } from './peers/peers.js';
import { openDatabase } from './storage/database.js';
import { developerKey } from './storage/keys.js';
import { freeBytes, Space } from './storage/space.js';
import { Gatherings } from './tables/gatherings.js';
import { sweep } from './tables/keeping.js';
import { Rooms } from './tables/rooms.js';
import { Thinking } from './thinking/thinking.js';
import { TrialJobs } from './trials/jobs.js';

/** A service that runs. */
export interface Service {
  /** Where it listens. */
  readonly address: string;
  readonly developerKey: string;
  readonly log: Logger;
  /** Stops taking requests, finishes what is under way, and lets go of everything. */
  stop(): Promise<void>;
}

/** How often what is old is looked for, in milliseconds. */
const SWEEP = 60 * 60_000;

/**
 * How long a connection is kept that carries nothing, in milliseconds: longer than clients, and proxies before the service
 * (often a minute), keep theirs, so that none sends on one that is just being closed.
 */
const KEPT_ALIVE = 75_000;

/**
 * Starts the service: database, migrations, demo, web.
 * @param free how many bytes are free for the database: where the data folder lies, unless told otherwise
 */
export async function startService(config: Config, free = () => freeBytes(config.data)): Promise<Service> {
  const log = openLog(config.logLevel);
  const database = await openDatabase(config.database);
  const key = await developerKey(config.data);
  const metrics = new Metrics();
  const space = new Space(free, log);
  await space.look();
  const thinking = new Thinking();
  const peers = new Peers(database, log, metrics, space, thinking);
  const rooms = new Rooms(peers);
  await rooms.open();
  const gatherings = new Gatherings(rooms, peers);
  if (config.sheets !== null) await loadDemo(config.sheets, rooms, log);
  const sweeping = setInterval(
    guarded(log, 'deleting what is old', () => sweep(rooms, config.keepClosed)),
    SWEEP,
  );
  sweeping.unref();
  const trials = new TrialJobs(log);
  const beats = new Beats(log);
  const lines = new Lines(log);
  const guesses = new Guesses(config.guesses);
  const allowance = new Allowance(config.rate / 300);
  const app = makeApp({
    config,
    log,
    metrics,
    rooms,
    trials,
    beats,
    lines,
    database,
    guesses,
    space,
    gatherings,
    allowance,
  });
  const server = createServer(app);
  server.keepAliveTimeout = KEPT_ALIVE;
  const closeSockets = serveSockets(server, { config, rooms, log, metrics, beats, lines, guesses, allowance });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(config.port, config.host, resolve);
  });
  server.on('error', (error) => log.error({ error }, 'the listening port failed'));
  const { port } = server.address() as AddressInfo;
  return {
    address: `http://${config.host}:${port}`,
    developerKey: key,
    log,
    stop: async () => {
      closeSockets();
      beats.stop();
      lines.stop();
      space.stop();
      clearInterval(sweeping);
      gatherings.stop();
      const closed = new Promise<void>((resolve) => server.close(() => resolve()));
      server.closeIdleConnections();
      setTimeout(() => server.closeAllConnections(), 2_000).unref();
      await closed;
      await trials.close();
      await rooms.close();
      await thinking.close();
      await database.close();
    },
  };
}
