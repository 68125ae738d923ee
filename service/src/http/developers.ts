import { Router } from 'express';
import type { Sequelize } from 'sequelize';
import { demandDeveloper, demandFirst } from '../access/rights.js';
import { addDeveloper, endDeveloper, listDevelopers } from '../storage/developers.js';
import type { Rooms } from '../tables/rooms.js';
import { checked } from '../validate.js';
import { type Answerer, fromPath, handler } from './answer.js';

/** Those who develop on this service: list, add, end. */
export function developerRoutes(rooms: Rooms, database: Sequelize, answer: Answerer): Router {
  const routes = Router();
  routes.get(
    '/',
    handler(async (request, response) => {
      await demandDeveloper(request);
      answer.send(response, 'developerList', { developers: await listDevelopers() });
    }),
  );
  routes.post(
    '/',
    handler(async (request, response) => {
      await demandFirst(request);
      const { name } = checked('newDeveloper', request.body);
      answer.send(response, 'addedDeveloper', { name, key: await addDeveloper(name) }, 201);
    }),
  );
  routes.delete(
    '/:developer',
    handler(async (request, response) => {
      await demandFirst(request);
      const developer = fromPath(request, 'developer');
      await endDeveloper(database, developer);
      await rooms.sayEnded({ developer });
      response.status(204).end();
    }),
  );
  return routes;
}
