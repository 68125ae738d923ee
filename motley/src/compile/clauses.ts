import type { Facing } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';

/** Where a statement stands. */
export interface Around {
  readonly routine: number;
  readonly inLoop: boolean;
  /** Inside the answers to an `ask every`, which run in one go. */
  readonly inEvery: boolean;
}

/** Whole seconds of a time such as `30s` or `2min`. */
export function secondsOf(time: string): number {
  return time.endsWith('min') ? Number(time.slice(0, -3)) * 60 : Number(time.slice(0, -1));
}

/** The facing that a clause names. */
export function facingOf(node: ast.Facing): Facing {
  return node.private || node.way === 'private' ? 'private' : node.way === 'up' ? 'up' : 'down';
}
