import type { IncomingMessage, Server } from 'node:http';
import type { Duplex } from 'node:stream';
import { setTimeout as delay } from 'node:timers/promises';
import type { ClientMessage } from '@wily-jester/protocol';
import { type RawData, WebSocket, WebSocketServer } from 'ws';
import { LONGEST_WAIT } from '../access/allowance.js';
import { addressOf, countedAs } from '../access/callers.js';
import { fromOwnPage, keyIn, rightIn, seatFor } from '../access/rights.js';
import { Frame } from '../broadcast/frame.js';
import { cutTo } from '../bytes.js';
import { problemFrom } from '../failure.js';
import { guarded } from '../guarded.js';
import { Problem } from '../problems.js';
import { type Right, rightOf, wasKnown } from '../storage/keys.js';
import { checked } from '../validate.js';
import type { Crowd } from './crowd.js';
import { type Around, Feed, type Sink } from './feed.js';
import { asOrdinary } from './upgrade.js';

type Hello = Extract<ClientMessage, { type: 'hello' }>;
type Choose = Extract<ClientMessage, { type: 'choose' }>;

type Place = NonNullable<ReturnType<Crowd['enter']>>;

/** How often one line may say hello, and how many frames of it may wait for their answers. */
const MOST_HELLOS = 100;
const MOST_WAITING = 32;
const LARGEST_FRAME = 16_384;
/** How long a socket may stay silent before it says who it is, in milliseconds. */
const PATIENCE = 10_000;

/** Serves the WebSocket of each table: `/api/tables/{table}/live`. */
export function serveSockets(server: Server, around: Around): () => void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: LARGEST_FRAME });
  const { crowd } = around.lines;
  server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
    // From here on it is nobody's but ours: a line that is reset must end nothing but itself.
    socket.on('error', () => socket.destroy());
    if (request.headers.upgrade?.toLowerCase() !== 'websocket') {
      asOrdinary(server, request, socket, head);
      return;
    }
    const table = /^\/api\/tables\/([a-z0-9]{12})\/live$/.exec((request.url ?? '').split('?')[0] ?? '')?.[1];
    if (table === undefined || !fromOwnPage(request.headers)) {
      return refuse(socket, table === undefined ? '404 Not Found' : '403 Forbidden');
    }
    const address = countedAs(addressOf(request, around.config.proxies));
    const place = crowd.enter(address);
    if (!place) return refuse(socket, '429 Too Many Requests\r\nRetry-After: 10');
    socket.once('close', () => place.left());
    sockets.handleUpgrade(
      request,
      socket,
      head,
      (ws) => new Connection(ws, request, table, around, { address, place }),
    );
  });
  return () => {
    for (const ws of sockets.clients) ws.close(1001, 'the service stops');
    sockets.close();
  };
}

/** Answers an upgrade that is not granted, and closes the line whether or not the other end does. */
function refuse(socket: Duplex, answer: string): void {
  socket.once('finish', () => socket.destroy());
  socket.end(`HTTP/1.1 ${answer}\r\nConnection: close\r\n\r\n`);
}

/** One client at one table: its feed, and the choices that it sends. */
class Connection {
  private feed: Feed | null = null;
  private key: string | undefined;
  private readonly sink: Sink;
  private readonly patience: NodeJS.Timeout;
  private work: Promise<void> = Promise.resolve();

  constructor(
    private readonly ws: WebSocket,
    private readonly request: IncomingMessage,
    private readonly table: string,
    private readonly around: Around,
    private readonly from: { readonly address: string; readonly place: Place },
  ) {
    around.metrics.sockets.inc();
    this.sink = {
      send: ({ text }, sent) => this.write(text, sent),
      ask: () => this.ask(),
      buffered: () => ws.bufferedAmount,
      end: (problem) => (problem ? this.end(problem) : ws.close()),
    };
    const late = (): void => this.end(new Problem('no-key', 'The first frame says who you are: {"type":"hello", …}.'));
    this.patience = setTimeout(guarded(around.log, 'ending a silent socket', late), PATIENCE);
    ws.on('pong', () => {
      this.isThere = true;
    });
    ws.on('message', (data: RawData, binary: boolean) => this.inOrder(() => this.hear(data, binary)));
    ws.on('close', () => {
      clearTimeout(this.patience);
      this.stopLine?.();
      // A hello that is still being read ends with the connection too.
      this.inOrder(async () => this.feed?.close());
      around.metrics.sockets.dec();
    });
    ws.on('error', () => ws.terminate());
  }

