import type { Waiting } from '@wily-jester/core';
import type { ServerMessage } from '@wily-jester/protocol';
import type { Seats } from './seats.js';

type Clock = NonNullable<ServerMessage['clock']>;

/** What a table does by itself when its time comes. */
interface Moves {
  bot(seat: number): void;
  clock(seat: number, ask: number): void;
  /** The time of an ask is up whose first answer counts. */
  time(ask: number): void;
  resume(ask: number): void;
  changed(): void;
}

/** How much longer than its pace a bot takes at most where the first answer counts. */
const SLOWEST = 2;

/** Bots, pauses and turn clocks of one table: plain timers, reset after every step. */
export class Pacing {
  private timers: NodeJS.Timeout[] = [];
  private running: { ask: number; seconds: number; until: number } | null = null;

  /** When each bot answers in the race under way, drawn once, when it begins; `null` for one that did. */
  private race: { readonly ask: number; readonly due: Map<number, number | null> } | null = null;

  private isOver = false;

  constructor(
    private readonly pace: number,
    private readonly clocks: boolean,
    private readonly seats: Seats,
    private readonly moves: Moves,
  ) {}

  private after(milliseconds: number, work: () => void): void {
    if (this.isOver) return;
    this.timers.push(setTimeout(work, milliseconds));
  }

  /** Sets the timers for the current position. A clock that already runs for the same ask continues. */
  wake(waiting: Waiting, asked: readonly number[]): void {
    const before = this.running;
    this.rest();
    if (waiting.kind === 'pause') this.after(waiting.seconds * 1000, () => this.moves.resume(waiting.ask));
    if (waiting.kind === 'ask' && waiting.how === 'any') this.startRace(waiting, asked, before);
    else if (waiting.kind === 'ask') {
      const bot = asked.find((seat) => this.seats.botOf(seat) !== null);
      if (bot !== undefined) this.after(this.pace, () => this.moves.bot(bot));
      if (waiting.clock && this.clocks) this.windUp(waiting.ask, waiting.clock.seconds, asked, before);
    }
    if (this.running?.ask !== before?.ask) this.moves.changed();
  }

  /** The clock of an ask: those who are away are answered for at once, others when it has run down, those not yet seen never. */
  private windUp(ask: number, seconds: number, asked: readonly number[], before: typeof this.running): void {
    const people = asked.filter((seat) => this.seats.botOf(seat) === null);
    const away = people.filter((seat) => this.seats.isAway(seat));
    const [first] = away;
    if (first !== undefined) this.after(this.pace, () => this.moves.clock(first, ask));
    const there = people.filter((seat) => !away.includes(seat) && !this.seats.isUnseen(seat));
    if (there.length === 0) return;
    this.run(ask, seconds, before, () => {
      for (const seat of there) this.moves.clock(seat, ask);
    });
  }

  /** Sets a clock; one that runs for the same ask goes on. */
  private run(ask: number, seconds: number, before: typeof this.running, work: () => void): void {
    const until = before?.ask === ask ? before.until : Date.now() + seconds * 1000;
    this.running = { ask, seconds, until };
    this.after(Math.max(0, until - Date.now()), work);
  }

  /**
   * An ask whose first answer counts: each bot takes its time, by chance, and one clock runs for all. Who is away is
   * silent; the clock runs once somebody was seen who may answer.
   */
  private startRace(
    { ask, clock }: Extract<Waiting, { kind: 'ask' }>,
    asked: readonly number[],
    before: typeof this.running,
  ): void {
    if (this.race?.ask !== ask) this.race = { ask, due: new Map() };
    const { due } = this.race;
    for (const seat of asked) {
      if (this.seats.botOf(seat) === null) continue;
      if (!due.has(seat)) due.set(seat, Date.now() + this.pace * (1 + SLOWEST * Math.random()));
      const at = due.get(seat) ?? null;
      if (at === null) continue;
      this.after(Math.max(0, at - Date.now()), () => {
        due.set(seat, null);
        this.moves.bot(seat);
      });
    }
    const waits = asked.every((seat) => this.seats.botOf(seat) === null && this.seats.isUnseen(seat));
    if (clock && this.clocks && !waits) this.run(ask, clock.seconds, before, () => this.moves.time(ask));
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

  /** When the clock that runs is down, in milliseconds since 1970; `null` where none runs. */
  get clockEnd(): number | null {
    return this.running?.until ?? null;
  }

  /** Stops all timers for good: what is still under way wakes nobody any more. */
  end(): void {
    this.isOver = true;
    this.rest();
  }

  /** Stops all timers. */
  rest(): void {
    for (const timer of this.timers) clearTimeout(timer);
    this.timers = [];
    this.running = null;
  }
}
