import type { State } from '../state.js';

/**
 * Values of one def, remembered for the cards that each pile held when it was last asked for: as long as a
 * pile bears the same stamp, its cards are the same, in whichever state.
 */
export interface PileMemo {
  /** The stamp of each pile when its value was found. */
  readonly stamps: Float64Array;
  readonly values: unknown[];
  /** How many operations it took: they are counted again each time the value is asked for. */
  readonly costs: Int32Array;
}

export function pileMemo(piles: number): PileMemo {
  return {
    stamps: new Float64Array(piles).fill(-1),
    values: Array.from({ length: piles }, () => 0),
    costs: new Int32Array(piles),
  };
}

/** The value of one def for the list of cards that it was asked for last: no list is ever written into. */
export interface LastMemo {
  cards: readonly number[] | null;
  value: unknown;
  cost: number;
  /** Who saw the cards, in which state, and how often any pile had changed by then. */
  viewer: number;
  state: State | null;
  since: number;
}

export function lastMemo(): LastMemo {
  return { cards: null, value: 0, cost: 0, viewer: 0, state: null, since: -1 };
}
