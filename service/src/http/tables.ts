import { planOf } from '@wily-jester/core';
import { type Request, Router } from 'express';
import { demandDeveloper, demandTable, seatFor, viewerWord } from '../access/rights.js';
import { viewerOf } from '../access/viewers.js';
import { Problem } from '../problems.js';
import { programOf } from '../sheets/shelf.js';
import { lookOf, looksAt } from '../tables/looks.js';
import type { Rooms } from '../tables/rooms.js';
import { checked } from '../validate.js';
import { type Answerer, fromQuery, handler, tableFrom, wholeNumber } from './answer.js';
import { sendNdjson } from './ndjson.js';

/** How long is thought for a hint, in milliseconds, and at most. */
const USUAL_HINT = 1_000;
const LONGEST_HINT = 5_000;

/** Tables: open, list, look, choose, follow what happened, close. */
export function tableRoutes(rooms: Rooms, answer: Answerer): Router {
  const routes = Router();
  const roomOf = (request: Request) => rooms.get(tableFrom(request));

  routes.get(
    '/',
    handler(async (request, response) => {
      await demandDeveloper(request);
      const [status, after] = [fromQuery(request, 'status'), fromQuery(request, 'after')];
      const limit = wholeNumber(fromQuery(request, 'limit'), 'limit');
      answer.send(response, 'tableList', await rooms.list({ status, after, limit }));
    }),
  );
  routes.post(
    '/',
    handler(async (request, response) => {
      const developer = await demandDeveloper(request);
      const wish = checked('openTable', request.body);
      answer.send(response, 'opened', await rooms.openTable(developer, wish), 201);
    }),
  );
  routes.get(
    '/:table',
    handler(async (request, response) => {
      await demandTable(request, tableFrom(request));
      answer.send(response, 'tableSummary', await rooms.summary(tableFrom(request)));
    }),
  );
  routes.delete(
    '/:table',
    handler(async (request, response) => {
      await demandDeveloper(request);
      await rooms.delete(tableFrom(request));
      response.status(204).end();
    }),
  );
  routes.get(
    '/:table/looks',
    handler(async (request, response) => {
      await demandDeveloper(request);
      answer.send(response, 'looks', { looks: await looksAt(tableFrom(request)) });
    }),
  );
  routes.post(
    '/:table/retry',
    handler(async (request, response) => {
      await demandDeveloper(request);
      answer.send(response, 'tableSummary', await rooms.retry(tableFrom(request)));
    }),
  );
  routes.get(
    '/:table/plan',
    handler(async (request, response) => {
      await demandTable(request, tableFrom(request));
      const { sheet } = (await roomOf(request)).summary();
      answer.send(response, 'plan', planOf(await programOf(sheet)));
    }),
  );
  routes.get(
    '/:table/view',
    handler(async (request, response) => {
      const right = await demandTable(request, tableFrom(request));
      const room = await roomOf(request);
      const word = viewerWord(right, fromQuery(request, 'as'));
      await room.audit(right, lookOf(right, word, 'hands'));
      const viewer = viewerOf(word, room.seats.count);
      if (right.role === 'seat') room.holding.seen(right.seat);
      answer.send(response, 'view', await room.read(() => room.view(viewer)));
    }),
  );
  routes.get(
    '/:table/fairness',
    handler(async (request, response) => {
      const right = await demandTable(request, tableFrom(request));
      const room = await roomOf(request);
      const word = viewerWord(right, fromQuery(request, 'as'));
      if (word === 'open')
        throw new Problem('malformed', 'What may be checked is what one viewer was given: name a seat, or "watch".');
      await room.audit(right, lookOf(right, word, 'hands'));
      await sendNdjson(response, rooms.fairnesses.at(room.id, viewerOf(word, room.seats.count)));
    }),
  );
  routes.get(
    '/:table/choices',
    handler(async (request, response) => {
      const right = await demandTable(request, tableFrom(request));
      const room = await roomOf(request);
      const seat = seatFor(right, wholeNumber(fromQuery(request, 'seat'), 'seat'), room.seats.count);
      if (right.role === 'seat') room.holding.seen(right.seat);
      answer.send(response, 'offers', await room.read(() => room.offers(seat)));
    }),
  );
  routes.get(
    '/:table/hint',
    handler(async (request, response) => {
      const right = await demandTable(request, tableFrom(request));
      const room = await roomOf(request);
      const seat = seatFor(right, wholeNumber(fromQuery(request, 'seat'), 'seat'), room.seats.count);
      const time = wholeNumber(fromQuery(request, 'milliseconds'), 'milliseconds') ?? USUAL_HINT;
      if (time < 1 || time > LONGEST_HINT)
        throw new Problem('malformed', `"milliseconds" is from 1 to ${LONGEST_HINT}, not ${time}.`);
      answer.send(response, 'hint', await room.hint(right, seat, time));
    }),
  );
  routes.post(
    '/:table/choices',
    handler(async (request, response) => {
      const right = await demandTable(request, tableFrom(request));
      const room = await roomOf(request);
      const choice = checked('choice', request.body);
      const seat = seatFor(right, choice.seat, room.seats.count);
      if (right.role === 'seat') await room.holding.demandHeld(seat);
      answer.send(response, 'chosen', await room.choose(seat, choice));
    }),
  );
  routes.get(
    '/:table/events',
    handler(async (request, response) => {
      const right = await demandTable(request, tableFrom(request));
      const room = await roomOf(request);
      const word = viewerWord(right, fromQuery(request, 'as'));
      await room.audit(right, lookOf(right, word, 'events'));
      const from = wholeNumber(fromQuery(request, 'from'), 'from') ?? -1;
      const viewer = viewerOf(word, room.seats.count);
      const { to, more, kept } = await room.read(() => room.stepsAfter(from, viewer));
      const steps = kept ?? (await rooms.pasts.since(room.id, from, to, viewer));
      answer.send(response, 'steps', { steps, more });
    }),
  );
  return routes;
}
