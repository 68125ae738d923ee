import { botNamed, Fault, isPlayed, type Played, type Strength, strengthOf, type Table } from '@wily-jester/core';
import type { Found, SolvedAnswer, ThinkAnswer, Thinkable, Thinking } from '../thinking/thinking.js';
import { botWish, type Wish } from '../thinking/wish.js';
import type { Seats } from './seats.js';

/** The table that goes on by itself. */
interface Going {
  isOpen(): boolean;
  /** When the clock of the open ask runs down, in milliseconds since 1970; `null` where none runs. */
  clockEnd(): number | null;
  /** Carries out a step, keeps it and tells of it. */
  attempt(carryOut: () => Played | null): Promise<unknown>;
  /** Takes it on to think for the table for so long, in milliseconds; not where another process does. */
  claim(milliseconds: number): Promise<boolean>;
  /** Does something by itself after so many milliseconds, where nothing has happened by then. */
  again(milliseconds: number, work: () => Promise<unknown>): void;
  /** Does something after what is under way at the table. */
  later(work: () => Promise<unknown>): void;
  /** Takes note of something that did not work out. */
  failed(error: unknown): void;
}

/** Who thinks for the table's seats, and about what. */
export interface Mind {
  readonly thinking: Thinking;
  readonly table: Thinkable;
}

/** So much longer than it thinks a seat may keep others waiting, in milliseconds; then its sheet's own bot plays. */
const PATIENCE = 8_000;
/** So long is waited for a solution that is no longer at hand, in milliseconds: it is found again. */
const SOLVING = { milliseconds: 20_000, playouts: 1 };
/** After so long is looked again whether another process still thinks, in milliseconds. */
const LOOKED_AGAIN = 1_000;

/** Strengths whose choices are found in a thread beside the one that serves tables. */
type Elsewhere = Extract<Strength, { kind: 'thinking' | 'solved' }>;

/** What a table does by itself, each where it still fits: what a person did meanwhile comes first. */
export class OwnSteps {
  /** The ask about which each seat thinks. */
  private readonly underWay = new Map<number, number>();

  constructor(
    private readonly table: Table,
    private readonly seats: Seats,
    private readonly mind: Mind,
    private readonly going: Going,
  ) {}

  private isAsked(seat: number): boolean {
    return this.going.isOpen() && this.table.asked.includes(seat);
  }

  /** What a seat's bot plays; where the first answer counts, one that finds nothing is silent. */
  async bot(seat: number): Promise<void> {
    const name = this.seats.botOf(seat);
    if (name === null || !this.isAsked(seat)) return;
    const strength = strengthOf(name);
    if (strength.kind === 'solved') this.startThinking(seat, strength);
    else if (strength.kind !== 'thinking') await this.going.attempt(() => this.unthinking(seat, strength));
    else if (!(await this.atOnce(seat))) this.startThinking(seat, strength);
  }

  /** Where the first answer counts, thinking comes to what the sheet's own bot answers: nobody waits for that. Whether it had an answer. */
  private async atOnce(seat: number): Promise<boolean> {
    const { table } = this;
    if (!table.isRace || table.game.program.bots.length === 0) return false;
    let played: Played | null = null;
    await this.going.attempt(() => {
      try {
        played = table.tryBot(seat, 0);
      } catch (error) {
        // A line that makes a fault is no help: thinking may find something all the same.
        if (!(error instanceof Fault)) throw error;
      }
      return played;
    });
    return played !== null;
  }

  /** What is played without thinking. @throws Fault where nothing is found */
  private unthinking(seat: number, strength: Strength): Played | null {
    const { table } = this;
    const bot = strength.kind === 'scripted' ? botNamed(table.game, strength.name) : -1;
    if (bot < 0) return table.playAny(seat);
    return table.isRace ? table.tryBot(seat, bot) : table.playBot(seat, bot);
  }

  /** Thinks beside the table, which goes on meanwhile; the same question is not thought about twice at once, nor by two processes. */
  private startThinking(seat: number, strength: Elsewhere): void {
    const ask = this.table.openAsk;
    if (this.underWay.get(seat) === ask) return;
    this.underWay.set(seat, ask);
    const { thinking, table } = this.mind;
    const { milliseconds, playouts } = strength.kind === 'thinking' ? strength : SOLVING;
    const wish = botWish(milliseconds, playouts, this.going.clockEnd(), Date.now());
    const find = (): Promise<ThinkAnswer | SolvedAnswer> =>
      strength.kind === 'thinking' ? thinking.think(table, seat, wish) : thinking.solved(table, seat);
    this.going.claim(wish.milliseconds + PATIENCE).then(
      (isOurs) => (isOurs ? this.think(seat, wish, ask, find) : this.leave(seat, ask)),
      (error: unknown) => {
        this.going.failed(error);
        this.leave(seat, ask);
      },
    );
  }

  /** Another process thinks for this table: it is looked at again, in case that one is gone. */
  private leave(seat: number, ask: number): void {
    if (this.underWay.get(seat) === ask) this.underWay.delete(seat);
    if (this.table.openAsk === ask) this.going.again(LOOKED_AGAIN, () => this.bot(seat));
  }

  private think(seat: number, wish: Wish, ask: number, find: () => Promise<ThinkAnswer | SolvedAnswer>): void {
    const done = (answer: ThinkAnswer | SolvedAnswer | null): void => {
      this.going.later(() => this.thought(seat, ask, answer));
    };
    // Where others think for long, nobody waits for ever: what comes too late answers a question of the past.
    const late = setTimeout(() => done(null), wish.milliseconds + PATIENCE);
    late.unref();
    find()
      .finally(() => clearTimeout(late))
      .then(done, (error: unknown) => {
        this.going.failed(error);
        done(null);
      });
  }

  /** Plays what was thought, where it still fits; else what the sheet's own bot plays. Until then it is not thought about again. */
  private async thought(seat: number, ask: number, answer: ThinkAnswer | SolvedAnswer | null): Promise<void> {
    const { table } = this;
    try {
      if (table.openAsk !== ask || !this.isAsked(seat) || this.seats.botOf(seat) === null) return;
      await this.going.attempt(() => {
        const played = answer && 'choice' in answer ? this.chosen(seat, answer) : null;
        if (played) return played;
        const [first] = table.game.program.bots;
        return this.unthinking(seat, first ? { kind: 'scripted', name: first.name } : { kind: 'random' });
      });
    } finally {
      if (this.underWay.get(seat) === ask) this.underWay.delete(seat);
    }
  }

  private chosen(seat: number, { ask, choice }: Pick<Found, 'ask' | 'choice'>): Played | null {
    const result = this.table.choose(seat, { ask, option: choice.option, args: choice.args }, 'bot');
    return isPlayed(result) ? result : null;
  }

  async clock(seat: number, ask: number): Promise<void> {
    if (this.table.openAsk !== ask || !this.isAsked(seat)) return;
    await this.going.attempt(() => this.table.playClock(seat));
  }

  /** The time of an ask is up whose first answer counts; a seat that steps aside leaves it open for the others. */
  async time(ask: number): Promise<void> {
    const { table, going } = this;
    while (going.isOpen() && table.isRace && table.openAsk === ask) await going.attempt(() => table.endRace());
  }

  async resume(ask: number): Promise<void> {
    if (!this.going.isOpen() || !this.table.isPaused || this.table.openAsk !== ask) return;
    await this.going.attempt(() => this.table.resume());
  }
}
