/**
 * A table whose keys are compared with words that strangers write. It knows no names but its own: an object made
 * by a literal would also know `constructor`, `toString` and the like.
 */
export const byName = <T>(rows: Readonly<Record<string, T>>): Readonly<Record<string, T>> =>
  Object.assign(Object.create(null) as Record<string, T>, rows);
