/** Random and scripted players: the engine against loops written by hand, and against the plain walk. */
import {
  type Policy,
  type Program,
  quickChance,
  RandomPolicy,
  REGULARS,
  ScriptedPolicy,
  Simulator,
} from '@wily-jester/core';
import type { Played } from './by-hand/draws.js';
import { HoldemByHand } from './by-hand/holdem.js';
import { lanternAtRandom, lanternBySteady } from './by-hand/lantern-players.js';
import { ThornByHand } from './by-hand/thorn.js';
import { WeirByHand } from './by-hand/weir.js';
import { plainChoice } from './plain-walk.js';
import { sheet } from './rounds.js';
import { median, ratesInTurn } from './timing.js';

/** Most choices of one patience, which may go on for very long. */
const MOST_OF_WEIR = 400;
const MOST = 4_000;

export interface PlayerRate {
  readonly name: string;
  /** Choices a second of processor time. */
  readonly engine: number;
  readonly byHand: number | null;
  readonly plain: number | null;
  /** The engine's rate over that of the loop by hand, and over that of the plain walk. */
  readonly toHand: number | null;
  readonly toPlain: number | null;
}

/** Chooses as 0.10 did. */
const PLAIN: Policy = {
  name: 'plain',
  choose: (rules, state, seat, generator) => {
    const answer = plainChoice(rules as Simulator['game'], state, seat, generator);
    if (!answer) throw new Error('nothing is legal');
    return answer;
  },
};

interface Measured {
  readonly name: string;
  readonly seats: number;
  readonly policy?: (program: Program) => Policy;
  readonly most?: number;
  /** The same game by hand, with a generator of the same numbers. */
  readonly byHand?: () => (seed: number) => Played;
  /** What tells how a game of the engine came out, in the words of the one by hand. */
  readonly outcome?: (simulator: Simulator) => number[];
  /** Whether the plain walk is measured, too. */
  readonly plain?: boolean;
}

const variable = ({ game, state }: Simulator, name: string, seat = 0): number =>
  state.f[(game.layout.varBase[game.program.vars.findIndex((v) => v.name === name)] as number) + seat] as number;
const sizeOf = ({ game, state }: Simulator, path: string): number =>
  state.len[game.layout.piles.findIndex((p) => p.path === path)] as number;

const GAMES: readonly Measured[] = [
  {
    name: 'lantern-twenty-one',
    seats: 1,
    plain: true,
    byHand: () => (seed) => lanternAtRandom(quickChance(seed)),
    outcome: (simulator) => [variable(simulator, 'bank'), variable(simulator, 'houseWon')],
  },
  {
    name: 'long-pot',
    seats: 2,
    plain: true,
    byHand: () => {
      const game = new HoldemByHand();
      return (seed) => game.play(quickChance(seed));
    },
    outcome: (simulator) => [
      variable(simulator, 'chips', 0),
      variable(simulator, 'chips', 1),
      variable(simulator, 'button'),
    ],
  },
  {
    name: 'thorn-and-lady',
    seats: 4,
    plain: true,
    byHand: () => {
      const game = new ThornByHand();
      return (seed) => game.play(quickChance(seed));
    },
    outcome: (simulator) => simulator.scores(),
  },
  {
    name: 'weir-patience',
    seats: 1,
    plain: true,
    most: MOST_OF_WEIR,
    byHand: () => {
      const game = new WeirByHand();
      return (seed) => game.play(quickChance(seed), MOST_OF_WEIR);
    },
    outcome: (simulator) => [
      ...[1, 2, 3, 4].map((i) => sizeOf(simulator, `home/${i}`)),
      sizeOf(simulator, 'stock'),
      sizeOf(simulator, 'waste'),
      ...[1, 2, 3, 4, 5, 6, 7].map((i) => sizeOf(simulator, `column/${i}`)),
    ],
  },
  { name: 'reed-melds', seats: 4, plain: true },
  { name: 'quay-stairs', seats: 4, plain: true },
  { name: 'eights-aside', seats: 4, plain: true },
  { name: 'millpond-cells', seats: 1, plain: true, most: MOST_OF_WEIR },
];

/** Lantern Twenty-One with its own scripted bot. */
const STEADY: Measured = {
  name: "lantern-twenty-one, by its bot 'steady'",
  seats: 1,
  policy: (program) => new ScriptedPolicy({ program }, 'steady'),
  byHand: () => (seed) => lanternBySteady(quickChance(seed)),
  outcome: (simulator) => [variable(simulator, 'bank'), variable(simulator, 'houseWon')],
};

/** Insists that both play the same games: as many choices, and the same end. */
function holdAgainst(simulator: Simulator, byEngine: (seed: number) => number, { byHand, outcome }: Measured): void {
  const play = byHand?.();
  if (!play || !outcome) return;
  for (let seed = 0; seed < 300; seed++) {
    const engine = { choices: byEngine(seed), outcome: outcome(simulator) };
    const hand = play(seed);
    if (JSON.stringify(engine) !== JSON.stringify(hand))
      throw new Error(
        `${simulator.game.program.name}: the two differ for seed ${seed}: ${JSON.stringify({ engine, hand })}`,
      );
  }
}

function measured(game: Measured): PlayerRate {
  const program = sheet(game.name.split(',')[0] as string);
  const simulator = Simulator.of(program, { seats: REGULARS.slice(0, game.seats) });
  const policy = game.policy?.(program) ?? new RandomPolicy();
  const most = game.most ?? MOST;
  const playing = (by: Policy) => {
    const policies = new Array<Policy>(game.seats).fill(by);
    return (seed: number): number => simulator.open(seed).play({ policies, most }).choices;
  };
  const byEngine = playing(policy);
  holdAgainst(simulator, byEngine, game);
  const hand = game.byHand?.();
  const works = [
    byEngine,
    ...(hand ? [(seed: number): number => hand(seed).choices] : []),
    ...(game.plain ? [playing(PLAIN)] : []),
  ];
  const rates = ratesInTurn(works, 5, 0.4);
  const [engine = [], ...others] = rates;
  const of = (row: number[] | undefined): { rate: number; ratio: number } | null =>
    row ? { rate: median(row), ratio: median(row.map((rate, i) => (engine[i] as number) / rate)) } : null;
  const byHand = of(hand ? others[0] : undefined);
  const plain = of(game.plain ? others.at(-1) : undefined);
  return {
    name: game.name,
    engine: median(engine),
    byHand: byHand?.rate ?? null,
    plain: plain?.rate ?? null,
    toHand: byHand?.ratio ?? null,
    toPlain: plain?.ratio ?? null,
  };
}

/** Choices a second, found and carried out, of random players and of a scripted one. */
export const measurePlayers = (): PlayerRate[] => [...GAMES, STEADY].map(measured);
