import type { Header, Program } from '@wily-jester/core';

/** A table as a thread or a process of its own opens it. */
export interface Opened {
  /** The hash of its sheet: tables of one sheet share their program, and its code, in a thread. */
  readonly sheet: string;
  readonly program: Program;
  readonly header: Header;
}
