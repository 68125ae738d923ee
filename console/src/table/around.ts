/** The others at a table, as they sit: each list in the order in which it is drawn, from the left or from the top. */
export interface Around<T> {
  readonly left: readonly T[];
  readonly top: readonly T[];
  readonly right: readonly T[];
}

/** How many sit at each side, by how many there are besides oneself: the more there are, the more evenly they stand. */
const SIDES = [0, 0, 1, 1, 1, 1, 2, 2, 2, 3, 3, 3];

/**
 * Seats the others as people sit: one opposite; two left and right; three left, opposite and right, so that partners face
 * each other; more evenly around.
 * @param others clockwise, from the left hand on
 */
export function seatedAround<T>(others: readonly T[]): Around<T> {
  const sides = SIDES[others.length] ?? Math.floor(others.length / 3);
  return {
    left: others.slice(0, sides).reverse(),
    top: others.slice(sides, others.length - sides),
    right: others.slice(others.length - sides),
  };
}
