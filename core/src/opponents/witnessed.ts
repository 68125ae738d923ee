import type { Answer } from '../machine/code.js';
import type { State } from '../machine/state.js';

/** What another seat chose, in the state in which it did. */
export interface Witnessed {
  readonly state: State;
  readonly seat: number;
  readonly answer: Answer;
}
