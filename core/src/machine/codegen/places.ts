/** Where a card lies among the rows of a state: variables with its index, and with those of its pile. */
export interface CardRow {
  readonly index: string;
  /** The pile's first card. */
  readonly first: string;
  /** Past the pile's last card. */
  readonly end: string;
}

/** A slot of the state: where a value is kept that outlives a step. */
export interface Slot {
  /** The code that names it. */
  readonly js: string;
  /** It holds a list or a text, not a number. */
  readonly isRef: boolean;
  /** A flag is kept as 0 or 1. */
  readonly isFlag: boolean;
}

/** Where the value of a local stands in the generated code. */
export interface Place {
  /** The code that reads it. */
  readonly js: string;
  /** Where it is kept, if that is not a variable of the code. */
  readonly slot?: Slot;
  /** The local is a list of cards that is handed over as the number of a pile. */
  readonly asPile?: boolean;
  /** The local is never nothing: a loop took it from a list that holds no nothing. */
  readonly isThere?: boolean;
  /** The local is a card of a pile that is gone through where it lies. */
  readonly row?: CardRow;
}
export type Places = ReadonlyMap<number, Place>;
