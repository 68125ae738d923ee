import type { Tally } from '../program/types.js';
import { holm } from '../statistics/distributions.js';
import type { Estimate } from './estimates.js';
import { markWords } from './marks.js';
import type { Figure, TrialTotals } from './totals.js';
import type { TrialArm } from './trial.js';

/** How one arm differs from the first. */
export interface DifferenceFigures extends Estimate {
  readonly tally: string;
  readonly marks: readonly string[];
  readonly category?: string;
  readonly arm: string;
  readonly against: string;
  /** How likely so large a difference is by chance, corrected for all that are looked at (Holm). */
  readonly byChance: number;
  /** Whether it may be said that they differ. */
  readonly isClear: boolean;
  /** How many times fewer games were needed because both had the same cards. */
  readonly pairing: number;
}

/** A cell that comes in fewer games, under either arm, is not compared. */
const LEAST_MET = 30;

/** Cells of one tally that are compared at most: of more, those that come in most games. */
const MOST_COMPARED = 4_000;

/** A figure of an arm beside that of the first. */
interface Pair {
  readonly arm: TrialArm;
  readonly tally: Tally;
  readonly mine: Figure;
  readonly first: Figure;
}

/** The figures of one tally under one arm, beside those of the first. */
function pairsOf(totals: TrialTotals, arm: TrialArm, a: number, t: number): Pair[] {
  const there = totals.placeInFirst(a, t);
  const tally = totals.arms[a]?.tallies[t];
  if (!tally || there < 0) return [];
  return (totals.arms[a]?.counts[t]?.cells ?? []).flatMap((cell) => {
    const other = totals.arms[0]?.counts[there]?.find(cell.marks);
    if (!other || (tally.by.length > 0 && Math.min(cell.games, other.games) < LEAST_MET)) return [];
    return [...cell.quantities.values()].flatMap((quantity) => {
      const its = other.quantities.get(quantity.key);
      return its ? [{ arm, tally, mine: { cell, quantity }, first: { cell: other, quantity: its } }] : [];
    });
  });
}

/** How each arm differs from the first: in what stands alone and in the scores, then cell by cell. */
export function differencesOf(totals: TrialTotals, arms: readonly TrialArm[]): DifferenceFigures[] {
  const [first] = arms;
  if (!first || arms.length < 2) return [];
  const plain: Pair[] = [];
  const byTally = new Map<string, Pair[]>();
  for (const [i, arm] of arms.slice(1).entries())
    for (const [t, { name, by, at }] of (totals.arms[i + 1]?.tallies ?? []).entries()) {
      const pairs = pairsOf(totals, arm, i + 1, t);
      // What goes by nothing is judged together. The cells of a tally are judged among themselves: a wide table makes no other figure less sure.
      const family = by.length > 0 && at > 0 ? (byTally.get(name) ?? []) : plain;
      if (family !== plain) byTally.set(name, family);
      family.push(...pairs);
    }
  const families = [...byTally.values()].map((pairs) =>
    pairs.length <= MOST_COMPARED
      ? pairs
      : pairs.sort((a, b) => b.mine.cell.games - a.mine.cell.games).slice(0, MOST_COMPARED),
  );
  return [plain, ...families].flatMap((pairs) => judged(totals, pairs, first.label));
}

/** Figures that are compared together: what is said of one allows for all of them. */
function judged(totals: TrialTotals, pairs: readonly Pair[], against: string): DifferenceFigures[] {
  const look = { ...totals.look, outside: 0.05 / Math.max(1, pairs.length) };
  const found = pairs.map((pair) => totals.difference(pair.mine, pair.first, look));
  const corrected = holm(found.map((difference) => difference?.p ?? 1));
  return pairs.flatMap(({ arm, tally, mine: { cell, quantity } }, i) => {
    const difference = found[i];
    if (!difference?.interval) return [];
    const { p: _, ...written } = difference;
    const byChance = corrected[i] ?? 1;
    return [
      {
        tally: tally.name,
        marks: cell.marks.map((mark, k) => markWords(arm, tally.by[k]?.t ?? 'int', mark)),
        ...(quantity.key === null ? {} : { category: markWords(arm, tally.of, quantity.key) }),
        arm: arm.label,
        against,
        ...written,
        byChance,
        isClear: byChance < 0.05,
      },
    ];
  });
}
