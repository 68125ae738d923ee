/** Where a card lies among the rows of a state: variables with its index, and with those of its pile. */
export interface CardRow {
  readonly index: string;
  /** The pile's first card. */
  readonly first: string;
  /** Past the pile's last card. */
  readonly end: string;
}

/** Where the value of a local stands in the generated code. */
export interface Place {
  readonly js: string;
  /** The local is a list of cards that is handed over as the number of a pile. */
  readonly asPile?: boolean;
  /** The local is never nothing: a loop took it from a list that holds no nothing. */
  readonly isThere?: boolean;
  /** The local is a card of a pile that is gone through where it lies. */
  readonly row?: CardRow;
}
export type Places = ReadonlyMap<number, Place>;
