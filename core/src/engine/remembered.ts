/**
 * Values of one def, remembered for the cards that each pile held when it was last asked for: as long as a
 * pile bears the same stamp, its cards are the same, in whichever state.
 */
export interface Remembered {
  /** The stamp of each pile when its value was found. */
  readonly stamps: Float64Array;
  readonly values: unknown[];
  /** How many operations it took: they are counted again each time the value is asked for. */
  readonly costs: Int32Array;
}

export function remembered(piles: number): Remembered {
  return {
    stamps: new Float64Array(piles).fill(-1),
    values: Array.from({ length: piles }, () => 0),
    costs: new Int32Array(piles),
  };
}
