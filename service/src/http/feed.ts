import { Router } from 'express';
import { demandTable } from '../access/rights.js';
import { type Around, Feed, type Sink } from '../live/feed.js';
import { fromQuery, handler, tableFrom, wholeNumber } from './answer.js';
import { EventStream } from './event-stream.js';

/** Writes messages as server-sent events: `event` is the message's type, `id` the table's number. */
const sinkOf = (stream: EventStream): Sink => ({
  send: ({ type, number, text }, sent) => stream.send(type, text, { id: number, sent }),
  buffered: () => stream.buffered,
  end: (problem) => stream.end(problem),
});

/** The live feed for platforms without WebSocket: server-sent events, resumed by `Last-Event-ID` or `from`. */
export function feedRoutes(around: Around): Router {
  const routes = Router();
  routes.get(
    '/:table/feed',
    handler(async (request, response) => {
      const table = tableFrom(request);
      const right = await demandTable(request, table);
      const from = wholeNumber(request.get('last-event-id') ?? fromQuery(request, 'from'), 'from') ?? null;
      const stream = EventStream.open(around.lines, request, response, right);
      const feed = await Feed.open(around, sinkOf(stream), table, right, fromQuery(request, 'as'), from);
      // It may have gone while the table was loaded.
      stream.closed(() => feed.close());
      stream.begin();
    }),
  );
  return routes;
}
