import { CATEGORIES } from '../hands/score.js';
import { REGULARS } from '../program/names.js';
import type { Tally, Type } from '../program/types.js';
import { holm } from '../statistics/distributions.js';
import { type Cell, type Mark, OTHERS, type Quantity } from './counted.js';
import { distributionOf, type Estimate, quantileEstimate, quantileOf, spreadOf } from './estimates.js';
import type { TrialTotals, WayPoint } from './totals.js';
import type { TrialArm } from './trial.js';

/** A figure as it is written down: its value, where it is with 95 %, and on how much it stands. */
export interface Written {
  readonly value: number;
  readonly interval: readonly [number, number] | null;
  readonly doubt: Estimate['doubt'];
}

/** One thing that was counted, in one cell of its tally. */
export interface CellFigures extends Written {
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

/** How one arm differs from the first. */
export interface DifferenceFigures extends Written {
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

const RANKS = ['?', 'A', '2', '3', '4', '5', '6', '7', '8', '9', '10', 'J', 'Q', 'K'];
const SUITS = ['spades', 'hearts', 'diamonds', 'clubs'];
const QUANTILES = [0.05, 0.25, 0.5, 0.75, 0.95];
/** The most cells that are written down of all settings together: the rest is only counted. */
const MOST_WRITTEN = 4_000;
/** The most bars of a distribution. */
const MOST_BARS = 60;

/** What a mark stands for, in words. */
export function markWords(
  { program, seats = REGULARS }: Pick<TrialArm, 'program' | 'seats'>,
  type: Type,
  mark: Mark,
): string {
  if (mark === OTHERS) return 'others';
  if (typeof mark === 'string') return mark;
  if (type.startsWith('kind:')) {
    const name = type.slice('kind:'.length);
    const member = program.kinds.find((kind) => kind.name === name)?.members[mark];
    if (member) return member.label ?? member.name;
    return CATEGORIES[mark] ?? String(mark);
  }
  if (mark < 0 && type !== 'int') return 'none';
  switch (type) {
    case 'flag':
      return mark === 1 ? 'yes' : 'no';
    case 'seat':
      return seats[mark] ?? `seat ${mark + 1}`;
    case 'team':
      return `team ${mark + 1}`;
    case 'rank':
      return RANKS[mark] ?? '?';
    case 'suit':
      return SUITS[mark] ?? '?';
    case 'color':
      return mark === 1 ? 'red' : 'black';
    default:
      return String(mark);
  }
}

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

/** How each arm differs from the first, in what is counted by nothing further and in the scores. */
function differencesOf(totals: TrialTotals, arms: readonly TrialArm[]): DifferenceFigures[] {
  const [first] = arms;
  if (!first || arms.length < 2) return [];
  const compared = arms.slice(1).flatMap((arm, i) => {
    const a = i + 1;
    return (totals.arms[a]?.tallies ?? []).flatMap((tally, t) => {
      const there = totals.placeInFirst(a, t);
      if (there < 0 || (tally.by.length > 0 && tally.at > 0)) return [];
      return (totals.arms[a]?.counts[t]?.cells ?? []).flatMap((cell) => {
        const other = totals.arms[0]?.counts[there]?.find(cell.marks);
        return [...cell.quantities.values()].flatMap((quantity) => {
          const its = other?.quantities.get(quantity.key);
          return other && its ? [{ arm, tally, cell, quantity, other: { cell: other, quantity: its } }] : [];
        });
      });
    });
  });
  const look = { ...totals.look, outside: 0.05 / Math.max(1, compared.length) };
  const found = compared.map((pair) => ({ ...pair, found: totals.difference(pair, pair.other, look) }));
  const corrected = holm(found.map((pair) => pair.found?.p ?? 1));
  return found.flatMap(({ arm, tally, cell, quantity, found: difference }, i) => {
    if (!difference?.interval) return [];
    const { p: _, ...written } = difference;
    const byChance = corrected[i] ?? 1;
    return [
      {
        tally: tally.name,
        marks: cell.marks.map((mark, k) => markWords(arm, tally.by[k]?.t ?? 'int', mark)),
        ...(quantity.key === null ? {} : { category: markWords(arm, tally.of, quantity.key) }),
        arm: arm.label,
        against: first.label,
        ...written,
        byChance,
        isClear: byChance < 0.05,
      },
    ];
  });
}