  /** Frames are heard one after the other; one that fails here ends its own line. */
  private inOrder(work: () => Promise<void>): void {
    // Whoever sends more than can be answered is read no further for a while.
    if (++this.waiting === MOST_WAITING) this.ws.pause();
    this.work = this.work
      .then(work)
      .catch((error: unknown) => {
        this.around.log.error({ error }, 'a frame could not be answered');
        this.ws.terminate();
      })
      .then(() => {
        if (--this.waiting < MOST_WAITING) this.ws.resume();
      });
  }

  private stopLine: (() => void) | undefined;
  private isDeveloper = false;
  private hellos = 0;
  private waiting = 0;
  private isCorked = false;
  /** Frames that follow on each other, such as a step and its acknowledgement, go out together. */
  private together(): void {
    if (this.isCorked) return;
    const { socket } = this.request;
    this.isCorked = true;
    socket.cork();
    process.nextTick(() => {
      this.isCorked = false;
      socket.uncork();
    });
  }

  private write(text: string, sent?: () => void): void {
    if (this.ws.readyState !== WebSocket.OPEN) return;
    this.together();
    this.ws.send(text, sent);
  }

  private isThere = true;
  private ask(): void {
    if (!this.isThere) this.ws.terminate();
    if (this.ws.readyState !== WebSocket.OPEN) return;
    this.isThere = false;
    this.together();
    this.ws.ping();
  }

  private end(problem: Problem): void {
    this.write(JSON.stringify({ type: 'problem', problem }));
    this.ws.close(problem.status === 401 || problem.status === 403 ? 4003 : 4000, cutTo(problem.message, 123));
  }

  private async hear(data: RawData, binary: boolean): Promise<void> {
    await this.allowed();
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
      if (message.type === 'hello') this.end(problemFrom(error, this.around.log));
      else this.fail(error, message.choice.once);
    }
  }

  /** Waits until this line may be heard: a developer's at once. */
  private async allowed(): Promise<void> {
    if (this.isDeveloper) return;
    const who = this.key ?? keyIn(this.request.headers) ?? `address ${this.from.address}`;
    // What has to wait too long is not allowed yet: it asks again.
    for (let wait = this.around.allowance.take(who); wait > 0; wait = this.around.allowance.take(who)) {
      await delay(Math.min(wait, LONGEST_WAIT));
      if (wait <= LONGEST_WAIT) return;
    }
  }

  private fail(error: unknown, once: string | undefined): void {
    const problem = problemFrom(error, this.around.log);
    this.write(JSON.stringify({ type: 'problem', problem, ...(once === undefined ? {} : { once }) }));
  }

  /** What the client may do now: a key may have ended since it said hello. */
  private right(): Promise<Right | null> {
    return this.key === undefined ? rightIn(this.request.headers) : rightOf(this.key);
  }

  private async hello(message: Hello): Promise<void> {
    const { guesses } = this.around;
    const { address, place } = this.from;
    if (++this.hellos > MOST_HELLOS) throw new Problem('too-many', 'This line has said hello often enough.');
    if (guesses.isOver(address) && !wasKnown(message.key ?? keyIn(this.request.headers) ?? ''))
      throw new Problem('too-many', 'Too many unknown keys from this address: wait a minute.', { retryAfter: 60 });
    clearTimeout(this.patience);
    this.key = message.key;
    const right = await this.right();
    if (!right) {
      guesses.failed(address);
      throw new Problem('no-key', 'This key is unknown.');
    }
    this.isDeveloper = right.role === 'developer';
    if (!place.known(this.key ?? keyIn(this.request.headers) ?? ''))
      throw new Problem('too-many', 'This key has too many lines open.', { retryAfter: 10 });
    this.stopLine?.();
    const key = this.key ?? keyIn(this.request.headers) ?? '';
    this.stopLine = this.around.lines.add({ key, right, end: (problem) => this.end(problem) });
    this.feed?.close();
    this.feed = await Feed.open(this.around, this.sink, this.table, right, message.as, message.from ?? null);
  }

  private async choose({ choice }: Choose): Promise<void> {
    const room = this.feed?.room;
    if (!room) throw new Problem('no-key', 'Say hello first.');
    const right = await this.right();
    if (!right || right.role === 'look') throw new Problem('no-key', 'This key has ended.');
    const seat = seatFor(right, choice.seat, room.seats.count);
    if (right.role === 'seat') await room.holding.demandHeld(seat);
    const chosen = await room.choose(seat, choice);
    this.feed?.send(Frame.of({ type: 'chosen', once: choice.once, chosen, number: chosen.number }));
  }
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Problem('malformed', 'This frame is not JSON.');
  }
}
