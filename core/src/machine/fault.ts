import { type At, columnOf, lineOf } from '../program/types.js';

/** The sheet did something impossible. The table stays at its last good choice. */
export class Fault extends Error {
  override readonly name: string = 'Fault';
  readonly line: number;
  readonly column: number;
  constructor(
    message: string,
    readonly at: At,
  ) {
    super(message);
    this.line = lineOf(at);
    this.column = columnOf(at);
  }
}

/** A choice, a label or a bot tried to read what its seat may not see. */
export class HiddenRead extends Fault {
  override readonly name = 'HiddenRead';
}

/** A step, or the search for choices, would cost more than it may. */
export class TooDear extends Fault {
  override readonly name = 'TooDear';
}

/** Insists that a value is there: a card, seat or pile, not nothing. */
export const ok = (v: number, at: At): number =>
  v >= 0 ? v : fault('There is nothing here: a card, seat or pile was needed.', at);

/** Stops the step: the sheet did something impossible at a place. */
export function fault(message: string, at: At): never {
  throw new Fault(message, at);
}
