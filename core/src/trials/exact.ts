/**
 * Sums of whole numbers that stay exact: numbers while they are, and big ones from there on. Adding them is associative,
 * so that it does not matter in which order games are added up, or by how many workers.
 */
export type Exact = number | bigint;

/** The sum of two. */
export function plus(a: Exact, b: Exact): Exact {
  if (typeof a === 'number' && typeof b === 'number') {
    const sum = a + b;
    if (Number.isSafeInteger(sum)) return sum;
  }
  return small(BigInt(a) + BigInt(b));
}

/** The product of two. */
export function times(a: Exact, b: Exact): Exact {
  if (typeof a === 'number' && typeof b === 'number') {
    const product = a * b;
    if (Number.isSafeInteger(product)) return product;
  }
  return small(BigInt(a) * BigInt(b));
}

/** A number again, where it is exact as one: the same sum is always written the same way. */
function small(sum: bigint): Exact {
  return sum >= Number.MIN_SAFE_INTEGER && sum <= Number.MAX_SAFE_INTEGER ? Number(sum) : sum;
}

/** A sum as JSON: whole digits, in a text where a number would not be exact. */
export const exactJson = (sum: Exact): number | string => (typeof sum === 'number' ? sum : String(sum));

/** A sum as {@link exactJson} writes it. */
export const exactFrom = (json: number | string): Exact => (typeof json === 'number' ? json : small(BigInt(json)));
