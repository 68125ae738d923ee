import type { Tally } from '../program/types.js';
import { type Cell, Counts, type Quantity } from './counted.js';
import { type CountsJson, countsFrom, countsJson } from './counted-json.js';
import {
  type Difference,
  differenceOf,
  type Estimate,
  type Look,
  ratioOf,
  shareOf,
  sumsOf,
  widthOf,
} from './estimates.js';
import { talliesOf } from './game-counter.js';
import { BLOCK, type BlockResult, type TrialPlan } from './trial.js';

/** When a trial has seen enough: a figure is known to within so much, or two settings surely differ in it. */
export type Until =
  | { readonly tally: string; readonly within: number }
  | { readonly tally: string; readonly differs: true };

/** A wish that cannot be met, and why. */
export class UntilError extends Error {
  override readonly name = 'UntilError';
}

/** No trial ends by its figures before so many games. */
const LEAST_GAMES = 1_000;
/** How many points of the way there are kept at most. */
const MOST_POINTS = 240;
/** More blocks than this are not handed over together: whoever waits wants to see how far it is. */
const MOST_TOGETHER = 4;

/** How many blocks of a trial are best played and offered together: each costs something, and its way keeps no more points. */
export function blocksTogether({ games }: TrialPlan, until: Until | null): number {
  const blocks = Math.ceil(games / BLOCK);
  let together = 1;
  while (until === null && together < MOST_TOGETHER && blocks / together > MOST_POINTS) together *= 2;
  return together;
}

/** One thing that was counted: its cell, and what of it. */
export interface Figure {
  readonly cell: Cell;
  readonly quantity: Quantity;
}

/** A point on the way: the figure after so many games, with how far it may be off at any of the looks at it. */
export interface WayPoint {
  readonly games: number;
  readonly value: number;
  readonly half: number;
}

/** A trial that is kept, as plain data. */
export interface KeptTrial {
  readonly next: number;
  readonly played: number;
  readonly isEnough: boolean;
  readonly way: readonly WayPoint[];
  readonly every: number;
  readonly arms: readonly { readonly tallies: readonly CountsJson[]; readonly endless: number }[];
}

/** What a trial has come to under one arm. */
export interface ArmTotals {
  readonly tallies: readonly Tally[];
  readonly counts: readonly Counts[];
  endless: number;
}

/**
 * Adds up the blocks of a trial, in their order whatever order they come in: what hangs on order, such as when to stop,
 * uses the longest run of blocks from the first, so that any number of workers give the same figures.
 */
export class TrialTotals {
  readonly arms: readonly ArmTotals[];
  private readonly early = new Map<number, BlockResult>();
  private next = 0;
  private played = 0;
  private isEnough = false;
  private way: WayPoint[] = [];
  private every: number;
  /** Where the figure that is followed stands. */
  readonly headline: { readonly tally: number; readonly name: string };

  /** @throws UntilError where there is no such tally, or it cannot be followed */
  constructor(
    private readonly plan: TrialPlan,
    readonly until: Until | null = null,
  ) {
    this.arms = plan.arms.map(({ program }) => {
      const tallies = talliesOf(program);
      return { tallies, counts: tallies.map(({ by }) => new Counts(by.length, tallies.length)), endless: 0 };
    });
    this.headline = this.followed();
    this.every = blocksTogether(plan, until);
    if (until && 'differs' in until && plan.arms.length < 2)
      throw new UntilError('"differs" holds two settings against each other: add --compare.');
  }

  private followed(): { tally: number; name: string } {
    const tallies = this.arms[0]?.tallies ?? [];
    const plain = tallies
      .map((tally, i) => ({ ...tally, i }))
      .filter(({ by, form }) => by.length === 0 && form !== 'category');
    const { until } = this;
    if (!until) {
      const own = plain.filter(({ at }) => at > 0);
      const told = own.find(({ form }) => form === 'ratio') ?? own.find(({ form }) => form === 'number') ?? own[0];
      return { tally: told?.i ?? 0, name: told?.name ?? 'score' };
    }
    if (until.tally === 'score') return { tally: 0, name: 'score' };
    const found = plain.find(({ name }) => name === until.tally);
    if (!found)
      throw new UntilError(
        `There is no figure "${until.tally}" that a trial could go by. There are ${['score', ...plain.map(({ name }) => name)].map((name) => `"${name}"`).join(', ')}.`,
      );
    return { tally: found.i, name: found.name };
  }

  /** Games whose figures are in. */
  get games(): number {
    return this.played;
  }
  /** Blocks whose figures are in: the first so many of the trial. */
  get blocks(): number {
    return this.next;
  }
  /** Whether the trial has what it was for. */
  get isDone(): boolean {
    return this.isEnough || this.played >= this.plan.games;
  }
  /** Whether it ended by its figures, before all games were played. */
  get hasStopped(): boolean {
    return this.isEnough;
  }
  /** How the followed figure went: its value, or with several arms how the second differs. */
  get points(): readonly WayPoint[] {
    return this.way;
  }

  /** Takes a block in; one that comes before its turn waits, and one behind the end is left out. */
  offer(block: BlockResult): void {
    this.early.set(block.block, block);
    for (;;) {
      const due = this.early.get(this.next);
      if (!due || this.isDone) break;
      this.early.delete(this.next);
      this.add(due);
    }
  }

