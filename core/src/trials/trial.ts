import { TrialChance, trialRoot } from '../chance/trial.js';
import { Fault } from '../machine/fault.js';
import { type Setup, SetupError } from '../machine/setup.js';
import { StrengthError, strengthOf, strengthWords } from '../opponents/strength.js';
import { ThinkingPolicy } from '../opponents/thinking-policy.js';
import { REGULARS } from '../program/names.js';
import type { Program } from '../program/types.js';
import { type Policy, RandomPolicy, ScriptedPolicy } from '../simulate/policy.js';
import { Simulator } from '../simulate/simulator.js';
import { PARTS } from './counted.js';
import { type CountsJson, countsJson } from './counted-json.js';
import { GameCounter, talliesOf } from './game-counter.js';

/** Games of a block: what a worker plays at a time. Game `i` belongs to block `⌊i / 250⌋`. */
export const BLOCK = 250;

/** One of the things that are held against each other: a sheet, its settings, and who plays. */
export interface TrialArm {
  /** What it is called beside the others. */
  readonly label: string;
  readonly program: Program;
  readonly settings: Setup['settings'];
  /** Who plays each seat, as {@link strengthOf} reads it. */
  readonly bots: readonly string[];
  /** Who sat there, where it is no trial; else they have the names that bots have. */
  readonly seats?: readonly string[];
}

/** What is tried: the same games under one or more arms. */
export interface TrialPlan {
  readonly arms: readonly TrialArm[];
  /** The same text gives the same games. */
  readonly seed: string;
  readonly games: number;
  /** Most choices and ends of pauses of one game. */
  readonly longest: number;
}

/** What one block of games came to, or several in a row, as plain data. */
export interface BlockResult {
  /** The first of them, and how many. */
  readonly block: number;
  readonly blocks: number;
  readonly games: number;
  readonly arms: readonly {
    readonly tallies: readonly CountsJson[];
    /** Games that were not over after the most choices. */
    readonly endless: number;
  }[];
}

/** A game of a trial that could not go on. */
export class TrialFault extends Error {
  override readonly name = 'TrialFault';
  constructor(
    readonly game: number,
    readonly arm: string,
    readonly fault: Fault,
  ) {
    super(`Game ${game + 1}${arm === '' ? '' : ` (${arm})`} stopped: ${fault.message}`);
  }
}

/** Who plays a seat of a trial. @throws SetupError where the sheet has no such bot, or its choices hang on the clock */
export function trialPolicy(program: Program, words: string): Policy {
  let strength: ReturnType<typeof strengthOf>;
  try {
    strength = strengthOf(words);
  } catch (error) {
    if (error instanceof StrengthError) throw new SetupError(error.message);
    throw error;
  }
  if (strength.kind === 'random') return new RandomPolicy();
  if (strength.kind === 'scripted') return new ScriptedPolicy({ program }, strength.name);
  if (strength.kind === 'solved')
    throw new SetupError(
      'A solution plays at tables and in matches: for trials there are bots of the sheet, random and thinking 100 playouts.',
    );
  const { milliseconds, playouts } = strength;
  if (milliseconds > 0)
    throw new SetupError(
      'A trial can be played again exactly, so thinking is counted there: write thinking 100 playouts.',
    );
  return new ThinkingPolicy(strengthWords(strength), () => ({ playouts }));
}

/** The bots that play where nothing is said: the sheet's first one, or chance. */
export const usualBot = (program: Program): string => program.bots[0]?.name ?? 'random';

/** One arm as it is played. */
interface Side {
  readonly arm: TrialArm;
  readonly simulator: Simulator;
  readonly counter: GameCounter;
  readonly policies: readonly Policy[];
  /** Where each of its tallies stands under the first arm. */
  readonly places: readonly number[];
  endless: number;
}

/** Plays blocks of a trial. Two players of one plan give the same blocks. */
export class TrialPlayer {
  private readonly sides: readonly Side[];
  private readonly chance: TrialChance;

  /** @throws SetupError where an arm does not fit its sheet */
  constructor(private readonly plan: TrialPlan) {
    this.chance = new TrialChance(trialRoot(plan.seed));
    const first = plan.arms[0]?.program;
    this.sides = plan.arms.map((arm): Side => {
      const { program, settings, bots } = arm;
      const counter = new GameCounter(program);
      const policies = bots.map((words) => trialPolicy(program, words));
      const simulator = Simulator.of(program, {
        seats: REGULARS.slice(0, bots.length),
        ...(settings ? { settings } : {}),
        counting: counter.hear,
        tracking: policies.some((policy) => policy.sitDown !== undefined),
      });
      counter.listenTo(simulator.game);
      const names = first ? talliesOf(first).map(({ name }) => name) : [];
      const places = talliesOf(program).map(({ name }) => names.indexOf(name));
      return { arm, simulator, counter, policies, places, endless: 0 };
    });
  }

  /** Plays a block, or so many in a row. @throws TrialFault where a game cannot go on */
  playBlock(block: number, blocks = 1): BlockResult {
    const from = block * BLOCK;
    const to = Math.min(this.plan.games, from + blocks * BLOCK);
    for (const side of this.sides) {
      side.counter.reset();
      side.endless = 0;
    }
    for (let game = from; game < to; game++) {
      if (game % BLOCK === 0) for (const { counter } of this.sides) counter.beginBlock((game / BLOCK) % PARTS);
      this.playGame(game);
    }
    return {
      block,
      blocks,
      games: to - from,
      arms: this.sides.map(({ counter, endless }) => ({ tallies: counter.counted.map(countsJson), endless })),
    };
  }

  private playGame(game: number): void {
    const [first] = this.sides;
    for (const side of this.sides) this.playSide(side, game);
    for (const side of this.sides) side.counter.fold(side === first ? null : (first?.counter ?? null), side.places);
    for (const { counter } of this.sides) counter.clear();
  }

  private playSide(side: Side, game: number): void {
    const { simulator, counter, policies, arm } = side;
    counter.begin();
    try {
      const { isOver } = simulator
        .open(this.chance.begin(game))
        .play({ policies, most: this.plan.longest, choosing: counter.choosing });
      if (isOver) counter.end(simulator.game, simulator.state);
      else side.endless++;
    } catch (error) {
      if (error instanceof Fault) throw new TrialFault(game, this.plan.arms.length > 1 ? arm.label : '', error);
      throw error;
    }
  }
}
