/** A player's strength among others, from games that were won. */
export interface Rating {
  /** 400 more wins ten games of eleven; all together are 0 on average. */
  readonly rating: number;
  /** Its standard error. */
  readonly error: number;
}

/** Ratings on the scale on which 400 are odds of ten to one. */
const SCALE = 400 / Math.LN10;
/** Each pair is taken to have drawn so many games before, so that whoever lost all of them is rated, too. */
const BEFORE = 1;
const MOST_ROUNDS = 10_000;
const ENOUGH = 1e-10;

/**
 * Strengths of players from games of pairs, as Bradley and Terry (1952) model them: the odds of winning are the quotient
 * of two strengths. Found by the iteration of Zermelo (1929) and Hunter (2004); errors from the information of the games.
 * @param wins how often each player (row) won against each other one (column); a draw is half a win for both
 */
export function ratingsOf(wins: readonly (readonly number[])[]): Rating[] {
  const players = wins.map((_, i) => i);
  const won = (i: number, j: number): number => (i === j ? 0 : (wins[i]?.[j] ?? 0) + BEFORE / 2);
  const games = (i: number, j: number): number => won(i, j) + won(j, i);
  let strengths = players.map(() => 1);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const next = players.map((i) => {
      const all = players.reduce((sum, j) => sum + won(i, j), 0);
      const shares = players.reduce(
        (sum, j) => (i === j ? sum : sum + games(i, j) / ((strengths[i] as number) + (strengths[j] as number))),
        0,
      );
      return shares > 0 ? all / shares : 1;
    });
    const mean = Math.exp(next.reduce((sum, s) => sum + Math.log(s), 0) / next.length);
    const scaled = next.map((s) => s / mean);
    const change = Math.max(...scaled.map((s, i) => Math.abs(Math.log(s / (strengths[i] as number)))));
    strengths = scaled;
    if (change < ENOUGH) break;
  }
  const errors = errorsOf(strengths, games);
  return strengths.map((s, i) => ({ rating: SCALE * Math.log(s), error: SCALE * (errors[i] as number) }));
}

/** Standard errors of the logarithms of strengths that are 0 on average. */
function errorsOf(strengths: readonly number[], games: (i: number, j: number) => number): number[] {
  const n = strengths.length;
  const information = strengths.map((a, i) =>
    strengths.map((b, j) => {
      // The mean is held fast: without it the matrix has no inverse.
      const fixed = 1 / n;
      if (i !== j) return fixed - (games(i, j) * a * b) / (a + b) ** 2;
      return strengths.reduce((sum, c, k) => (k === i ? sum : sum + (games(i, k) * a * c) / (a + c) ** 2), fixed);
    }),
  );
  // What the held mean adds to the inverse is 1 / n in every place.
  return inverse(information).map((row, i) => Math.sqrt(Math.max(0, (row[i] as number) - 1 / n)));
}

/** The inverse of a small matrix (Gauss and Jordan, with pivots). */
function inverse(matrix: readonly (readonly number[])[]): number[][] {
  const n = matrix.length;
  const rows = matrix.map((row, i) => [...row, ...Array.from({ length: n }, (_, j) => (i === j ? 1 : 0))]);
  for (let column = 0; column < n; column++) {
    let pivot = column;
    for (let i = column; i < n; i++)
      if (Math.abs(rows[i]?.[column] ?? 0) > Math.abs(rows[pivot]?.[column] ?? 0)) pivot = i;
    [rows[column], rows[pivot]] = [rows[pivot] as number[], rows[column] as number[]];
    const head = rows[column] as number[];
    const by = head[column] as number;
    for (let j = 0; j < head.length; j++) head[j] = (head[j] as number) / by;
    for (const [i, row] of rows.entries()) {
      if (i === column) continue;
      const times = row[column] as number;
      for (let j = 0; j < row.length; j++) row[j] = (row[j] as number) - times * (head[j] as number);
    }
  }
  return rows.map((row) => row.slice(n));
}
