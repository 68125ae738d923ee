/** Riffle shuffles, exactly (Bayer and Diaconis 1992): how far so many of them are from fair, and what they leave behind. */

/** Eulerian numbers: how many orders of `n` cards have so many rising sequences, from 1 to `n`. */
export function eulerian(n: number): bigint[] {
  let row = [0n, 1n];
  for (let size = 2; size <= n; size++) {
    const next = [0n];
    for (let r = 1; r <= size; r++) next[r] = BigInt(r) * (row[r] ?? 0n) + BigInt(size - r + 1) * (row[r - 1] ?? 0n);
    row = next;
  }
  return row;
}

function choose(n: bigint, k: number): bigint {
  let result = 1n;
  for (let i = 0n; i < BigInt(k); i++) {
    if (n - i <= 0n) return 0n;
    result = (result * (n - i)) / (i + 1n);
  }
  return result;
}

/** A fraction of large numbers, with 15 digits. */
function quotient(a: bigint, b: bigint): number {
  const scale = 10n ** 18n;
  return Number((a * scale) / b) / 1e18;
}

/** The total variation distance of `k` riffles of `n` cards from a fair shuffle, 0 to 1. */
export function riffleDistance(n: number, k: number): number {
  const orders = eulerian(n);
  const all = 2n ** BigInt(n * k);
  const factorial = orders.reduce((sum, count) => sum + count, 0n);
  let sum = 0n;
  for (let r = 1; r <= n; r++) {
    const ways = choose(2n ** BigInt(k) + BigInt(n - r), n);
    // |ways / all − 1 / n!|, over the common base.
    const apart = ways * factorial - all;
    sum += (orders[r] as bigint) * (apart < 0n ? -apart : apart);
  }
  return quotient(sum, 2n * all * factorial);
}

/** The mean number of rising sequences after `k` riffles of `n` cards. */
export function meanRising(n: number, k: number): number {
  const orders = eulerian(n);
  const all = 2n ** BigInt(n * k);
  let sum = 0n;
  for (let r = 1; r <= n; r++) sum += BigInt(r) * (orders[r] as bigint) * choose(2n ** BigInt(k) + BigInt(n - r), n);
  return quotient(sum, all);
}

/** About how many riffles leave so many rising sequences on average. @param n at most 104 cards */
export function rifflesLike(n: number, rising: number): number {
  let best = 1;
  for (let k = 1; k <= 12; k++)
    if (Math.abs(meanRising(n, k) - rising) < Math.abs(meanRising(n, best) - rising)) best = k;
  return best;
}
