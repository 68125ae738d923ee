/** Places of games where somebody has something to think about. */
import { readFileSync } from 'node:fs';
import { type Game, RandomPolicy, REGULARS, Simulator, type State, Thinker } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';

const SHEETS = new URL('../../sheets/', import.meta.url);

export interface Place {
  readonly game: Game;
  readonly state: State;
  readonly seat: number;
}

/** A game in which somebody has something to think about, after so many random choices. */
export function placeIn(sheet: string, seats: number, most: number): Place {
  const { program } = compileSheet(readFileSync(new URL(`${sheet}.motley`, SHEETS), 'utf8'));
  if (!program) throw new Error(`${sheet} does not compile`);
  const simulator = Simulator.of(program, { seats: REGULARS.slice(0, seats), settings: {}, tracking: true });
  const policies = REGULARS.slice(0, seats).map(() => new RandomPolicy());
  for (let more = most; ; more++) {
    simulator.open(7).play({ policies, most: more });
    const { game } = simulator;
    const state = simulator.state.copy();
    const [seat] = game.asked(state);
    const thought = seat === undefined ? null : new Thinker(game, seat, 1).think(state, { playouts: 12 });
    if (seat !== undefined && thought && thought.playouts > 0) return { game, state, seat };
  }
}
