import { below, type Generator } from '../chance/generator.js';
import type { Answer } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import { CHAPTERS } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import type { Game } from '../rules/game.js';
import type { Policy } from '../simulate/policy.js';
import type { Simulator } from '../simulate/simulator.js';
import { Running } from '../statistics/running.js';
import type { Budget } from './budget.js';
import { isShared, LONGEST, simulatorFor, standing } from './standing.js';
import type { Worlds } from './worlds.js';

/** A choice that was weighed. */
export interface Weighed {
  readonly answer: Answer;
  /** How much better than the others the seat stands at the end of the chapter, on average over the playouts. */
  readonly mean: number;
  /** The standard error of the mean. */
  readonly error: number;
  readonly playouts: number;
  /** What it gains over the choice that it is held against, and the standard error of that. */
  readonly gain: number;
  readonly gainError: number;
}

export interface SearchOptions {
  readonly seat: number;
  /** Who plays all seats in playouts. */
  readonly policy: Policy;
  /** The choice that is kept unless another one is clearly better: the first candidate. */
  readonly hasIncumbent: boolean;
  /** By so many standard errors another choice must be better than the incumbent. */
  readonly guard: number;
}

/**
 * Where a chapter is over within so many steps, and the game within so many, it is played to its end: what is kept for later
 * chapters counts there, too.
 */
const SHORT = 8;
const HORIZON = 64;
/** So many steps of a playout are played between two looks at the time. */
const STRETCH = 32;
/** At least so many playouts a choice, before any is dropped, and before one is held for better than the incumbent. */
const LEAST = 12;

/** What one candidate came to, world by world, and how much better than the incumbent in the same worlds. */
class Sums {
  readonly values = new Running();
  readonly gains = new Running();
  constructor(readonly answer: Answer) {}

  add(value: number, gain: number): void {
    this.values.add(value);
    this.gains.add(gain);
  }
  get count(): number {
    return this.values.count;
  }
  get mean(): number {
    return this.values.mean;
  }
  weighed(): Weighed {
    const { answer, values, gains } = this;
    return {
      answer,
      mean: values.mean,
      error: values.error,
      playouts: values.count,
      gain: gains.mean,
      gainError: gains.error,
    };
  }
}

/**
 * Sequential halving over the choices at hand (Karnin, Koren and Somekh 2013): all that are left play in the same
 * worlds with the same chance to the end of the chapter; after each round of equal work the worse half is dropped.
 * @returns the choices, best first; the first of them is what is to be played
 */
export class Search {
  private readonly simulator: Simulator;
  private readonly together: boolean;
  private readonly world: State;
  private readonly policies: readonly Policy[];
  private until: 'end' | 'chapter' = 'chapter';

  constructor(
    private readonly game: Game,
    state: State,
    private readonly options: SearchOptions,
  ) {
    // Before any playout: it is found by playing games with the same simulator.
    this.together = isShared(game);
    this.simulator = simulatorFor(game);
    this.world = state.copy();
    this.policies = game.rt.seats.map(() => options.policy);
  }

  run(candidates: readonly Answer[], worlds: Worlds, budget: Budget, generator: Generator): Weighed[] {
    let left = candidates.map((answer) => new Sums(answer));
    const [incumbent] = left;
    const all = [...left];
    const rounds = Math.max(1, Math.ceil(Math.log2(left.length)));
    const least = LEAST * left.length;
    let spent = 0;
    const isLate = (): boolean => budget.isLate?.() === true;
    this.until = this.horizon(worlds, generator, isLate);
    const isOver = (): boolean =>
      spent >= budget.playouts || isLate() || (spent >= least && budget.isOver?.() === true);
    for (let round = 0; round < rounds && !isOver(); round++) {
      const share = Math.max(LEAST, Math.floor((budget.playouts - spent) / (rounds - round) / left.length));
      for (let i = 0; i < share && !isOver(); i++) {
        worlds.draw(this.world, generator);
        worlds.withoutAnswers(this.world);
        spent += this.playAll(left, incumbent as Sums, below(generator, 0x7fff_ffff), isLate);
      }
      if (round === rounds - 1) break;
      const keep = Math.max(2, Math.ceil(left.length / 2));
      const ranked = [...left].sort((a, b) => b.mean - a.mean).slice(0, keep);
      // The incumbent is played on: all others are held against it.
      left =
        incumbent && this.options.hasIncumbent && !ranked.includes(incumbent)
          ? [incumbent, ...ranked.slice(0, -1)]
          : ranked;
    }
    return this.ranked(all, left);
  }

