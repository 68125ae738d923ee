import type { IncomingMessage, Server } from 'node:http';
import type { Duplex } from 'node:stream';
import type { ClientMessage, ServerMessage } from '@wily-jester/protocol';
import type { Logger } from 'pino';
import { type RawData, WebSocket, WebSocketServer } from 'ws';
import type { Config } from '../config.js';
import { fromOwnPage, rightIn, viewerWord } from '../http/auth.js';
import type { Metrics } from '../metrics.js';
import { Problem } from '../problems.js';
import { type Right, rightOf } from '../storage/keys.js';
import { type Room, viewerOf } from '../tables/room.js';
import type { Rooms } from '../tables/rooms.js';
import { checkAnswer, checked } from '../validate.js';

const LARGEST_FRAME = 16_384;
/** How long a socket may stay silent before it says who it is, in milliseconds. */
const PATIENCE = 10_000;
const HEARTBEAT = 20_000;
/** A client that lets so many bytes pile up is let go, and comes back for a fresh view. */
const MOST_BUFFERED = 4 * 1024 * 1024;

interface Around {
  readonly config: Config;
  readonly rooms: Rooms;
  readonly log: Logger;
  readonly metrics: Metrics;
}

/** Serves the WebSocket of each table: `/api/tables/{table}/live`. */
export function serveSockets(server: Server, around: Around): () => void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: LARGEST_FRAME });
  server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
    const table = /^\/api\/tables\/([a-z0-9]{12})\/live$/.exec((request.url ?? '').split('?')[0] ?? '')?.[1];
    if (table === undefined || !fromOwnPage(request.headers)) {
      socket.end(`HTTP/1.1 ${table === undefined ? '404 Not Found' : '403 Forbidden'}\r\nConnection: close\r\n\r\n`);
      return;
    }
    sockets.handleUpgrade(request, socket, head, (ws) => new Connection(ws, request, table, around));
  });
  const beat = setInterval(() => {
    for (const ws of sockets.clients) {
      const { alive } = ws as WebSocket & { alive?: boolean };
      if (alive === false) ws.terminate();
      else {
        (ws as WebSocket & { alive?: boolean }).alive = false;
        ws.ping();
      }
    }
  }, HEARTBEAT);
  return () => {
    clearInterval(beat);
    for (const ws of sockets.clients) ws.close(1001, 'the service stops');
    sockets.close();
  };
}

/** One client at one table. */
class Connection {
  private room: Room | null = null;
  private right: Right | null = null;
  private leave: (() => void) | null = null;
  private readonly patience: NodeJS.Timeout;
  private work: Promise<void> = Promise.resolve();

  constructor(
    private readonly ws: WebSocket,
    private readonly request: IncomingMessage,
    private readonly table: string,
    private readonly around: Around,
  ) {
    around.metrics.sockets.inc();
    this.patience = setTimeout(
      () => this.end(new Problem('no-key', 'The first frame says who you are: {"type":"hello", …}.')),
      PATIENCE,
    );
    ws.on('pong', () => {
      (ws as WebSocket & { alive?: boolean }).alive = true;
    });
    ws.on('message', (data: RawData, binary: boolean) => {
      this.work = this.work.then(() => this.hear(data, binary));
    });
    ws.on('close', () => {
      clearTimeout(this.patience);
      this.leave?.();
      around.metrics.sockets.dec();
    });
    ws.on('error', () => ws.terminate());
  }

  private send(message: ServerMessage): void {
    if (this.ws.readyState !== WebSocket.OPEN) return;
    if (this.ws.bufferedAmount > MOST_BUFFERED) {
      this.ws.close(1013, 'too slow: come back for a fresh view');
      return;
    }
    if (this.around.config.checkAnswers) checkAnswer('serverMessage', message);
    this.ws.send(JSON.stringify(message));
  }

  private end(problem: Problem): void {
    this.send({ type: 'problem', problem: problem.toJSON() });
    this.ws.close(problem.status === 401 || problem.status === 403 ? 4003 : 4000, problem.message.slice(0, 100));
  }

  private async hear(data: RawData, binary: boolean): Promise<void> {
    let message: ClientMessage;
    try {
      if (binary) throw new Problem('malformed', 'Frames are JSON texts.');
      message = checked('clientMessage', parseJson(String(data)));
    } catch (error) {
      this.fail(error, undefined);
      return;
    }
    try {
      if (message.type === 'hello') await this.hello(message);
      else await this.choose(message);
    } catch (error) {
      if (message.type === 'hello') this.end(problemOf(error, this.around.log));
      else this.fail(error, message.choice?.once);
    }
  }

  private fail(error: unknown, once: string | undefined): void {
    this.send({
      type: 'problem',
      problem: problemOf(error, this.around.log).toJSON(),
      ...(once === undefined ? {} : { once }),
    });
  }

  private async hello(message: ClientMessage): Promise<void> {
    clearTimeout(this.patience);
    const right = message.key === undefined ? await rightIn(this.request.headers) : await rightOf(message.key);
    if (!right) throw new Problem('no-key', 'This key is unknown.');
    if (right.role !== 'developer' && right.table !== this.table)
      throw new Problem('not-allowed', 'This key belongs to another table.');
    const room = await this.around.rooms.get(this.table);
    const word = viewerWord(right, message.as);
    const viewer = viewerOf(word, room.holders.length);
    if (word === 'open') await room.audit('open hands');
    this.leave?.();
    this.room = room;
    this.right = right;
    this.leave = room.follow({ viewer, send: (out) => this.send(out) }, message.from ?? null);
  }

  private async choose(message: ClientMessage): Promise<void> {
    const { room, right } = this;
    const { choice } = message;
    if (!room || !right) throw new Problem('no-key', 'Say hello first.');
    if (!choice) throw new Problem('malformed', 'A "choose" frame needs its "choice".');
    if (right.role === 'watch') throw new Problem('not-allowed', 'A watch key chooses nothing.');
    const seat = right.role === 'seat' ? right.seat : (choice.seat ?? 0) - 1;
    if (right.role === 'seat' && choice.seat !== undefined && choice.seat !== right.seat + 1)
      throw new Problem('not-allowed', `This key plays seat ${right.seat + 1}, not seat ${choice.seat}.`);
    if (seat < 0 || seat >= room.holders.length)
      throw new Problem('malformed', 'With a developer key, say which seat: "seat".');
    const chosen = await room.choose(seat, choice);
    this.send({ type: 'chosen', once: choice.once, chosen, number: chosen.number });
  }
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Problem('malformed', 'This frame is not JSON.');
  }
}

function problemOf(error: unknown, log: Logger): Problem {
  if (error instanceof Problem) return error;
  log.error({ error }, 'a frame could not be answered');
  return new Problem('internal', 'Something went wrong here; it was noted.');
}
