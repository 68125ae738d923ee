import type { Session } from '@wily-jester/protocol';
import { Router } from 'express';
import type { Sequelize } from 'sequelize';
import { COOKIE, demandDeveloper, keyIn, rightIn } from '../access/rights.js';
import { Problem } from '../problems.js';
import type { Right } from '../storage/keys.js';
import { endKey } from '../storage/keys.js';
import { makeLogin, SESSION, useLogin } from '../storage/logins.js';
import type { Rooms } from '../tables/rooms.js';
import { checked } from '../validate.js';
import { type Answerer, handler } from './answer.js';

const sessionOf = (right: Right | null): Session => ({
  role: right?.role ?? 'nobody',
  ...(right && 'table' in right ? { table: right.table } : {}),
  ...(right?.role === 'seat' ? { seat: right.seat + 1 } : {}),
  ...(right?.role === 'developer' ? { developer: right.developer } : {}),
});

/** Who a request is; and how a page becomes a developer's: with a word that somebody made who has the key. */
export function sessionRoutes(rooms: Rooms, database: Sequelize, answer: Answerer): Router {
  const routes = Router();
  routes.get(
    '/session',
    handler(async (request, response) => {
      answer.send(response, 'session', sessionOf(await rightIn(request.headers)));
    }),
  );
  routes.post(
    '/logins',
    handler(async (request, response) => {
      const developer = await demandDeveloper(request);
      const { word, until } = await makeLogin(developer, checked('loginWish', request.body ?? {}).for ?? 'ask');
      answer.send(response, 'login', { word, until: until.toISOString() }, 201);
    }),
  );
  routes.post(
    '/session',
    handler(async (request, response) => {
      const session = await useLogin(database, checked('comeIn', request.body).word);
      if (session === null)
        throw new Problem('no-key', 'This word is unknown, used up or too old. Make another one: ./wily open');
      response.cookie(COOKIE, session.key, {
        httpOnly: true,
        sameSite: 'strict',
        path: '/',
        maxAge: SESSION,
        secure: request.headers['x-forwarded-proto'] === 'https',
      });
      answer.send(response, 'session', sessionOf({ role: 'developer', developer: session.developer }), 201);
    }),
  );
  routes.delete(
    '/session',
    handler(async (request, response) => {
      const key = keyIn(request.headers);
      // A developer's own key is no session, and ends otherwise.
      if (key?.startsWith('session_')) {
        await endKey(key);
        await rooms.sayEnded({ session: key });
      }
      response.clearCookie(COOKIE, { path: '/' }).status(204).end();
    }),
  );
  return routes;
}
