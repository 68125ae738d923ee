import type { Tally } from '../program/types.js';
import { type Cell, OTHERS, type Quantity } from './counted.js';
import { type DifferenceFigures, differencesOf } from './differences.js';
import { distributionOf, type Estimate, quantileEstimate, quantileOf, spreadOf } from './estimates.js';
import { markWords } from './marks.js';
import type { TrialTotals, WayPoint } from './totals.js';
import type { TrialArm } from './trial.js';

/** One thing that was counted, in one cell of its tally. */
export interface CellFigures extends Estimate {
  /** What the tally goes by here, in words. */
  readonly marks: readonly string[];
  /** The category, where categories are counted. */
  readonly category?: string;
  /** How often it was counted, and in how many games. */
  readonly times: number;
  readonly games: number;
  readonly deviation?: number;
  readonly least?: number;
  readonly most?: number;
  /** Quantiles of single values: the share below, the value, its interval. */
  readonly quantiles?: readonly {
    readonly share: number;
    readonly value: number;
    readonly interval: Estimate['interval'];
  }[];
  /** Single values in bars: from, to (both included), how many. */
  readonly bars?: readonly (readonly [number, number, number])[];
}

/** A tally's figures. */
export interface TallyFigures {
  readonly name: string;
  readonly form: Tally['form'];
  /** What it goes by, as the sheet writes it. */
  readonly by: readonly string[];
  readonly cells: readonly CellFigures[];
}

/** All that a trial found. The same plan gives the same figures, whoever played it. */
export interface TrialFigures {
  readonly format: 'wily-jester-trial/1';
  readonly games: number;
  /** Whether it ended by its figures or by hand, before the games that were asked for. */
  readonly ended: 'all games' | 'known well enough' | 'surely different' | 'stopped early';
  /** The figure that was followed, and its way. */
  readonly headline: { readonly tally: string; readonly points: readonly WayPoint[] };
  readonly arms: readonly {
    readonly label: string;
    readonly endless: number;
    readonly tallies: readonly TallyFigures[];
  }[];
  readonly differences: readonly DifferenceFigures[];
}

const QUANTILES = [0.05, 0.25, 0.5, 0.75, 0.95];
/** The most cells that are written down of all settings together: the rest is only counted. */
const MOST_WRITTEN = 4_000;
/** The most bars of a distribution. */
const MOST_BARS = 60;

/** Marks in their order: numbers from low to high, texts as they came. */
function byMarks(a: Cell, b: Cell): number {
  for (const [i, mark] of a.marks.entries()) {
    const other = b.marks[i];
    if (mark === other) continue;
    if (mark === OTHERS) return 1;
    if (other === OTHERS) return -1;
    if (typeof mark === 'number' && typeof other === 'number') return mark - other;
    return typeof mark === 'number' ? -1 : typeof other === 'number' ? 1 : 0;
  }
  return 0;
}

/** Values in at most so many bars of equal width. */
function barsOf(counts: readonly (readonly [number, number])[]): [number, number, number][] {
  const [first, last] = [counts[0]?.[0] ?? 0, counts.at(-1)?.[0] ?? 0];
  const width = Math.max(1, Math.ceil((last - first + 1) / MOST_BARS));
  const bars: [number, number, number][] = [];
  for (const [value, n] of counts) {
    const from = first + Math.floor((value - first) / width) * width;
    const bar = bars.at(-1);
    if (bar && bar[0] === from) bar[2] += n;
    else bars.push([from, from + width - 1, n]);
  }
  return bars;
}

function valuesOf(quantity: Quantity, times: number): Partial<CellFigures> {
  if (quantity.values.length === 0) return {};
  const { counts } = distributionOf(quantity);
  const deviation = spreadOf(quantity);
  return {
    ...(deviation === null ? {} : { deviation }),
    least: quantity.least,
    most: quantity.most,
    quantiles: QUANTILES.map((share) => {
      const { value, interval } =
        times >= 1_000 ? quantileEstimate(quantity, share) : { value: quantileOf(counts, share), interval: null };
      return { share, value, interval };
    }),
    bars: barsOf(counts),
  };
}

/** The figures of a trial as they stand. */
export function trialFigures(
  totals: TrialTotals,
  plan: { readonly arms: readonly TrialArm[]; readonly games: number },
): TrialFigures {
  const { look } = totals;
  const arms = plan.arms.map((arm, a) => {
    const { label } = arm;
    const of = totals.arms[a];
    let room = Math.floor(MOST_WRITTEN / plan.arms.length);
    const tallies = (of?.tallies ?? []).map((tally, t): TallyFigures => {
      const counts = of?.counts[t];
      const cells = [...(counts?.cells ?? [])].sort(byMarks).flatMap((cell) => {
        const marks = cell.marks.map((mark, i) => markWords(arm, tally.by[i]?.t ?? 'int', mark));
        const quantities = [...cell.quantities.values()].filter(({ x }) => tally.form !== 'category' || x !== 0);
        if (tally.form === 'category') quantities.sort((p, q) => Number(q.x) - Number(p.x));
        return quantities.map(
          (quantity): CellFigures => ({
            marks,
            ...(quantity.key === null ? {} : { category: markWords(arm, tally.of, quantity.key) }),
            ...totals.estimate(a, t, { cell, quantity }, look),
            times: tally.form === 'category' ? Number(quantity.x) : Number(cell.y),
            games: cell.games,
            ...valuesOf(quantity, cell.games),
          }),
        );
      });
      const written = cells.slice(0, room);
      room -= written.length;
      return { name: tally.name, form: tally.form, by: tally.by.map(({ words }) => words), cells: written };
    });
    return { label, endless: of?.endless ?? 0, tallies: tallies.filter(isTold) };
  });
  return {
    format: 'wily-jester-trial/1',
    games: totals.games,
    ended: endOf(totals, plan.games),
    headline: { tally: totals.headline.name, points: totals.points },
    arms,
    differences: differencesOf(totals, plan.arms),
  };
}

/** Chapters are not told of where there are none. */
const isTold = ({ name, cells }: TallyFigures): boolean =>
  cells.length > 0 && !(name === 'chapters of a game' && cells[0]?.value === 0);

function endOf(totals: TrialTotals, games: number): TrialFigures['ended'] {
  if (totals.games >= games) return 'all games';
  if (!totals.hasStopped) return 'stopped early';
  return totals.until && 'within' in totals.until ? 'known well enough' : 'surely different';
}