  /** What is kept of a trial, so that it goes on from here; the same games come to the same then. */
  get kept(): KeptTrial {
    return {
      next: this.next,
      played: this.played,
      isEnough: this.isEnough,
      way: this.way,
      every: this.every,
      arms: this.arms.map(({ counts, endless }) => ({ tallies: counts.map(countsJson), endless })),
    };
  }

  /** Goes on from what was kept of a trial of the same plan. */
  goOn(kept: KeptTrial): this {
    this.next = kept.next;
    this.played = kept.played;
    this.isEnough = kept.isEnough;
    this.way = [...kept.way];
    this.every = kept.every;
    for (const [i, arm] of this.arms.entries()) {
      const from = kept.arms[i];
      arm.endless = from?.endless ?? 0;
      for (const [t, counts] of arm.counts.entries()) {
        const json = from?.tallies[t];
        if (json) counts.add(countsFrom(json, arm.tallies.length));
      }
    }
    return this;
  }

  private add(block: BlockResult): void {
    for (const [i, { tallies, endless }] of block.arms.entries()) {
      const arm = this.arms[i];
      if (!arm) continue;
      arm.endless += endless;
      for (const [t, json] of tallies.entries()) arm.counts[t]?.add(countsFrom(json));
    }
    this.next = block.block + block.blocks;
    this.played += block.games;
    this.follow();
  }

  /** A figure of an arm: the only one of a tally, or that of its first cell. */
  figure(arm: number, tally: number): Figure | null {
    const cell = this.arms[arm]?.counts[tally]?.cells[0];
    const quantity = cell?.quantities.values().next().value;
    return cell && quantity ? { cell, quantity } : null;
  }

  /** What a figure comes to. */
  estimate(arm: number, tally: number, { cell, quantity }: Figure, look: Look): Estimate {
    const form = this.arms[arm]?.tallies[tally]?.form;
    const sums = sumsOf(cell, quantity);
    return form === 'share' || form === 'category' ? shareOf(sums, cell.games, look) : ratioOf(sums, cell.games, look);
  }

  /** How an arm differs from the first in a figure; `null` where one of them has it not. */
  difference(mine: Figure, first: Figure | null, look: Look): Difference | null {
    if (!first) return null;
    return differenceOf(
      sumsOf(first.cell, first.quantity),
      sumsOf(mine.cell, mine.quantity),
      [...mine.quantity.cross, mine.cell.cross],
      look,
    );
  }

  /** Where a tally of an arm stands under the first. */
  placeInFirst(arm: number, tally: number): number {
    const name = this.arms[arm]?.tallies[tally]?.name;
    return this.arms[0]?.tallies.findIndex((other) => other.name === name) ?? -1;
  }

  /** The followed figure, or how each other arm differs from the first in it. */
  private followedNow(look: Look): readonly Estimate[] {
    const { tally } = this.headline;
    const first = this.figure(0, tally);
    if (!first) return [];
    if (this.arms.length === 1) return [this.estimate(0, tally, first, look)];
    return this.arms.slice(1).flatMap((arm, i) => {
      const place = arm.tallies.findIndex(({ name }) => name === this.headline.name);
      const mine = this.figure(i + 1, place);
      const found = mine && this.difference(mine, first, look);
      return found ? [found] : [];
    });
  }

  private follow(): void {
    const { played: games, until, plan } = this;
    const often = { games, endedBefore: plan.games };
    if (this.next % this.every === 0 || this.isDone) {
      const [now] = this.followedNow(often);
      if (now?.interval) this.way.push({ games, value: now.value, half: (now.interval[1] - now.interval[0]) / 2 });
      if (this.way.length > MOST_POINTS) {
        this.way = this.way.filter((_, i) => i % 2 === 1);
        this.every *= 2;
      }
    }
    if (!until || games < LEAST_GAMES) return;
    if ('differs' in until) {
      const all = this.followedNow(often);
      this.isEnough = all.length > 0 && all.every(({ interval }) => interval && (interval[0] > 0 || interval[1] < 0));
      return;
    }
    const all = this.followedNow({ games });
    // A variance that happens to be small at first does not end a trial (Chow and Robbins 1965).
    const spare = (widthOf({ games }) / games) ** 2;
    this.isEnough =
      all.length > 0 &&
      all.every(({ interval, doubt }) => {
        if (!interval || doubt) return false;
        const half = (interval[1] - interval[0]) / 2;
        return Math.sqrt(half ** 2 + spare) <= until.within;
      });
  }

  /** How figures are looked at: the plain way when all games are in or the width was reached, else as one look of many. */
  get look(): Look {
    const { played: games, plan, until } = this;
    const isPlain = games >= plan.games || (this.isEnough && until !== null && 'within' in until);
    return isPlain ? { games } : { games, endedBefore: plan.games };
  }

  /** About how many games are needed for what is wanted; `null` where nobody can say yet. */
  get gamesNeeded(): number | null {
    const { until, played: games } = this;
    if (!until || 'differs' in until || games < 20 * BLOCK) return null;
    const all = this.followedNow({ games });
    const halves = all.map(({ interval }) => (interval ? (interval[1] - interval[0]) / 2 : Number.NaN));
    const widest = Math.max(...halves);
    return Number.isFinite(widest) ? Math.min(this.plan.games, Math.ceil(games * (widest / until.within) ** 2)) : null;
  }
}
