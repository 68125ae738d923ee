import { type Program, STRENGTHS, type Strength, StrengthError, strengthOf } from '@wily-jester/core';
import type { TableSummary } from '@wily-jester/protocol';
import type { Sequelize } from 'sequelize';
import { Problem } from '../problems.js';
import { endKeys, makeKey, type Right } from '../storage/keys.js';
import { TableRow } from '../storage/models.js';

/**
 * Who holds a seat: a person with its key, one of the sheet's bots, or nobody. A person is unseen until the key was used
 * for the first time: no clock runs for them yet.
 */
export type SeatHolder =
  | { readonly held: 'person'; readonly unseen?: true }
  | { readonly held: 'bot'; readonly bot: string }
  | { readonly held: 'free' };

/** So many turns may be missed in a row; then the clock answers at once, until the seat returns. */
const MOST_MISSED = 2;

/** The seats of one table: who holds them, who is connected, and who lets the clock play. */
export class Seats {
  /** How many connections of this process each seat has. */
  private readonly here: number[];
  private elsewhere: ReadonlySet<number> = new Set();
  private readonly missed: number[];

  constructor(public holders: readonly SeatHolder[]) {
    this.here = holders.map(() => 0);
    this.missed = holders.map(() => 0);
  }

  get count(): number {
    return this.holders.length;
  }
  /** The bot that plays a seat, or `null`. */
  botOf(seat: number): string | null {
    const holder = this.holders[seat];
    return holder?.held === 'bot' ? holder.bot : null;
  }
  isPresent(seat: number): boolean {
    return (this.here[seat] ?? 0) > 0 || this.elsewhere.has(seat);
  }
  /** Whether the clock answers for a seat at once. */
  isAway(seat: number): boolean {
    return this.holders[seat]?.held === 'free' || (this.missed[seat] ?? 0) >= MOST_MISSED;
  }

  /** Whether a seat's turn is waited for without a clock: whoever got its key has not come yet. */
  isUnseen(seat: number): boolean {
    const holder = this.holders[seat];
    return holder?.held === 'person' && holder.unseen === true;
  }
  /** A seat's key was used. Gives whether that was the first time. */
  seen(seat: number): boolean {
    if (!this.isUnseen(seat)) return false;
    this.holders = this.holders.map((holder, i) => (i === seat ? { held: 'person' } : holder));
    return true;
  }

  /** A connection of a seat came or went. Gives whether its presence in this process changed. */
  connected(seat: number, by: 1 | -1): boolean {
    const before = this.here[seat] ?? 0;
    this.here[seat] = before + by;
    return before === 0 || before + by === 0;
  }
  /** Sets which seats are connected to other processes. */
  setElsewhere(seats: ReadonlySet<number>): void {
    this.elsewhere = seats;
  }
  /** A seat's turn was answered, by its clock or not. */
  answered(seat: number, byClock: boolean): void {
    this.missed[seat] = byClock ? (this.missed[seat] ?? 0) + 1 : 0;
  }
  /** A seat shows that it is there. Gives whether it had missed too many turns. */
  returned(seat: number): boolean {
    const was = (this.missed[seat] ?? 0) >= MOST_MISSED;
    this.missed[seat] = 0;
    return was;
  }

  /** What everybody may know of them. */
  summary(names: readonly string[]): TableSummary['seats'] {
    return names.map((name, i) => ({
      seat: i + 1,
      name,
      bot: this.botOf(i),
      held: this.holders[i]?.held ?? 'free',
      present: this.isPresent(i),
      away: this.holders[i]?.held !== 'bot' && this.isAway(i),
    }));
  }
}

/** Thinking at a live table takes at most so long, in milliseconds. */
const LONGEST_THINKING = 10_000;

/**
 * Insists that a bot can be had: one of the sheet's own, or one that any sheet has, such as `thinking 2s`.
 * @throws Problem which names those that there are
 */
export function demandBot(program: Program, name: string): void {
  const names = program.bots.map((bot) => bot.name);
  if (names.includes(name)) return;
  const strength = strengthFrom(name);
  if (strength.kind === 'thinking' && strength.milliseconds <= LONGEST_THINKING) return;
  if (strength.kind === 'thinking')
    throw new Problem('setup', `At a live table thinking takes at most ${LONGEST_THINKING / 1000}s, not ${name}.`);
  if (strength.kind === 'random' || strength.kind === 'solved') return;
  throw new Problem('setup', `"${program.name}" has no bot "${name}". It has ${[...names, ...STRENGTHS].join(', ')}.`);
}

/** Whether a bot plays by a solution of the game: whether there is one is found by solving it. */
export const isSolved = (name: string): boolean => strengthFrom(name).kind === 'solved';

function strengthFrom(name: string): Strength {
  try {
    return strengthOf(name);
  } catch (error) {
    if (error instanceof StrengthError) throw new Problem('setup', error.message);
    throw error;
  }
}

/** Writes who holds a seat, and gives all holders as they are then; other processes may write at the same time. */
export function writeHolder(
  database: Sequelize,
  tableId: string,
  seat: number,
  holder: SeatHolder,
): Promise<SeatHolder[]> {
  return database.transaction(async (transaction) => {
    const row = await TableRow.findByPk(tableId, { transaction, lock: true, rejectOnEmpty: true });
    const holders = JSON.parse(row.holders) as SeatHolder[];
    holders[seat] = holder;
    await row.update({ holders: JSON.stringify(holders) }, { transaction });
    return holders;
  });
}

/** Makes a new key; a seat's old ones end with it. */
export function writeKey(database: Sequelize, right: Right): Promise<string> {
  return database.transaction(async (transaction) => {
    if (right.role === 'seat') await endKeys(right.table, right.seat, transaction);
    return makeKey(right, transaction);
  });
}
