import type { Chance } from '../chance/generator.js';
import type { Code } from '../machine/code.js';
import type { StateLayout } from '../machine/layout.js';
import type { Runtime } from '../machine/runtime/runtime.js';
import type { State } from '../machine/state.js';
import type { Trace } from '../machine/trace.js';
import type { Program } from '../program/types.js';

/**
 * The rules of one table, as everything above the machine reads them: the program, its layout and code for certain
 * settings and seats. It holds no state of the table. `Game` implements it.
 */
export interface Rules {
  readonly program: Program;
  readonly layout: StateLayout;
  readonly code: Code;
  readonly rt: Runtime;
  /** Where its shuffles come from, and the orders in which cards are named that lie hidden. */
  readonly chance: Pick<Chance, 'stream'>;
  /** What happened in the step that ran last. */
  readonly trace: Trace;
  /** Whether the sheet asks what seats have seen, so that it is part of a state. */
  readonly tracking: boolean;
  /** The seats that are asked and have not answered. */
  asked(state: State): number[];
}
