import type { Expr, Program } from '../../program/types.js';
import type { StateLayout } from '../layout.js';
import type { Places } from './places.js';

/** The constants of generated code: texts stand in pools, never in the code. */
export interface Pools {
  readonly program: Program;
  readonly layout: StateLayout;
  text(text: string): string;
  words(list: readonly string[]): string;
}

/** Writes expressions as JavaScript, for whatever is below the expression writer itself. */
export interface Writer {
  readonly module: Pools;
  write(e: Expr): string;
  sure(e: Expr): string;
}

/** What an expression writer may be given besides its places. */
export interface WriterOptions {
  /** Reads as the seat `v`, and stops at what that seat may not see. */
  readonly guarded: boolean;
  /** Expressions whose value is kept once it was found, each with its variable: by their `exprKey`. */
  readonly kept?: ReadonlyMap<string, string> | undefined;
  /** Folds that were made before, each with the variable that holds its value. */
  readonly made?: ReadonlyMap<string, string> | undefined;
  /** Folds over the cards of a pile are memoized: for what is evaluated again and again while piles stay as they are. */
  readonly memoFolds?: boolean | undefined;
}

/** Makes a writer for a module: handed in, so that modules need not know expressions. */
export type WriterFactory<Module> = (module: Module, places: Places, options: WriterOptions) => Writer;
