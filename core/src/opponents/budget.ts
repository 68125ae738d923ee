/** How long is thought. */
export interface Budget {
  /** At most so many playouts in all. */
  readonly playouts: number;
  /** Whether the time is up; asked after every world, once each choice was played on a few times. */
  readonly isOver?: () => boolean;
  /** Whether it is up for good: whatever is under way is left. Asked within playouts, too. */
  readonly isLate?: () => boolean;
}

/**
 * Ends after so many milliseconds from now on; 0 counts playouts alone.
 * @param now the time in milliseconds, by any clock
 * @param latest so many milliseconds from now on it is over for good, at twice the time where nothing is said
 */
export function budgetOf(milliseconds: number, playouts: number, now: () => number, latest = 2 * milliseconds): Budget {
  if (milliseconds === 0) return { playouts };
  const begun = now();
  return { playouts, isOver: () => now() > begun + milliseconds, isLate: () => now() > begun + latest };
}
