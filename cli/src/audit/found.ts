import { signed } from '@wily-jester/charts';
import type { AuditReport } from '@wily-jester/core';

const whole = (n: number): string => n.toLocaleString('en');

/** What a test found, beside what is fair. */
export function foundWords({ name, mean, fair, effect }: AuditReport['tests'][number]): string {
  if (mean === null || fair === null) return `±${(100 * effect).toFixed(1)} % on average`;
  if (name === 'repeats')
    return `${whole(mean)} pairs, fair ${fair < 0.001 ? 'none' : whole(Number(fair.toPrecision(3)))}`;
  const places = fair < 10 ? 3 : 1;
  return `${mean.toFixed(places)} a shuffle, fair ${fair.toFixed(places)} (${signed(100 * effect, 1)} %)`;
}
