import { axis, axisNumber, base, type Chart, TEXT } from './chart.js';
import { fixed, signed } from './words.js';

/** Colours on the water of a table, from its theme. */
const NIGHT = '#101e2d';
const MIST = '#c3d0d9';
const WHITE = '#ffffff';
const GRID = '#2b4154';
const ZERO = '#7d93a3';
const BAND = '#8a4f80';
const LOSS = '#e0655b';
const LOSS_TEXT = '#f4b6ae';

/** One choice of a seat, and what it could expect in points by the end of the chapter. */
export interface WorthStep {
  readonly number: number;
  readonly words: string;
  /** With the best choice that it had, and with the one that it made. */
  readonly best: number;
  readonly taken: number;
  /** Half the 95 % interval of the latter. */
  readonly half: number;
  /** What the choice cost: 0 where nothing was clearly better. */
  readonly cost: number;
}

/** What a seat could expect in one chapter, as far as it has been thought about. */
export interface Worth {
  readonly seat: string;
  readonly chapter: string;
  /** The numbers between which the chapter lies. */
  readonly from: number;
  readonly to: number;
  /** In their order; the earlier ones may be missing still. */
  readonly steps: readonly WorthStep[];
  /** How many of its choices are still to be thought about. */
  readonly missing: number;
  /** Points that the chapter brought in the end; `null` while nothing is known. */
  readonly ended: number | null;
}

const TEXT_ON_WATER = { ...TEXT, color: MIST };
type Point = readonly [number, number];

/** What a seat could expect, choice by choice, and what its choices cost. */
export function worthChart({ seat, chapter, from, to, steps, missing, ended }: Worth): Chart {
  const line: Point[] = [];
  const low: Point[] = [];
  const high: Point[] = [];
  for (const [i, step] of steps.entries()) {
    const until = steps[i + 1]?.number ?? to;
    line.push([step.number, step.best], [step.number, step.taken], [until, step.taken]);
    low.push([step.number, step.taken - step.half], [until, step.taken - step.half]);
    high.push([step.number, 2 * step.half], [until, 2 * step.half]);
  }
  const [first] = steps;
  const dotted: Point[] = first
    ? [
        [from, first.best],
        [first.number, first.best],
      ]
    : [];
  const costs = steps.filter(({ cost }) => cost > 0);
  const largest = costs.reduce((a, b) => (b.cost > a.cost ? b : a), costs[0] ?? { cost: 0, number: -1 });
  return {
    id: 'worth',
    title: `What ${seat} could expect`,
    about: `points ahead of the others by the end of ${chapter || 'the game'}, by what ${seat} could see`,
    sentence: sentenceOf(seat, steps, missing, ended),
    height: 168,
    table: {
      head: ['number', 'choice', 'best', 'made', 'cost'],
      rows: steps.map(({ number, words, best, taken, half, cost }) => [
        String(number),
        words,
        signed(best, 1),
        `${signed(taken, 1)} ± ${half.toFixed(1)}`,
        cost > 0 ? cost.toFixed(1) : '',
      ]),
    },
    option: {
      ...base,
      grid: { left: 44, right: 64, top: 16, bottom: 22 },
      xAxis: {
        ...axis,
        type: 'value',
        min: from,
        max: Math.max(to, from + 1),
        minInterval: 1,
        splitLine: { show: false },
        axisLabel: { ...TEXT_ON_WATER, formatter: axisNumber },
      },
      yAxis: {
        ...axis,
        type: 'value',
        scale: true,
        splitNumber: 3,
        splitLine: { lineStyle: { color: GRID } },
        axisLabel: { ...TEXT_ON_WATER, formatter: (n: number) => (n > 0 ? '+' : '') + axisNumber(n) },
      },
      series: [
        plain('line', low, { stack: 'band', stackStrategy: 'all', lineStyle: { opacity: 0 } }),
        plain('line', high, {
          stack: 'band',
          stackStrategy: 'all',
          lineStyle: { opacity: 0 },
          areaStyle: { color: BAND, opacity: 0.45 },
        }),
        plain('line', dotted, { lineStyle: { color: MIST, width: 1.5, type: 'dotted' } }),
        plain('line', line, {
          lineStyle: { color: WHITE, width: 2 },
          ...(ended === null ? {} : { endLabel: endLabel(ended) }),
          markLine: {
            silent: true,
            symbol: 'none',
            label: { show: false },
            lineStyle: { color: ZERO, type: 'solid', width: 1 },
            data: [{ yAxis: 0 }],
          },
        }),
        ...costs.map(({ number, best, taken, cost }) =>
          plain(
            'line',
            [
              [number, best],
              [number, taken],
            ],
            {
              lineStyle: { color: LOSS, width: number === largest.number ? 6 : 4 },
              endLabel: {
                show: number === largest.number,
                formatter: () => `−${cost.toFixed(1)}`,
                color: LOSS_TEXT,
                fontSize: 14,
                fontWeight: 600,
                distance: 10,
                backgroundColor: NIGHT,
                padding: [2, 4],
                borderRadius: 4,
              },
            },
          ),
        ),
        {
          type: 'scatter' as const,
          silent: true,
          symbol: 'diamond',
          symbolSize: 9,
          itemStyle: { color: WHITE },
          data: steps.map(({ number, taken }): [number, number] => [number, taken]),
        },
      ],
    },
  };
}

const plain = (type: 'line', data: readonly Point[], more: object) => ({
  type,
  symbol: 'none' as const,
  silent: true,
  data: data.map(([x, y]): [number, number] => [x, y]),
  ...more,
});

const endLabel = (ended: number): object => ({
  show: true,
  formatter: () => `ended\n${signed(ended, Number.isInteger(ended) ? 0 : 1)}`,
  color: WHITE,
  fontSize: 12,
  lineHeight: 15,
  fontWeight: 600,
});

function sentenceOf(seat: string, steps: readonly WorthStep[], missing: number, ended: number | null): string {
  const [first] = steps;
  if (!first) return missing > 0 ? 'Nothing is thought about yet.' : `${seat} had nothing to choose here.`;
  const sum = steps.reduce((all, { cost }) => all + cost, 0);
  const end = ended === null ? '' : ` The chapter ended at ${signed(ended, Number.isInteger(ended) ? 0 : 1)}.`;
  const cost = sum > 0 ? `what was chosen cost ${sum.toFixed(1)} in all` : 'nothing that was chosen was clearly worse';
  return `${missing > 0 ? 'So far: ' : ''}${seat} could expect ${fixed(first.best, 1)} points; ${cost}.${end}`;
}
