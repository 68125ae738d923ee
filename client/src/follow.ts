import type {
  Choice,
  Chosen,
  ServerMessage,
  SpokenLine,
  Step,
  StepEvent,
  TableSummary,
  TableView,
} from '@wily-jester/protocol';
import jsonPatch, { type Operation } from 'fast-json-patch';
import { type ClientOptions, ServiceError, Unreachable, type Viewer } from './options.js';

/** What a follower is told. */
export interface FollowOptions {
  /** Developer keys: as whom to look. */
  readonly as?: Viewer | undefined;
  /** A view, the steps that led to it since the last one, and whether it came whole. */
  readonly onView?: (view: TableView, steps: readonly Step[], fresh: boolean) => void;
  readonly onClock?: (clock: ServerMessage['clock']) => void;
  readonly onStatus?: (table: TableSummary) => void;
  readonly onConnection?: (state: 'open' | 'lost') => void;
  /** Makes the line, where it is to be another one than a plain WebSocket. */
  readonly connect?: ((address: string) => LiveSocket) | undefined;
  /** What ends following for good: an unknown key, another table's key. */
  readonly onProblem?: (error: ServiceError) => void;
}

/** A line to a table: the part of a WebSocket that both Node's and the browser's have. */
export interface LiveSocket {
  send(data: string): void;
  close(): void;
  readyState: number;
  onopen: (() => void) | null;
  onmessage: ((event: { data: unknown }) => void) | null;
  onclose: ((event: { code: number }) => void) | null;
  onerror: (() => void) | null;
}
const OPEN = 1;
const REFUSED = 4003;
/** A lost line is tried anew after so long at first, and after twice as long each time, in milliseconds. */
const SHORTEST_WAIT = 150;
const LONGEST_WAIT = 4_000;
/** The service says something every twenty seconds; a line that is silent so long is dead, in milliseconds. */
const LONGEST_SILENCE = 45_000;

async function socketTo(address: string): Promise<LiveSocket> {
  const native = (globalThis as { WebSocket?: new (address: string) => LiveSocket }).WebSocket;
  if (native) return new native(address);
  const { WebSocket } = await import('ws');
  return new WebSocket(address) as unknown as LiveSocket;
}

/** Follows one table over its WebSocket; comes back by itself, from the number where it was. */
export class Follow {
  /** The table as it is now seen. */
  view: TableView | null = null;
  private socket: LiveSocket | null = null;
  /** The service was told who is here: choices may follow. */
  private greeted = false;
  private ended = false;
  /** Which line is meant, of those that were made one after the other. */
  private turn = 0;
  private wait = SHORTEST_WAIT;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private silence: ReturnType<typeof setTimeout> | undefined;
  private readonly pending = new Map<
    string,
    {
      readonly choice: Choice;
      readonly answer: Promise<Chosen>;
      done(chosen: Chosen): void;
      failed(error: Error): void;
    }
  >();

  constructor(
    private readonly client: ClientOptions,
    private readonly table: string,
    private readonly options: FollowOptions,
  ) {
    void this.connect();
  }

  private async connect(): Promise<void> {
    const turn = ++this.turn;
    const base = this.client.address || (globalThis as { location?: { origin: string } }).location?.origin || '';
    try {
      const address = `${base.replace(/^http/, 'ws')}/api/tables/${this.table}/live`;
      const socket = this.options.connect?.(address) ?? (await socketTo(address));
      // Closing a line before it is open is an error to it, which nobody minds.
      socket.onerror = () => undefined;
      if (this.ended || turn !== this.turn) {
        socket.close();
        return;
      }
      this.socket = socket;
      socket.onopen = () => this.hello(socket);
      socket.onmessage = (event) => {
        this.awake();
        this.hear(JSON.parse(String(event.data)) as ServerMessage);
      };
      socket.onclose = (event) => this.lost(event.code);
    } catch {
      this.lost(0);
    }
  }

  private hello(socket: LiveSocket): void {
    const { key } = this.client;
    const { as } = this.options;
    socket.send(
      JSON.stringify({
        type: 'hello',
        ...(key === undefined ? {} : { key }),
        ...(as === undefined ? {} : { as }),
        ...(this.view ? { from: this.view.number } : {}),
      }),
    );
    this.greeted = true;
    this.awake();
    // Choices without an answer go again under the same word: they count once.
    for (const { choice } of this.pending.values()) this.say(choice);
  }

