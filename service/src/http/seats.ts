import { type Request, Router } from 'express';
import { demandHost, demandSeat } from '../access/rights.js';
import { Problem } from '../problems.js';
import type { Rooms } from '../tables/rooms.js';
import { checked } from '../validate.js';
import { type Answerer, fromPath, handler, tableFrom, wholeNumber } from './answer.js';

/** Who holds which seat: taken, left, handed to a bot; new keys; the end of a table. */
export function seatRoutes(rooms: Rooms, answer: Answerer): Router {
  const routes = Router();
  /** The room and the seat (from 0) that a request is about, for somebody who may speak for the seat. */
  const seatOf = async (request: Request) => {
    const table = tableFrom(request);
    const named = wholeNumber(fromPath(request, 'seat'), 'seat') ?? 0;
    await demandSeat(request, table, named - 1);
    const room = await rooms.get(table);
    if (named < 1 || named > room.seats.count)
      throw new Problem('not-found', `There is no seat ${named}: this table has seats 1 to ${room.seats.count}.`);
    return { room, seat: named - 1 };
  };

  routes.post(
    '/:table/seats/:seat/take',
    handler(async (request, response) => {
      const { room, seat } = await seatOf(request);
      answer.send(response, 'tableSummary', await room.holding.set(seat, { held: 'person' }));
    }),
  );
  routes.post(
    '/:table/seats/:seat/leave',
    handler(async (request, response) => {
      const { room, seat } = await seatOf(request);
      answer.send(response, 'tableSummary', await room.holding.set(seat, { held: 'free' }));
    }),
  );
  routes.post(
    '/:table/seats/:seat/bot',
    handler(async (request, response) => {
      const { room, seat } = await seatOf(request);
      const { bot } = checked('botSeat', request.body ?? {});
      answer.send(
        response,
        'tableSummary',
        await room.holding.set(seat, { held: 'bot', bot: bot ?? room.holding.firstBot() }),
      );
    }),
  );
  routes.post(
    '/:table/keys',
    handler(async (request, response) => {
      const table = tableFrom(request);
      const by = await demandHost(request, table);
      const wish = checked('newKey', request.body);
      const room = await rooms.get(table);
      if (wish.role === 'watch') {
        answer.send(
          response,
          'madeKey',
          { role: 'watch', key: await room.holding.newKey(by, { role: 'watch', table }) },
          201,
        );
        return;
      }
      if (wish.seat === undefined || wish.seat > room.seats.count)
        throw new Problem('malformed', `Say which seat the key is for: "seat" from 1 to ${room.seats.count}.`);
      const key = await room.holding.newKey(by, { role: 'seat', table, seat: wish.seat - 1 });
      answer.send(response, 'madeKey', { role: 'seat', seat: wish.seat, key }, 201);
    }),
  );
  routes.delete(
    '/:table/keys/watch',
    handler(async (request, response) => {
      const table = tableFrom(request);
      const by = await demandHost(request, table);
      await (await rooms.get(table)).holding.endWatchKeys(by);
      response.status(204).end();
    }),
  );
  routes.post(
    '/:table/close',
    handler(async (request, response) => {
      const table = tableFrom(request);
      await demandHost(request, table);
      answer.send(response, 'tableSummary', await rooms.closeTable(table));
    }),
  );
  return routes;
}
