import { Router } from 'express';
import { demandDeveloper, demandRight } from '../access/rights.js';
import type { Lines } from '../live/lines.js';
import type { Space } from '../storage/space.js';
import type { TrialJobs } from '../trials/jobs.js';
import { checked } from '../validate.js';
import { type Answerer, fromPath, handler } from './answer.js';
import { EventStream } from './event-stream.js';

/** A trial that is followed is looked at so often, in milliseconds. */
const LOOKED_EVERY = 500;

/** Trials: ask for one, list, show, follow, end, delete. */
export function trialRoutes(jobs: TrialJobs, lines: Lines, answer: Answerer, space: Space): Router {
  const routes = Router();
  routes.use((request, _response, next) => {
    demandDeveloper(request).then(() => next(), next);
  });
  routes.get(
    '/',
    handler(async (_request, response) => answer.send(response, 'trialList', { trials: await jobs.list() })),
  );
  routes.post(
    '/',
    handler(async (request, response) => {
      space.demandForMore();
      const developer = await demandDeveloper(request);
      answer.send(response, 'trialSummary', await jobs.open(developer, checked('newTrial', request.body)), 201);
    }),
  );
  routes.get(
    '/:trial',
    handler(async (request, response) => answer.send(response, 'trial', await jobs.show(fromPath(request, 'trial')))),
  );
  routes.post(
    '/:trial/stop',
    handler(async (request, response) => answer.send(response, 'trial', await jobs.stop(fromPath(request, 'trial')))),
  );
  routes.delete(
    '/:trial',
    handler(async (request, response) => {
      await jobs.delete(fromPath(request, 'trial'));
      response.status(204).end();
    }),
  );
  routes.get(
    '/:trial/events',
    handler(async (request, response) => {
      const id = fromPath(request, 'trial');
      const right = await demandRight(request);
      let last = await jobs.show(id);
      const stream = EventStream.open(lines, request, response, right);
      stream.begin();
      const isOver = (): boolean => last.trial.status !== 'waiting' && last.trial.status !== 'running';
      const tell = (): void => stream.send(isOver() ? 'over' : 'so-far', JSON.stringify(last));
      tell();
      const look = async (): Promise<void> => {
        if (stream.isClosed) return;
        if (isOver()) return stream.end();
        // Whoever reads slowly is told less often, and never of what is past.
        if (stream.buffered === 0) {
          const now = await jobs.show(id).catch(() => null);
          if (!now) return stream.end();
          const isNew = now.trial.played !== last.trial.played || now.trial.status !== last.trial.status;
          last = now;
          if (isNew) tell();
        }
        timer = setTimeout(look, LOOKED_EVERY);
      };
      let timer = setTimeout(look, LOOKED_EVERY);
      stream.closed(() => clearTimeout(timer));
    }),
  );
  return routes;
}
