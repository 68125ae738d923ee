import { randomBytes } from 'node:crypto';
import { type Health, RELEASE } from '@wily-jester/protocol';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import type { Sequelize } from 'sequelize';
import type { Allowance } from '../access/allowance.js';
import type { Guesses } from '../access/callers.js';
import { demandRight, fromOwnPage } from '../access/rights.js';
import type { Config } from '../config.js';
import type { Beats } from '../live/feed.js';
import type { Lines } from '../live/lines.js';
import type { Metrics } from '../metrics.js';
import { Problem } from '../problems.js';
import type { Space } from '../storage/space.js';
import type { Gatherings } from '../tables/gatherings.js';
import type { Rooms } from '../tables/rooms.js';
import type { TrialJobs } from '../trials/jobs.js';
import { Answerer, handler } from './answer.js';
import { identify, limits, pace } from './callers.js';
import { developerRoutes } from './developers.js';
import { draftRoutes } from './drafts.js';
import { errorHandler } from './errors.js';
import { feedRoutes } from './feed.js';
import { gatheringRoutes } from './gatherings.js';
import { pageRoutes } from './pages.js';
import { pastRoutes, recordRoutes } from './past.js';
import { seatRoutes } from './seats.js';
import { sessionRoutes } from './session.js';
import { sheetRoutes } from './sheets.js';
import { tableRoutes } from './tables.js';
import { trialRoutes } from './trials.js';

interface Parts {
  readonly config: Config;
  readonly log: Logger;
  readonly metrics: Metrics;
  readonly rooms: Rooms;
  readonly trials: TrialJobs;
  readonly beats: Beats;
  readonly lines: Lines;
  readonly database: Sequelize;
  readonly guesses: Guesses;
  readonly space: Space;
  readonly gatherings: Gatherings;
  readonly allowance: Allowance;
}

/** Asks anew only after a while: whoever asks often is told what was found lately. */
function lately<T>(milliseconds: number, ask: () => Promise<T>): () => Promise<T> {
  let found: Promise<T> | undefined;
  let until = 0;
  return () => {
    if (!found || Date.now() > until) {
      found = ask();
      until = Date.now() + milliseconds;
    }
    return found;
  };
}

/** The service's web application. */
export function makeApp(parts: Parts): Express {
  const { config, log, metrics, rooms, database } = parts;
  const app = express();
  const answer = new Answerer(config);
  app.disable('x-powered-by');
  app.use((request, response, next) => {
    // A line that breaks is that line's: what waits for it learns it from its end.
    for (const half of [request, response]) half.on('error', (error) => log.debug({ error }, 'a line broke'));
    response.locals.nonce = randomBytes(16).toString('base64');
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'"],
          styleSrc: [
            "'self'",
            (_request, response) => `'nonce-${String((response as express.Response).locals.nonce)}'`,
          ],
          // Vue sets places and sizes as style attributes; they can load nothing.
          styleSrcAttr: ["'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          baseUri: ["'none'"],
          formAction: ["'none'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(
    pinoHttp({
      logger: log,
      autoLogging: { ignore: (request) => request.url === '/health' },
      serializers: {
        req: (request: { method: string; url: string }) => ({ method: request.method, url: request.url.split('?')[0] }),
        res: (response: { statusCode: number }) => ({ status: response.statusCode }),
      },
    }),
  );
  app.use((request, response, next) => {
    const end = metrics.requests.startTimer();
    response.on('finish', () => end({ method: request.method, status: response.statusCode }));
    next();
  });
  const isAlive = lately(1_000, () =>
    database.authenticate().then(
      () => true,
      () => false,
    ),
  );
  app.get(
    '/health',
    handler(async (_request, response) => {
      const alive = await isAlive();
      const health: Health = { status: alive ? 'ok' : 'down', database: alive ? 'ok' : 'down', version: RELEASE };
      answer.send(response, 'health', health, alive ? 200 : 503);
    }),
  );
  app.get(
    '/metrics',
    handler(async (_request, response) => {
      response.type(metrics.registry.contentType).send(await metrics.registry.metrics());
    }),
  );
  app.use('/api', (_request, response, next) => {
    // Views and keys are nobody else's.
    response.set('Cache-Control', 'no-store');
    next();
  });
  app.use('/api', identify(config, parts.guesses));
  app.use('/api', limits(config));
  app.use('/api', pace(parts.allowance));
  app.use('/api', (request, _response, next) => {
    if (request.method !== 'GET' && request.method !== 'HEAD' && !fromOwnPage(request.headers))
      throw new Problem('not-allowed', 'Requests from pages of other sites are not taken.');
    next();
  });
  app.use('/api', (request, _response, next) => {
    // No stranger's body is read, but for the word with which a page comes in.
    if (request.method === 'GET' || request.method === 'HEAD' || request.path === '/session') return next();
    demandRight(request).then(() => next(), next);
  });
  app.use('/api/records', express.json({ limit: '5mb' }));
  app.use('/api/drafts', express.json({ limit: '2mb' }));
  app.use('/api', express.json({ limit: '256kb' }));
  app.use('/api', sessionRoutes(rooms, database, answer));
  app.use('/api/sheets', sheetRoutes(answer, parts.space));
  app.use('/api/tables', tableRoutes(rooms, answer));
  app.use('/api/tables', seatRoutes(rooms, answer));
  app.use('/api/tables', pastRoutes(rooms, answer));
  app.use('/api/tables', feedRoutes(parts));
  app.use('/api/gatherings', gatheringRoutes(parts.gatherings, answer));
  app.use('/api/trials', trialRoutes(parts.trials, parts.lines, answer, parts.space));
  app.use('/api/developers', developerRoutes(rooms, database, answer));
  app.use('/api/drafts', draftRoutes(rooms, parts.lines, answer, parts.space));
  app.use('/api/records', recordRoutes(rooms, answer));
  app.use(pageRoutes(config));
  app.use((request) => {
    throw new Problem('not-found', `There is nothing at ${request.path}.`);
  });
  app.use(errorHandler(config, log));
  return app;
}
