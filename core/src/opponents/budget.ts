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
 * Ends after so many milliseconds, and after twice as many for good; 0 counts playouts alone.
 * @param now the time in milliseconds, by any clock
 */
export function budgetOf(milliseconds: number, playouts: number, now: () => number): Budget {
  if (milliseconds === 0) return { playouts };
  const until = now() + milliseconds;
  return { playouts, isOver: () => now() > until, isLate: () => now() > until + milliseconds };
}
