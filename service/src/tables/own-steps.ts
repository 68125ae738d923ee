import { botNamed, type Played, type Table } from '@wily-jester/core';
import type { Seats } from './seats.js';

/** The table that goes on by itself. */
interface Going {
  isOpen(): boolean;
  /** Carries out a step, keeps it and tells of it. */
  attempt(carryOut: () => Played | null): Promise<unknown>;
}

/** What a table does by itself, each where it still fits: what a person did meanwhile comes first. */
export class OwnSteps {
  constructor(
    private readonly table: Table,
    private readonly seats: Seats,
    private readonly going: Going,
  ) {}

  private isAsked(seat: number): boolean {
    return this.going.isOpen() && this.table.asked.includes(seat);
  }

  /** What a seat's bot plays; where the first answer counts, one without a line that fits is silent. */
  async bot(seat: number): Promise<void> {
    const { table } = this;
    const bot = botNamed(table.game, this.seats.botOf(seat) ?? '');
    if (bot < 0 || !this.isAsked(seat)) return;
    await this.going.attempt(() => (table.isRace ? table.tryBot(seat, bot) : table.playBot(seat, bot)));
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
