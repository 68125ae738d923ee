import type { Answer } from '../machine/code.js';
import type { State } from '../machine/state.js';
import { Thinker } from '../opponents/thinker.js';
import type { Game } from '../rules/game.js';

/** The seed of the first seat's thinking; each seat has its own. Its own chance: what a thinker draws tells nothing of the cards. */
const SEED = 20_261;

/** The seats of a table that may think, and what each of them takes note of along its record. */
export class Thinkers {
  private readonly all: ReadonlyMap<number, Thinker>;

  constructor(game: Game, seats: readonly number[]) {
    this.all = new Map(seats.map((seat) => [seat, new Thinker(game, seat, SEED + seat)]));
  }

  of(seat: number): Thinker {
    const thinker = this.all.get(seat);
    if (!thinker) throw new Error(`seat ${seat} of this table does not think`);
    return thinker;
  }

  opened(state: State): void {
    for (const thinker of this.all.values()) thinker.remember({ kind: 'opened' }, state);
  }
  chosen(before: State, after: State, seat: number, answer: Answer): void {
    for (const thinker of this.all.values()) {
      thinker.note(before, after, seat, answer);
      thinker.remember({ kind: 'chosen', before, seat, answer }, after);
    }
  }
  /** A step that nobody chose. */
  passed(before: State, how: 'resume' | 'expire', after: State): void {
    for (const thinker of this.all.values()) thinker.remember({ kind: 'passed', before, how }, after);
  }

  /** What was known holds no more. @param back the state to which the table went back, if it did */
  clear(back?: State): void {
    for (const thinker of this.all.values()) thinker.clear(back);
  }
}
