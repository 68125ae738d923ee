import type { View } from '@wily-jester/core';
import type { ServerMessage } from '@wily-jester/protocol';
import type { SeatHolder } from './rows.js';

type Clock = NonNullable<ServerMessage['clock']>;

/** What a table does by itself when its time comes. */
interface Moves {
  bot(seat: number): void;
  clock(seat: number, ask: number): void;
  resume(ask: number): void;
  changed(): void;
}

/** Bots, pauses and turn clocks of one table: plain timers, set anew after every step. */
export class Pacing {
  private timers: NodeJS.Timeout[] = [];
  private running: { ask: number; seconds: number; until: number } | null = null;

  constructor(
    private readonly pace: number,
    private readonly clocks: boolean,
    private readonly holders: readonly SeatHolder[],
    private readonly moves: Moves,
  ) {}

  private after(milliseconds: number, work: () => void): void {
    this.timers.push(setTimeout(work, milliseconds));
  }

  /** Sets timers for where the table stands. A clock that runs for the same ask goes on. */
  wake(waiting: View['waiting'], asked: readonly number[]): void {
    const before = this.running;
    this.rest();
    if (waiting.kind === 'pause') this.after(waiting.seconds * 1000, () => this.moves.resume(waiting.ask));
    if (waiting.kind !== 'ask') {
      if (before) this.moves.changed();
      return;
    }
    const bot = asked.find((seat) => this.holders[seat]?.bot);
    if (bot !== undefined) this.after(this.pace, () => this.moves.bot(bot));
    const people = asked.filter((seat) => !this.holders[seat]?.bot);
    const { clock, ask } = waiting;
    if (clock && this.clocks && people.length > 0) {
      const until = before?.ask === ask ? before.until : Date.now() + clock.seconds * 1000;
      this.running = { ask, seconds: clock.seconds, until };
      this.after(Math.max(0, until - Date.now()), () => {
        for (const seat of people) this.moves.clock(seat, ask);
      });
    }
    if (this.running?.ask !== before?.ask || this.running === null) this.moves.changed();
  }

  /** Tries again later. */
  again(milliseconds: number, work: () => void): void {
    this.after(milliseconds, work);
  }

  /** The clock that runs, and what is left of it. */
  clock(): Clock | null {
    if (!this.running) return null;
    const { ask, seconds, until } = this.running;
    return { ask, seconds, left: Math.max(0, (until - Date.now()) / 1000) };
  }

  /** Stops all timers. */
  rest(): void {
    for (const timer of this.timers) clearTimeout(timer);
    this.timers = [];
    this.running = null;
  }
}
