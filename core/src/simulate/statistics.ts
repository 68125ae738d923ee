import { quantileSorted } from 'simple-statistics';
import { Z } from '../statistics/distributions.js';

/** What many values have in common. */
export interface Summary {
  readonly count: number;
  readonly mean: number;
  /** The standard deviation of the values, with `count − 1`. */
  readonly deviation: number;
  readonly least: number;
  readonly most: number;
  /** The 95 % interval of the mean, from the standard error: good for some thirty values and more. */
  readonly interval: readonly [number, number];
}

/** Sums up values as they come, without keeping them (Welford 1962: no loss where all are large and nearly equal). */
export class RunningSummary {
  private count = 0;
  private mean = 0;
  private squares = 0;
  private least = Number.POSITIVE_INFINITY;
  private most = Number.NEGATIVE_INFINITY;

  add(value: number): void {
    this.count++;
    const before = value - this.mean;
    this.mean += before / this.count;
    this.squares += before * (value - this.mean);
    this.least = Math.min(this.least, value);
    this.most = Math.max(this.most, value);
  }

  get summary(): Summary {
    const { count, mean } = this;
    if (count === 0) return { count, mean: 0, deviation: 0, least: 0, most: 0, interval: [0, 0] };
    const deviation = count < 2 ? 0 : Math.sqrt(this.squares / (count - 1));
    const error = (Z * deviation) / Math.sqrt(count);
    return { count, mean, deviation, least: this.least, most: this.most, interval: [mean - error, mean + error] };
  }
}

/** What values have in common. */
export function summaryOf(values: Iterable<number>): Summary {
  const running = new RunningSummary();
  for (const value of values) running.add(value);
  return running.summary;
}

/**
 * The interval of a share (Wilson 1927), which stays between 0 and 1 and holds for few cases too.
 * @param times how often it was so, of `of` cases; either need not be whole
 * @param z its width in standard errors: 95 % where nothing is said
 */
export function shareInterval(times: number, of: number, z = Z): readonly [number, number] {
  if (of === 0) return [0, 1];
  const share = times / of;
  const middle = share + z ** 2 / (2 * of);
  const error = z * Math.sqrt((share * (1 - share)) / of + (z / (2 * of)) ** 2);
  const scale = 1 + z ** 2 / of;
  return [Math.max(0, (middle - error) / scale), Math.min(1, (middle + error) / scale)];
}

/**
 * How far a mean may be from the truth at any of the looks at it, however often one looks: the radius of a confidence
 * sequence (the normal mixture of Robbins 1970, tuned to a planned number of values), with 95 % for all looks together.
 * It holds from some thirty values on.
 */
export function sequenceRadius(
  { count, deviation }: Pick<Summary, 'count' | 'deviation'>,
  planned: number,
  alpha = 0.05,
): number {
  if (count < 2) return Number.POSITIVE_INFINITY;
  const rho = (-2 * Math.log(alpha) + Math.log(1 - 2 * Math.log(alpha))) / Math.max(2, planned);
  const spread = count * rho + 1;
  return deviation * Math.sqrt(((2 * spread) / (count ** 2 * rho)) * Math.log(Math.sqrt(spread) / alpha));
}

/** Quantiles of values: `0.5` is the median. @throws where there are no values */
export function quantilesOf(values: readonly number[], shares: readonly number[]): number[] {
  const sorted = Float64Array.from(values).sort();
  return shares.map((share) => quantileSorted([...sorted], share));
}
