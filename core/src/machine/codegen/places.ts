/** Where the value of a local stands in the generated code. */
export interface Place {
  readonly js: string;
  /** The local is a list of cards that is handed over as the number of a pile. */
  readonly asPile?: boolean;
  /** The local is never nothing: a loop took it from a list that holds no nothing. */
  readonly isThere?: boolean;
}
export type Places = ReadonlyMap<number, Place>;
