import { type Request, Router } from 'express';
import { demandDeveloper, demandTable, holderOf, viewerWord } from '../access/rights.js';
import { viewerOf } from '../access/viewers.js';
import { Problem } from '../problems.js';
import { lookOf, noteLook } from '../tables/looks.js';
import type { Rooms } from '../tables/rooms.js';
import { checked } from '../validate.js';
import { type Answerer, fromPath, fromQuery, handler, tableFrom, wholeNumber } from './answer.js';
import { sendNdjson } from './ndjson.js';

/** How long a choice is thought about that is looked back at, in milliseconds. */
const USUAL_TIME = 500;
const LONGEST_TIME = 5_000;

/** Looking back at a table, going on from there as another one, and its record. */
export function pastRoutes(rooms: Rooms, answer: Answerer): Router {
  const routes = Router();
  const roomOf = (request: Request) => rooms.get(tableFrom(request));
  /** Who looks back, at which number of which table. @throws Problem where that is not for them yet */
  const lookedBackAt = async (request: Request) => {
    const right = await demandTable(request, tableFrom(request));
    const room = await roomOf(request);
    if (right.role !== 'developer' && !room.isDone)
      throw new Problem(
        'not-allowed',
        'While a table is open only a developer key looks back: what is not yet dealt could be seen.',
      );
    return { right, room, number: wholeNumber(fromPath(request, 'number'), 'number') ?? 0 };
  };

  routes.get(
    '/:table/past/:number',
    handler(async (request, response) => {
      const { right, room, number } = await lookedBackAt(request);
      const word = viewerWord(right, fromQuery(request, 'as'));
      await room.audit(right, right.role === 'developer' ? (lookOf(right, word, 'past') ?? 'past') : null);
      answer.send(response, 'past', await rooms.pasts.at(room.id, number, viewerOf(word, room.seats.count)));
    }),
  );
  routes.get(
    '/:table/analysis/:number',
    handler(async (request, response) => {
      const { right, room, number } = await lookedBackAt(request);
      const time = wholeNumber(fromQuery(request, 'milliseconds'), 'milliseconds') ?? USUAL_TIME;
      if (time < 1 || time > LONGEST_TIME)
        throw new Problem('malformed', `"milliseconds" is from 1 to ${LONGEST_TIME}, not ${time}.`);
      await room.audit(right, right.role === 'developer' ? `analysis of ${number}` : null);
      const asker = right.role === 'developer' ? right.developer : `${room.id} ${holderOf(right)}`;
      const demand = (seat: number): void => {
        if (right.role === 'developer' || (right.role === 'seat' && right.seat === seat)) return;
        throw new Problem(
          'not-allowed',
          'What a choice was worth is told to the seat that made it, and to developers.',
        );
      };
      answer.send(response, 'analysis', await rooms.analyses.of(room.id, number, time, asker, demand));
    }),
  );
  routes.post(
    '/:table/branch',
    handler(async (request, response) => {
      const developer = await demandDeveloper(request);
      const wish = checked('branch', request.body);
      const room = await roomOf(request);
      await room.audit({ role: 'developer', developer }, `branched at ${wish.number}`);
      answer.send(response, 'opened', await rooms.branch(developer, room.id, wish), 201);
    }),
  );
  routes.get(
    '/:table/record',
    handler(async (request, response) => {
      const right = await demandTable(request, tableFrom(request));
      const viewerIn = (seats: number): number | null =>
        right.role === 'developer' ? null : viewerOf(viewerWord(right, undefined), seats);
      if (right.role === 'developer') {
        const { id, number } = await rooms.summary(tableFrom(request));
        await noteLook(id, right.developer, 'whole record', number);
      }
      await sendNdjson(response, rooms.record(tableFrom(request), viewerIn));
    }),
  );
  return routes;
}

/** Records that come as files. */
export function recordRoutes(rooms: Rooms, answer: Answerer): Router {
  const routes = Router();
  routes.post(
    '/',
    handler(async (request, response) => {
      const developer = await demandDeveloper(request);
      answer.send(response, 'opened', await rooms.load(developer, checked('recordFile', request.body)), 201);
    }),
  );
  return routes;
}