  /** A line that says nothing for long is given up, and made anew. */
  private awake(): void {
    clearTimeout(this.silence);
    this.silence = setTimeout(() => this.socket?.close(), LONGEST_SILENCE);
  }

  private lost(code: number): void {
    clearTimeout(this.silence);
    this.socket = null;
    this.greeted = false;
    if (this.ended || code === REFUSED) {
      this.end(new Unreachable('The table is no longer followed.'));
      return;
    }
    this.options.onConnection?.('lost');
    // Clients that were lost together do not all come back together.
    this.timer = setTimeout(() => void this.connect(), this.wait * (0.5 + Math.random() / 2));
    this.wait = Math.min(LONGEST_WAIT, this.wait * 2);
  }

  private hear(message: ServerMessage): void {
    switch (message.type) {
      case 'view':
        if (!message.view) return;
        this.wait = SHORTEST_WAIT;
        this.view = message.view;
        this.options.onConnection?.('open');
        if (message.table) this.options.onStatus?.(message.table);
        this.options.onView?.(message.view, message.steps ?? [], true);
        this.options.onClock?.(message.clock ?? null);
        return;
      case 'step': {
        if (!this.view || message.number === undefined) return;
        // A patch makes a new document, so that what somebody still holds stays as it was.
        this.view = jsonPatch.applyPatch(
          this.view,
          [...(message.patch ?? [])] as Operation[],
          false,
          false,
        ).newDocument;
        const step: Step = {
          number: message.number,
          events: (message.events ?? []) as StepEvent[],
          lines: (message.lines ?? []) as SpokenLine[],
          scores: message.scores ?? [],
        };
        this.options.onView?.(this.view, [step], false);
        return;
      }
      case 'clock':
        this.options.onClock?.(message.clock ?? null);
        return;
      case 'status':
        if (message.table) this.options.onStatus?.(message.table);
        return;
      case 'chosen':
        if (message.once !== undefined && message.chosen) {
          this.pending.get(message.once)?.done(message.chosen);
          this.pending.delete(message.once);
        }
        return;
      case 'problem': {
        if (!message.problem) return;
        const error = new ServiceError(message.problem);
        if (message.once !== undefined) {
          this.pending.get(message.once)?.failed(error);
          this.pending.delete(message.once);
        } else this.options.onProblem?.(error);
      }
    }
  }

  /** Chooses. A connection that breaks meanwhile does no harm: the choice goes again, and counts once. */
  choose(choice: Choice): Promise<Chosen> {
    if (this.ended) return Promise.reject(new Unreachable('The table is no longer followed.'));
    // Another choice under a word that waits would be refused by the service; the same one waits with it.
    const before = this.pending.get(choice.once);
    if (before && JSON.stringify(before.choice) === JSON.stringify(choice)) {
      this.say(choice);
      return before.answer;
    }
    let done: (chosen: Chosen) => void = () => undefined;
    let failed: (error: Error) => void = () => undefined;
    const answer = new Promise<Chosen>((resolve, reject) => {
      done = resolve;
      failed = reject;
    });
    this.pending.set(choice.once, { choice, answer, done, failed });
    this.say(choice);
    return answer;
  }

  private say(choice: Choice): void {
    if (this.greeted && this.socket?.readyState === OPEN) this.socket.send(JSON.stringify({ type: 'choose', choice }));
  }

  /** Drops the connection without ending: it comes back by itself. */
  drop(): void {
    this.socket?.close();
  }

  /**
   * Makes a new line at once, whatever became of the old one: for whoever knows that the network is there again, or
   * that the device has slept.
   */
  renew(): void {
    if (this.ended) return;
    clearTimeout(this.timer);
    clearTimeout(this.silence);
    const { socket } = this;
    if (socket) {
      Object.assign(socket, { onopen: null, onmessage: null, onclose: null });
      socket.close();
    }
    this.socket = null;
    this.greeted = false;
    this.wait = SHORTEST_WAIT;
    void this.connect();
  }

  /** Ends following. */
  stop(): void {
    this.end(new Unreachable('The table is no longer followed.'));
  }

  private end(error: Error): void {
    this.ended = true;
    clearTimeout(this.timer);
    clearTimeout(this.silence);
    this.socket?.close();
    for (const { failed } of this.pending.values()) failed(error);
    this.pending.clear();
  }
}
