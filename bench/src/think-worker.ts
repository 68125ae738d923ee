/** Thinks for so many milliseconds about a place of a game, and tells how many playouts that were: a thread of run-thinking.ts. */
import { parentPort, workerData } from 'node:worker_threads';
import { Thinker } from '@wily-jester/core';
import { placeIn } from './places.js';

const { sheet, seats, choices } = workerData as { sheet: string; seats: number; choices: number };
const { game, state, seat } = placeIn(sheet, seats, choices);
const thinker = new Thinker(game, seat, 1);
thinker.think(state, { playouts: 2_000 });
parentPort?.on('message', (milliseconds: number) => {
  const until = performance.now() + milliseconds;
  let playouts = 0;
  while (performance.now() < until) playouts += thinker.think(state, { playouts: 200 })?.playouts ?? 0;
  parentPort?.postMessage(playouts);
});
parentPort?.postMessage(0);
