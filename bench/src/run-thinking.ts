/**
 * npm run bench:thinking: worlds and playouts a second of processor time in eight games, each beside playing the same
 * game plainly with the same bot; what a seat that thinks holds in memory; passes a second of solving.
 */
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import {
  Knowledge,
  quickChance,
  RandomPolicy,
  REGULARS,
  ScriptedPolicy,
  Simulator,
  Solver,
  Thinker,
  treeOf,
  Worlds,
} from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { lanternThought, lanternTurn } from './by-hand/lantern-players.js';
import { placeIn } from './places.js';
import { median, processorSeconds, ratesInTurn } from './timing.js';

const SHEETS = new URL('../../sheets/', import.meta.url);
/** Games of different kinds, with how many choices were made where somebody begins to think. */
const GAMES: readonly (readonly [sheet: string, seats: number, choices: number])[] = [
  ['lantern-twenty-one', 2, 3],
  ['long-pot', 4, 6],
  ['thorn-and-lady', 4, 8],
  ['standing-trump', 4, 8],
  ['reed-melds', 2, 6],
  ['hearth-sums', 2, 8],
  ['eights-aside', 3, 8],
  ['ferry-lamps', 2, 3],
];
const ROUNDS = 3;
/** So often two workers are held against one, and so long they think, in milliseconds. */
const TURNS = 5;
const THINKING = 3_000;
const SECONDS = 0.5;
/** Seats that think, to see what one of them holds. */
const THINKERS = 40;

/** Worlds, playouts and choices that are played plainly, in a second of processor time. */
function measured(sheet: string, seats: number, choices: number): readonly [number, number, number] {
  const { game, state, seat } = placeIn(sheet, seats, choices);
  const generator = quickChance(3).stream('worlds', 0);
  const worlds = new Worlds(game, state, new Knowledge(game, seat, generator));
  const into = state.copy();
  const thinker = new Thinker(game, seat, 1);
  const [bot] = game.program.bots;
  const policies = REGULARS.slice(0, seats).map(() => (bot ? new ScriptedPolicy(game, bot.name) : new RandomPolicy()));
  const plain = Simulator.twinOf(game);
  const rates = ratesInTurn(
    [
      () => {
        for (let i = 0; i < 100; i++) worlds.draw(into, generator);
        return 100;
      },
      () => thinker.think(state, { playouts: 100 })?.playouts ?? 0,
      (turn) => {
        let made = 0;
        plain.open(turn).play({ policies, most: 200, choosing: () => made++ });
        return made;
      },
    ],
    ROUNDS,
    SECONDS,
  );
  return rates.map(median) as unknown as readonly [number, number, number];
}

const figure = (n: number, digits = 0): string =>
  n.toLocaleString('en', { maximumFractionDigits: digits }).padStart(10);
process.stdout.write('A second of processor time\n');
process.stdout.write(`${['worlds', 'playouts', 'plain choices'].map((word) => word.padStart(14)).join('')}\n`);
for (const [sheet, seats, choices] of GAMES) {
  const rates = measured(sheet, seats, choices);
  process.stdout.write(`${rates.map((rate) => `    ${figure(rate)}`).join('')}   ${sheet}, ${seats} seats\n`);
}

// The same by hand: one seat at its first turn, hitting and standing held against each other in the same worlds.
const byHand = quickChance(3).stream('by hand', 0);
const lantern = placeIn('lantern-twenty-one', 1, 3);
const thinker = new Thinker(lantern.game, lantern.seat, 1);
lanternTurn(quickChance(7));
const [hand = 0, ours = 0] = ratesInTurn(
  [
    () => {
      lanternThought(100, byHand);
      return 200;
    },
    () => thinker.think(lantern.state, { playouts: 200 })?.playouts ?? 0,
  ],
  ROUNDS,
  SECONDS,
).map(median);
process.stdout.write(
  `\nPlayouts of lantern-twenty-one, one seat: ${figure(ours).trim()}, by hand ${figure(hand).trim()}: ${(ours / hand).toFixed(2)}\n`,
);

/** Playouts of so many threads together in the same time. */
async function together(threads: number): Promise<number> {
  const workerData = { sheet: 'thorn-and-lady', seats: 4, choices: 8 };
  const workers = Array.from(
    { length: threads },
    () => new Worker(new URL('./think-worker.js', import.meta.url), { workerData }),
  );
  const said = async (): Promise<number> => {
    const all = await Promise.all(workers.map((worker) => once(worker, 'message')));
    return all.reduce((sum, [playouts]) => sum + (playouts as number), 0);
  };
  await said();
  for (const worker of workers) worker.postMessage(THINKING);
  const playouts = await said();
  await Promise.all(workers.map((worker) => worker.terminate()));
  return playouts;
}
const ratios: number[] = [];
for (let turn = 0; turn < TURNS; turn++) {
  const one = await together(1);
  ratios.push((await together(2)) / one);
}
process.stdout.write(
  `Two workers: ${median(ratios).toFixed(2)} times the playouts of one (${[...ratios]
    .sort((a, b) => a - b)
    .map((ratio) => ratio.toFixed(2))
    .join(', ')})\n`,
);

const { game, state, seat } = placeIn('thorn-and-lady', 4, 8);
const held: Thinker[] = [];
const heap = (): number => {
  (globalThis as { gc?: () => void }).gc?.();
  return process.memoryUsage().heapUsed + process.memoryUsage().arrayBuffers;
};
const before = heap();
for (let i = 0; i < THINKERS; i++) {
  const thinker = new Thinker(game, seat, i);
  thinker.think(state, { playouts: 60 });
  held.push(thinker);
}
process.stdout.write(
  `\nA seat that thinks holds ${figure((heap() - before) / held.length / 1024, 1).trim()} KiB besides its table\n`,
);

process.stdout.write('\nPasses a second of solving\n');
for (const name of ['three-card-duel', 'four-rank-duel']) {
  const { program } = compileSheet(readFileSync(new URL(`${name}.motley`, SHEETS), 'utf8'));
  if (!program) throw new Error(`${name} does not compile`);
  const { tree } = treeOf(program, {});
  const solver = new Solver(tree);
  solver.run(20);
  const from = processorSeconds();
  let passes = 0;
  while (processorSeconds() - from < 1) {
    solver.run(20);
    passes += 20;
  }
  process.stdout.write(`${figure(passes / (processorSeconds() - from))}   ${name}, ${tree.infos.length} sets\n`);
}
