import type { EChartsOption } from 'echarts';
import { FAINT, GRID } from './palette.js';
import { fixed } from './words.js';

/** The cells of a picture: how far they lie from its edges, in pixels, and what each of them says. */
export interface Cells {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
  readonly rows: number;
  readonly columns: number;
  read(row: number, column: number): string;
}

/** A picture: what it shows in a sentence, and how it is drawn. */
export interface Chart {
  readonly id: string;
  readonly title: string;
  /** What is drawn against what. */
  readonly about: string;
  /** What it shows, for whoever does not see it. */
  readonly sentence: string;
  readonly height: number;
  /** Its figures as a table, for whoever reads them: a head, and rows as long as it. */
  readonly table: { readonly head: readonly string[]; readonly rows: readonly (readonly string[])[] };
  /** Where it is a table that is drawn. */
  readonly cells?: Cells;
  readonly option: EChartsOption;
}

export const TEXT = {
  fontFamily: 'Instrument Sans Variable, Inter, system-ui, sans-serif',
  fontSize: 12,
  color: FAINT,
} as const;

/** What all pictures share: no motion, no frame, few lines. */
export const base = {
  animation: false,
  backgroundColor: 'transparent',
  textStyle: TEXT,
  aria: { enabled: false },
} as const;

export const axis = {
  axisLine: { show: false },
  axisTick: { show: false },
  splitLine: { lineStyle: { color: GRID } },
  axisLabel: { ...TEXT },
} as const;

export const whole = (n: number): string => n.toLocaleString('en').replace('-', '−');

/** Numbers on an axis: as few places as they need, and a real minus. */
export function axisNumber(n: number): string {
  const size = Math.abs(n);
  if (size >= 1_000_000) return `${fixed(n / 1_000_000, n % 1_000_000 === 0 ? 0 : 1)} million`;
  if (size >= 1_000) return whole(n);
  return String(Number(n.toPrecision(4))).replace('-', '−');
}

/** Room for labels at the left, in pixels: they are measured by their letters, for there may be no browser. */
export const leftOf = (labels: readonly string[]): number =>
  14 + 6.9 * Math.max(0, ...labels.map((label) => label.length));
