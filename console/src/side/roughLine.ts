import type { LiveSocket } from '@wily-jester/client';
import { reactive } from 'vue';

/** A message on its way. */
export interface Moving {
  readonly key: number;
  readonly out: boolean;
  readonly words: string;
  readonly sentAt: number;
  readonly due: number;
}

/** What a line did so far. */
interface Tally {
  came: number;
  lost: number;
  doubled: number;
}

const SHORTEST_TRIP = 4;

/**
 * A line to the service that is as bad as one wishes: late, uneven, broken for a while, saying choices twice.
 * Messages stay in order, as they do on a real one.
 */
export class RoughLine {
  /** Added to each message's way, in milliseconds. */
  delay = 0;
  /** At most so much more, by chance, in milliseconds. */
  jitter = 0;
  /** The next choice is sent twice. */
  doubles = false;
  /** When a broken line works again; 0 while it is whole. */
  brokenUntil = 0;
  readonly moving: Moving[] = [];
  readonly tally: Tally = { came: 0, lost: 0, doubled: 0 };
  private timers = new Set<ReturnType<typeof setTimeout>>();
  private socket: WebSocket | null = null;
  private next = 0;
  private lastDue = { out: 0, in: 0 };

  private constructor(private readonly now: () => number) {}

  /** A line whose numbers a page can watch. */
  static make(now: () => number = () => performance.now()): RoughLine {
    return reactive(new RoughLine(now)) as RoughLine;
  }

  get isBroken(): boolean {
    return this.brokenUntil > this.now();
  }

  /** Breaks the line for so many seconds; what is on its way is lost. */
  breakFor(seconds: number): void {
    this.brokenUntil = this.now() + seconds * 1000;
    this.tally.lost += this.moving.length;
    this.moving.length = 0;
    for (const timer of this.timers) clearTimeout(timer);
    this.timers.clear();
    this.socket?.close();
    setTimeout(
      () => {
        if (!this.isBroken) this.brokenUntil = 0;
      },
      seconds * 1000 + 1,
    );
  }

  /** Makes the line whole and quick again. */
  clear(): void {
    Object.assign(this, { delay: 0, jitter: 0, doubles: false, brokenUntil: 0 });
  }

  /** Carries a message, and lets it arrive later. */
  private carry(out: boolean, words: string, arrive: () => void): void {
    const sentAt = this.now();
    const way = out ? 'out' : 'in';
    const due = Math.max(this.lastDue[way], sentAt + SHORTEST_TRIP + this.delay + Math.random() * this.jitter);
    this.lastDue[way] = due;
    const moving: Moving = { key: this.next++, out, words, sentAt, due };
    this.moving.push(moving);
    const timer = setTimeout(() => {
      this.timers.delete(timer);
      const at = this.moving.findIndex(({ key }) => key === moving.key);
      if (at >= 0) this.moving.splice(at, 1);
      if (!out) this.tally.came++;
      arrive();
    }, due - sentAt);
    this.timers.add(timer);
  }

  /** Makes the connection that a follower uses. */
  connect(address: string): LiveSocket {
    const line: LiveSocket = {
      readyState: WebSocket.CONNECTING,
      onopen: null,
      onmessage: null,
      onclose: null,
      onerror: null,
      send: () => undefined,
      close: () => undefined,
    };
    if (this.isBroken) {
      setTimeout(() => line.onclose?.({ code: 1006 }), SHORTEST_TRIP);
      return line;
    }
    const socket = new WebSocket(address);
    this.socket = socket;
    line.send = (data) => {
      const send = (): void =>
        this.carry(true, wordsOf(data), () => {
          if (socket.readyState === WebSocket.OPEN) socket.send(data);
        });
      send();
      if (!this.doubles || !data.includes('"choose"')) return;
      this.doubles = false;
      this.tally.doubled++;
      send();
    };
    line.close = () => socket.close();
    socket.onopen = () => {
      line.readyState = socket.readyState;
      line.onopen?.();
    };
    socket.onmessage = ({ data }: { data: unknown }) =>
      this.carry(false, wordsOf(String(data)), () => line.onmessage?.({ data }));
    socket.onclose = ({ code }) => {
      line.readyState = WebSocket.CLOSED;
      line.onclose?.({ code });
    };
    return line;
  }
}

/** What a message is called while it is on its way: its number, or its kind. */
function wordsOf(text: string): string {
  const { type, number } = JSON.parse(text) as { type: string; number?: number };
  return number === undefined ? type : String(number);
}
