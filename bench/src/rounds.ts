/** Rounds of Lantern Twenty-One a second: the engine against the game written by hand. */
import { readFileSync } from 'node:fs';
import { allows, type Chance, Game, type Generator, type Program, quickChance, type State } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { BET, HIT, LanternByHand, STAND } from './by-hand/lantern.js';

const DECKS = 6;
const ROUNDS = 1000;
const STAKE = 100_000;

/** The program of a bundled sheet. */
export function sheet(name: string): Program {
  const { program } = compileSheet(readFileSync(new URL(`../../sheets/${name}.motley`, import.meta.url), 'utf8'));
  if (!program) throw new Error(`${name} does not compile`);
  return program;
}
export const lantern = (): Program => sheet('lantern-twenty-one');

/** Chance whose shuffles cost next to nothing, to measure the rest: every stream is the same short row of numbers. */
export function cheapChance(seed: number): Chance {
  const numbers = Uint32Array.from({ length: 1024 }, (_, i) => Math.imul(i + seed, 0x9e3779b1) >>> 0);
  let at = 0;
  const generator: Generator = { next: () => numbers[at++ & 1023] as number };
  return { name: 'quick', stream: () => generator };
}

interface Outcome {
  readonly bank: number;
  readonly houseWon: number;
  readonly choices: number;
  readonly rounds: number;
}

/** The same simple player for both: bets ten, hits below seventeen (an ace counts one). */
const wants = (hard: number): number => (hard < 17 ? HIT : STAND);

function byHand(chance: Chance): Outcome {
  const game = new LanternByHand(chance, STAKE, ROUNDS, DECKS);
  let choices = 0;
  let rounds = 0;
  while (game.wait !== 'over') {
    if (game.wait === 'pause') {
      game.resume();
      rounds++;
      continue;
    }
    let option = BET;
    if (game.wait === 'turn') {
      const hand = game.piles[3] as Uint16Array;
      let hard = 0;
      for (let i = 0; i < (game.size[3] as number); i++) hard += Math.min(game.rank[hand[i] as number] as number, 10);
      option = wants(hard);
    }
    if (!game.answer(option, 10)) throw new Error('an illegal choice');
    choices++;
  }
  return { bank: game.bank, houseWon: game.houseWon, choices, rounds };
}

/** What the engine's states are called, looked up once. */
function addresses(game: Game): { hand: number; bank: number; houseWon: number } {
  const variable = (name: string): number =>
    game.layout.varBase[game.program.vars.findIndex((v) => v.name === name)] as number;
  return {
    hand: game.layout.piles.findIndex((p) => p.path === 'hand/1'),
    bank: variable('bank'),
    houseWon: variable('houseWon'),
  };
}

/**
 * One game brought to life once, for all runs.
 * @param quiet as a simulation runs it, which tells nobody what happens; otherwise as a service does
 */
function prepare(program: Program, quiet: boolean): (chance: Chance, copying: boolean) => Outcome {
  let current: Chance = quickChance(0);
  const chance: Chance = { name: 'quick', stream: (purpose, count) => current.stream(purpose, count) };
  const settings = { rounds: ROUNDS, stake: STAKE, decks: DECKS };
  const game = new Game(program, { seats: ['Wren'], settings, chance, quiet });
  return (now, copying) => {
    current = now;
    return byEngine(game, copying);
  };
}

function byEngine(game: Game, copying: boolean): Outcome {
  const { hand, bank, houseWon } = addresses(game);
  const { rank } = game.rt;
  const bet = { option: BET, args: [10] };
  const moves = [
    { option: HIT, args: [] },
    { option: STAND, args: [] },
  ];
  let state = game.open();
  let choices = 0;
  let rounds = 0;
  const next = (after: State): void => {
    if (after !== state) game.recycle(state);
    state = after;
  };
  while (true) {
    if (game.isPaused(state)) {
      next(copying ? game.resume(state) : game.advancePause(state));
      rounds++;
      continue;
    }
    if (game.isOver(state)) break;
    let answer = bet;
    if (game.isSingleAsk(state)) {
      const from = state.start[hand] as number;
      const to = from + (state.len[hand] as number);
      let hard = 0;
      for (let i = from; i < to; i++) hard += Math.min(rank[state.cards[i] as number] as number, 10);
      answer = moves[wants(hard)] as typeof bet;
    }
    if (!allows(game, state, 0, answer)) throw new Error('an illegal choice');
    next(copying ? game.answer(state, 0, answer) : game.advance(state, 0, answer));
    choices++;
  }
  return { bank: state.f[bank] as number, houseWon: state.f[houseWon] as number, choices, rounds };
}

export interface Rate {
  readonly name: string;
  readonly handWritten: number;
  readonly engine: number;
  readonly ratio: number;
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;

/** Measures both in turn, several times, and gives the median of the ratios. */
function compare(
  name: string,
  make: (seed: number) => Chance,
  engineRun: ReturnType<typeof prepare>,
  copying: boolean,
  times: number,
): Rate {
  const hand: number[] = [];
  const engine: number[] = [];
  const ratios: number[] = [];
  for (let i = 0; i < times; i++) {
    const start = performance.now();
    const a = byHand(make(i));
    const middle = performance.now();
    const b = engineRun(make(i), copying);
    const end = performance.now();
    if (JSON.stringify(a) !== JSON.stringify(b))
      throw new Error(`the two differ for seed ${i}: ${JSON.stringify({ a, b })}`);
    // The first runs warm the machine up.
    if (i < times / 3) continue;
    hand.push((a.rounds * 1000) / (middle - start));
    engine.push((b.rounds * 1000) / (end - middle));
    ratios.push((middle - start) / (end - middle));
  }
  return { name, handWritten: median(hand), engine: median(engine), ratio: median(ratios) };
}

export function measureRounds(): Rate[] {
  const program = lantern();
  const alone = prepare(program, true);
  const told = prepare(program, false);
  // All are warm before anything is measured: each is compiled anew several times in its first second.
  for (const run of [alone, told])
    for (const copying of [false, true]) compare('warming up', quickChance, run, copying, 60);
  return [
    compare('in place, told to nobody', quickChance, alone, false, 60),
    compare('the same, shuffles next to free', cheapChance, alone, false, 60),
    compare('the same, a copied state a choice', quickChance, alone, true, 60),
    compare('in place, everything noted for those who are told', quickChance, told, false, 60),
  ];
}
