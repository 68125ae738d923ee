import { type Response, Router } from 'express';
import { demandTable } from '../access/rights.js';
import { type Around, Feed, type Sink } from '../live/feed.js';
import { fromQuery, handler, tableFrom, wholeNumber } from './answer.js';

/** Writes messages as server-sent events: `event` is the message's type, `id` the table's number. */
function sinkOf(response: Response): Sink {
  return {
    send: ({ type, number, text }, sent) => {
      const id = number === undefined ? '' : `id: ${number}\n`;
      response.write(`${id}event: ${type}\ndata: ${text}\n\n`, sent);
    },
    buffered: () => response.writableLength,
    end: (problem) => {
      if (problem) response.write(`event: problem\ndata: ${JSON.stringify({ type: 'problem', problem })}\n\n`);
      response.end();
    },
  };
}

/** The live feed for platforms without WebSocket: server-sent events, resumed by `Last-Event-ID` or `from`. */
export function feedRoutes(around: Around): Router {
  const routes = Router();
  routes.get(
    '/:table/feed',
    handler(async (request, response) => {
      const table = tableFrom(request);
      const right = await demandTable(request, table);
      const from = wholeNumber(request.get('last-event-id') ?? fromQuery(request, 'from'), 'from') ?? null;
      // The head goes out before the first event, and only once nothing can be refused any more.
      const sink = sinkOf(response);
      const waiting: Parameters<Sink['send']>[] = [];
      const feed = await Feed.open(
        around,
        { ...sink, send: (...given) => (response.headersSent ? sink.send(...given) : waiting.push(given)) },
        table,
        right,
        fromQuery(request, 'as'),
        from,
      );
      response.on('close', () => feed.close());
      // It may have gone while the table was loaded.
      if (response.destroyed) feed.close();
      response.writeHead(200, {
        'content-type': 'text/event-stream; charset=utf-8',
        'cache-control': 'no-store',
        'x-accel-buffering': 'no',
      });
      for (const given of waiting) sink.send(...given);
    }),
  );
  return routes;
}