  /** How far playouts go: to the end of the game where that is near, else to that of the chapter. */
  private horizon(worlds: Worlds, generator: Generator, isLate: () => boolean): 'end' | 'chapter' {
    const { simulator, policies } = this;
    worlds.draw(this.world, generator);
    worlds.withoutAnswers(this.world);
    try {
      simulator.take(this.world, below(generator, 0x7fff_ffff));
      const { steps } = simulator.play({ policies, most: SHORT, until: 'chapter', order: 'any' });
      if (steps === SHORT) return 'chapter';
      for (let played = 0; played < HORIZON && !isLate(); played += STRETCH)
        if (simulator.play({ policies, most: STRETCH, order: 'any' }).isOver) return 'end';
      return 'chapter';
    } catch (error) {
      if (error instanceof Fault) return 'chapter';
      throw error;
    }
  }

  /** Plays each candidate on in the same world; gives how many playouts that took. A world that is left counts for none. */
  private playAll(left: readonly Sums[], incumbent: Sums, seed: number, isLate: () => boolean): number {
    const values: number[] = [];
    for (const { answer } of left) {
      const value = this.valueOf(answer, seed, isLate);
      if (value === null) return 0;
      values.push(value);
    }
    const base = values[left.indexOf(incumbent)] ?? Number.NaN;
    for (const [i, sums] of left.entries()) {
      const value = values[i] as number;
      if (Number.isFinite(value)) sums.add(value, Number.isFinite(base) ? value - base : 0);
    }
    return left.length;
  }

  /**
   * How the seat stands at the end of the chapter after a choice; not a number where the sheet makes a fault on the way,
   * `null` where the time is up for good before.
   */
  private valueOf(answer: Answer, seed: number, isLate: () => boolean): number | null {
    const { game, simulator, options } = this;
    const { seat } = options;
    try {
      simulator.take(this.world, seed);
      const before = standing(game, simulator.scores(), seat, this.together);
      simulator.game.advance(simulator.state, seat, answer);
      if (!this.playOn(isLate)) return null;
      return standing(game, simulator.scores(), seat, this.together) - before;
    } catch (error) {
      if (error instanceof Fault) return Number.NaN;
      throw error;
    }
  }

  /** Plays to the end of the chapter, or of the game; gives whether the time was enough. */
  private playOn(isLate: () => boolean): boolean {
    const { simulator } = this;
    const { f } = simulator.state;
    const chapter = f[CHAPTERS];
    for (let steps = 0; steps < LONGEST; steps += STRETCH) {
      const { isOver } = simulator.play({ policies: this.policies, until: this.until, most: STRETCH, order: 'any' });
      if (isOver || (this.until === 'chapter' && f[CHAPTERS] !== chapter)) return true;
      if (isLate()) return false;
    }
    return true;
  }

  private ranked(all: readonly Sums[], left: readonly Sums[]): Weighed[] {
    const { hasIncumbent, guard } = this.options;
    const [incumbent] = all;
    const stayed = new Set(left);
    const ranked = [...all].sort(
      (a, b) => Number(stayed.has(b)) - Number(stayed.has(a)) || b.mean - a.mean || b.count - a.count,
    );
    const best = ranked[0]?.weighed();
    // The error of a few playouts is itself too uncertain to go by.
    const isClear = best && best.playouts >= LEAST && best.gain > guard * best.gainError;
    if (hasIncumbent && incumbent && ranked[0] !== incumbent && !isClear)
      return [incumbent, ...ranked.filter((sums) => sums !== incumbent)].map((sums) => sums.weighed());
    return ranked.map((sums) => sums.weighed());
  }
}
