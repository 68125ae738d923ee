import { Router } from 'express';
import { demandDeveloper, demandDraft, demandRight } from '../access/rights.js';
import {
  addDraft,
  deleteDraft,
  keepDraft,
  listDrafts,
  listEditions,
  numberOf,
  shelve,
  showDraft,
  showEdition,
} from '../drafts/drafts.js';
import type { Lines } from '../live/lines.js';
import { endLookKeys, makeKey } from '../storage/keys.js';
import type { Space } from '../storage/space.js';
import type { Rooms } from '../tables/rooms.js';
import { checked } from '../validate.js';
import { type Answerer, fromPath, handler, wholeNumber } from './answer.js';
import { EventStream } from './event-stream.js';

/** A draft that is followed is looked at so often, in milliseconds. */
const LOOKED_EVERY = 400;

/** Drafts of the workshop: list, begin, read, keep, look back, share, put on the shelf. */
export function draftRoutes(rooms: Rooms, lines: Lines, answer: Answerer, space: Space): Router {
  const routes = Router();
  routes.get(
    '/:draft',
    handler(async (request, response) => {
      const id = fromPath(request, 'draft');
      await demandDraft(request, id);
      answer.send(response, 'draft', await showDraft(id));
    }),
  );
  // All that follows is a developer's.
  routes.use((request, _response, next) => {
    demandDeveloper(request).then(() => next(), next);
  });
  routes.get(
    '/',
    handler(async (_request, response) => answer.send(response, 'draftList', { drafts: await listDrafts() })),
  );
  routes.post(
    '/',
    handler(async (request, response) => {
      space.demandForMore();
      answer.send(response, 'draft', await addDraft(checked('newDraft', request.body)), 201);
    }),
  );
  routes.put(
    '/:draft',
    handler(async (request, response) => {
      space.demandForMore();
      answer.send(
        response,
        'draftSummary',
        await keepDraft(fromPath(request, 'draft'), checked('keepDraft', request.body)),
      );
    }),
  );
  routes.delete(
    '/:draft',
    handler(async (request, response) => {
      await deleteDraft(fromPath(request, 'draft'));
      response.status(204).end();
    }),
  );
  routes.get(
    '/:draft/editions',
    handler(async (request, response) =>
      answer.send(response, 'editionList', { editions: await listEditions(fromPath(request, 'draft')) }),
    ),
  );
  routes.get(
    '/:draft/editions/:number',
    handler(async (request, response) => {
      const number = wholeNumber(fromPath(request, 'number'), 'number') ?? 0;
      answer.send(response, 'edition', await showEdition(fromPath(request, 'draft'), number));
    }),
  );
  routes.post(
    '/:draft/shelf',
    handler(async (request, response) => {
      space.demandForMore();
      const wish = checked('shelfWish', request.body);
      const developer = await demandDeveloper(request);
      answer.send(response, 'shelved', await shelve(developer, fromPath(request, 'draft'), wish));
    }),
  );
  routes.post(
    '/:draft/keys',
    handler(async (request, response) => {
      const draft = fromPath(request, 'draft');
      await showDraft(draft);
      answer.send(response, 'madeKey', { role: 'look', key: await makeKey({ role: 'look', draft }) }, 201);
    }),
  );
  routes.delete(
    '/:draft/keys',
    handler(async (request, response) => {
      const draft = fromPath(request, 'draft');
      await showDraft(draft);
      await endLookKeys(draft);
      await rooms.sayEnded({ draft });
      response.status(204).end();
    }),
  );
  routes.get(
    '/:draft/events',
    handler(async (request, response) => {
      const id = fromPath(request, 'draft');
      const right = await demandRight(request);
      await showDraft(id);
      const stream = EventStream.open(lines, request, response, right);
      stream.begin();
      let last = -1;
      let timer: NodeJS.Timeout | undefined;
      const look = async (): Promise<void> => {
        if (stream.isClosed) return;
        const now = await numberOf(id).catch(() => undefined);
        if (now === null) return stream.end();
        if (now && now.number !== last && stream.buffered === 0) {
          last = now.number;
          stream.send('kept', JSON.stringify(now));
        }
        timer = setTimeout(look, LOOKED_EVERY);
      };
      stream.closed(() => clearTimeout(timer));
      await look();
    }),
  );
  return routes;
}
