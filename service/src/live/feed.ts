import type { Logger } from 'pino';
import type { Allowance } from '../access/allowance.js';
import type { Guesses } from '../access/callers.js';
import { viewerWord } from '../access/rights.js';
import { viewerOf } from '../access/viewers.js';
import type { Follower, Following } from '../broadcast/follower.js';
import { Frame } from '../broadcast/frame.js';
import type { Config } from '../config.js';
import { guarded } from '../guarded.js';
import type { Metrics } from '../metrics.js';
import { Problem } from '../problems.js';
import type { Right } from '../storage/keys.js';
import { lookOf } from '../tables/looks.js';
import type { Room } from '../tables/room.js';
import type { Rooms } from '../tables/rooms.js';
import { checkAnswer } from '../validate.js';
import type { Lines } from './lines.js';

/** Above this many unsent bytes a client gets no more steps; when they are sent it gets a fresh view. */
const MOST_BUFFERED = 256 * 1024;
/** Above this many unsent bytes a client is disconnected. */
const MOST_EVER = 8 * 1024 * 1024;
/** How often each client is sent a heartbeat, in milliseconds. */
const BEAT = 20_000;
/** Parts of that time, and of all feeds: one part of them has its turn in each. */
const PARTS = 100;

/** What a feed needs from the service around it. */
export interface Around {
  readonly config: Config;
  readonly rooms: Rooms;
  readonly log: Logger;
  readonly metrics: Metrics;
  readonly beats: Beats;
  readonly lines: Lines;
  readonly guesses: Guesses;
  readonly allowance: Allowance;
}

/** The line to one client, whatever it is made of. */
export interface Sink {
  /** Sends a message; calls back once it is on its way. */
  send(letter: Frame, sent: () => void): void;
  /** Asks the other end for a sign of life, where the line has a way to; ends a line that has given none since. */
  ask?(): void;
  /** Bytes that wait to be sent. */
  buffered(): number;
  /** Ends the line. */
  end(problem: Problem | null): void;
}

/** Says on every open feed, now and then, that its line is whole. One timer serves them all, a part of them at a time. */
export class Beats {
  private readonly parts = Array.from({ length: PARTS }, () => new Set<Feed>());
  private readonly timer: NodeJS.Timeout;
  private turn = 0;
  private next = 0;

  constructor(log: Logger) {
    const beat = guarded(log, 'a heartbeat', (feed: Feed) => feed.sayAlive());
    this.timer = setInterval(() => {
      for (const feed of this.parts[this.turn++ % PARTS] ?? []) beat(feed);
    }, BEAT / PARTS);
  }

  /** Adds a feed. Gives what removes it. */
  add(feed: Feed): () => void {
    const part = this.parts[this.next++ % PARTS];
    part?.add(feed);
    return () => part?.delete(feed);
  }

  stop(): void {
    clearInterval(this.timer);
  }
}

/** Sends one client the steps of one table, as its key may see them. */
export class Feed implements Follower {
  private following: Following | null = null;
  private isLate = false;
  private readonly stopBeats: () => void;
  private readonly afterSent: () => void;

  constructor(
    private readonly around: Around,
    private readonly sink: Sink,
    readonly room: Room,
    readonly viewer: number,
  ) {
    this.stopBeats = around.beats.add(this);
    this.afterSent = guarded(around.log, 'a client that caught up', () => this.sent());
  }

  /** Begins to tell a client of a table. @throws Problem where its key may not look so */
  static async open(
    around: Around,
    sink: Sink,
    table: string,
    right: Right,
    as: string | number | undefined,
    from: number | null,
  ): Promise<Feed> {
    if (right.role === 'look' || (right.role !== 'developer' && right.table !== table))
      throw new Problem('not-allowed', 'This key belongs to another table.');
    const room = await around.rooms.get(table);
    const word = viewerWord(right, as);
    const feed = new Feed(around, sink, room, viewerOf(word, room.seats.count));
    try {
      await room.audit(right, lookOf(right, word, 'hands'));
      feed.following = await room.read(() => room.follow(feed, from));
    } catch (error) {
      feed.close();
      throw error;
    }
    return feed;
  }

  isBehind(): boolean {
    this.isLate ||= this.sink.buffered() > MOST_BUFFERED;
    return this.isLate;
  }

  send(letter: Frame): void {
    if (this.around.config.checkAnswers) checkAnswer('serverMessage', letter.message);
    // It counts before it waits: a large one is not laid beside others that nobody takes.
    const waits = this.sink.buffered();
    if (waits > 0 && waits + letter.bytes > MOST_EVER) {
      this.sink.end(new Problem('unavailable', 'This client takes nothing any more: come back for a fresh view.'));
      return;
    }
    this.sink.send(letter, this.afterSent);
  }

  /** Says that the line is whole, though nothing happens, and asks whether it is. */
  sayAlive(): void {
    this.sink.ask?.();
    // Whoever could not be told of a step gets a whole view.
    if (!this.isLate) this.following?.catchUp();
    this.send(Frame.of({ type: 'beat', number: this.room.number }));
  }

  private sent(): void {
    if (!this.isLate || this.sink.buffered() > MOST_BUFFERED / 4) return;
    this.isLate = false;
    this.following?.catchUp();
  }

  letGo(): void {
    this.sink.end(new Problem('internal', 'What happens at this table cannot be told: come back for a fresh view.'));
  }

  close(): void {
    this.stopBeats();
    this.following?.leave();
    this.following = null;
  }
}
