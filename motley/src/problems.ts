/** Something that is wrong, or doubtful, with a sheet, at its place. */
export interface Problem {
  readonly severity: 'error' | 'warning';
  /** Counted from 1. */
  readonly line: number;
  readonly column: number;
  /** The column after the last one that the problem covers, on the same line. */
  readonly endColumn: number;
  readonly message: string;
  /** What to write instead, where that is known. */
  readonly fix?: string;
}

/**
 * How many single-letter changes or swaps of neighbours lie between two words (optimal string
 * alignment, Damerau 1964), given up past `most`.
 */
function distance(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  const rows: number[][] = [Array.from({ length: b.length + 1 }, (_, j) => j)];
  const at = (i: number, j: number): number => rows[i]?.[j] ?? 0;
  for (let i = 1; i <= a.length; i++) {
    rows.push([i]);
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      let least = Math.min(at(i - 1, j) + 1, at(i, j - 1) + 1, at(i - 1, j - 1) + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        least = Math.min(least, at(i - 2, j - 2) + 1);
      rows[i]?.push(least);
    }
  }
  return at(a.length, b.length);
}

/** The known word that is most like a misspelt one, or `undefined` where none is near. */
export function nearest(word: string, known: Iterable<string>): string | undefined {
  const most = word.length <= 3 ? 1 : word.length <= 7 ? 2 : 3;
  let found: string | undefined;
  let least = most + 1;
  for (const candidate of known) {
    if (candidate === word) continue;
    const d =
      candidate.toLowerCase() === word.toLowerCase() ? 0 : distance(word.toLowerCase(), candidate.toLowerCase(), most);
    if (d < least) {
      least = d;
      found = candidate;
    }
  }
  return found;
}

/** `a`, `a and b`, `a, b and c`. */
export function listed(words: readonly string[], last = 'and'): string {
  if (words.length <= 1) return words.join('');
  return `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1)}`;
}
