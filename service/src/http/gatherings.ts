import { type Request, Router } from 'express';
import { demandDeveloper, demandHost, demandTable, seatFor } from '../access/rights.js';
import type { Gatherings } from '../tables/gatherings.js';
import { checked } from '../validate.js';
import { type Answerer, handler, tableFrom } from './answer.js';

/** Tables whose seats give chance before anything is dealt. */
export function gatheringRoutes(gatherings: Gatherings, answer: Answerer): Router {
  const routes = Router();
  const known = async (request: Request): Promise<string> => {
    await demandTable(request, tableFrom(request));
    return tableFrom(request);
  };
  routes.post(
    '/',
    handler(async (request, response) => {
      const developer = await demandDeveloper(request);
      answer.send(response, 'gathered', await gatherings.begin(developer, checked('gather', request.body)), 201);
    }),
  );
  routes.get(
    '/:table',
    handler(async (request, response) => {
      answer.send(response, 'gathering', await gatherings.at(await known(request)));
    }),
  );
  routes.post(
    '/:table/parts',
    handler(async (request, response) => {
      const right = await demandTable(request, tableFrom(request));
      const part = checked('seatPart', request.body);
      const { seats } = await gatherings.at(tableFrom(request));
      answer.send(
        response,
        'gathering',
        await gatherings.take(tableFrom(request), seatFor(right, part.seat, seats.length), part),
      );
    }),
  );
  routes.post(
    '/:table/deal',
    handler(async (request, response) => {
      await demandHost(request, tableFrom(request));
      answer.send(response, 'gathering', await gatherings.deal(tableFrom(request)));
    }),
  );
  return routes;
}
