import { Fault } from '../machine/fault.js';
import type { State } from '../machine/state.js';
import type { Game } from '../rules/game.js';
import { RandomPolicy } from '../simulate/policy.js';
import { Simulator } from '../simulate/simulator.js';

/** The most steps of one playout. */
export const LONGEST = 1_000;

const simulators = new WeakMap<Game, Simulator>();

/** The simulator that plays on from states of a game: making one takes longer than many playouts. */
export function simulatorFor(game: Game): Simulator {
  const known = simulators.get(game) ?? Simulator.twinOf(game);
  simulators.set(game, known);
  return known;
}

/** So many games at random tell whether all seats score together. */
const TRIALS = 6;
const shared = new WeakMap<Game, boolean>();

/** Whether all seats always have the same score, as where they play together: then there is nobody to be ahead of. */
export function isShared(game: Game): boolean {
  const known = shared.get(game);
  if (known !== undefined) return known;
  const simulator = simulatorFor(game);
  const random = game.rt.seats.map(() => new RandomPolicy());
  let alike = game.rt.seats.length > 1;
  let scored = false;
  try {
    for (let seed = 0; seed < TRIALS && alike; seed++) {
      simulator.open(seed).play({ policies: random, most: LONGEST, order: 'any' });
      const scores = simulator.scores();
      alike = scores.every((score) => score === scores[0]);
      scored ||= scores.some((score) => score !== 0);
    }
  } catch (error) {
    if (!(error instanceof Fault)) throw error;
    alike = false;
  }
  shared.set(game, alike && scored);
  return alike && scored;
}

/**
 * How much better than the others a seat stands: its score beside the mean of all that are not on its side; its score
 * alone where all score together.
 */
export function standing(game: Game, scores: readonly number[], seat: number, together: boolean): number {
  const { teams, winsLeast } = game.program;
  if (together) return (winsLeast ? -1 : 1) * (scores[seat] ?? 0);
  const others = scores.filter((_, other) => (teams === 0 ? other !== seat : other % teams !== seat % teams));
  const mean = others.length === 0 ? 0 : others.reduce((sum, score) => sum + score, 0) / others.length;
  const ahead = (scores[seat] ?? 0) - mean;
  return winsLeast ? -ahead : ahead;
}

/** The same of a state: how many points a seat is ahead of the others there. */
export const standingOf = (game: Game, state: State, seat: number): number =>
  standing(game, game.scores(state), seat, isShared(game));
