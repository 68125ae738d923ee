import type { AuditReport } from '@wily-jester/core';
import { axis, axisNumber, base, type Chart, TEXT } from './chart.js';
import { INK, PLUM, shadeOf, ZERO } from './palette.js';

/** Most cells on a side: larger decks are drawn in blocks of cards and places. */
const MOST_CELLS = 104;
const GRID = { left: 40, right: 12, top: 8, bottom: 28 };
/** Deviations at which the shades end. */
const CLIPPED = 5;

/** A probability in few signs: `.15`, `.003`, `10⁻⁸`, `< 10⁻³⁰⁰`. */
export function probability(p: number): string {
  if (p >= 0.995) return '1';
  if (p >= 0.001) return p.toFixed(p >= 0.1 ? 2 : 3).replace(/^0/, '');
  if (p < 1e-300) return '< 10⁻³⁰⁰';
  return `10${raised(Math.round(Math.log10(p)))}`;
}

const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹';
const raised = (n: number): string =>
  (n < 0 ? '⁻' : '') + [...String(Math.abs(n))].map((digit) => RAISED[Number(digit)]).join('');

/** How a test is marked: not as it should be, or nothing found. */
export const testMark = (corrected: number): 'not' | 'nothing' => (corrected < 0.05 ? 'not' : 'nothing');

/** Deviations by card and place, the cards of large decks together in blocks. */
function cellsOf(heat: AuditReport['heat']): {
  readonly cells: [number, number, number][];
  readonly side: number;
  readonly block: number;
} {
  const n = heat.length;
  const block = Math.ceil(n / MOST_CELLS);
  const side = Math.ceil(n / block);
  const sums = Array.from({ length: side * side }, () => [0, 0] as [number, number]);
  for (const [card, row] of heat.entries())
    for (const [place, deviation] of row.entries()) {
      const cell = sums[Math.floor(card / block) * side + Math.floor(place / block)] as [number, number];
      cell[0] += deviation;
      cell[1]++;
    }
  return {
    cells: sums.map(([sum, count], i) => [i % side, Math.floor(i / side), sum / Math.sqrt(Math.max(1, count))]),
    side,
    block,
  };
}

/** Where each card goes: how far each place is from fair. */
export function heatOf(report: AuditReport): Chart {
  const { cells, side, block } = cellsOf(report.heat);
  const worst = cells.reduce((a, b) => (Math.abs(b[2]) > Math.abs(a[2]) ? b : a), cells[0] as [number, number, number]);
  const labels = Array.from({ length: side }, (_, i) => String(i * block + 1));
  const shown = (i: number): boolean => i === 0 || i === side - 1 || (i + 1) % Math.max(1, Math.round(side / 4)) === 0;
  const of = { ...axis, type: 'category' as const, data: labels, splitLine: { show: false } };
  const label = { ...TEXT, interval: (i: number): boolean => shown(i) };
  return {
    id: 'places',
    title: 'Where each card goes',
    about: `The card’s place before (down) and after (across)${block > 1 ? `, ${block} at a time` : ''}: amber too seldom, blue too often, the ends five deviations from fair`,
    sentence: `The furthest from fair is card ${labels[worst[1]]} at place ${labels[worst[0]]}, ${Math.abs(worst[2]).toFixed(1)} deviations too ${worst[2] > 0 ? 'often' : 'seldom'}.`,
    height: 380,
    table: {
      head: ['card', 'place', 'deviations from fair'],
      rows: [...cells]
        .sort((a, b) => Math.abs(b[2]) - Math.abs(a[2]))
        .slice(0, 20)
        .map(([place, card, deviation]) => [
          labels[card] ?? '',
          labels[place] ?? '',
          deviation.toFixed(1).replace('-', '−'),
        ]),
    },
    cells: {
      ...GRID,
      rows: side,
      columns: side,
      read: (card, place) => {
        const deviation = cells[card * side + place]?.[2] ?? 0;
        return `card ${labels[card]} at place ${labels[place]}: ${Math.abs(deviation).toFixed(1)} deviations too ${deviation > 0 ? 'often' : 'seldom'}`;
      },
    },
    option: {
      ...base,
      grid: GRID,
      xAxis: { ...of, axisLabel: label },
      yAxis: { ...of, inverse: true, axisLabel: label },
      visualMap: {
        show: false,
        min: -CLIPPED,
        max: CLIPPED,
        inRange: { color: [-1, -0.75, -0.5, -0.25, 0, 0.25, 0.5, 0.75, 1].map(shadeOf) },
      },
      series: [
        {
          type: 'heatmap',
          data: cells.map(([x, y, z]) => [x, y, Math.max(-CLIPPED, Math.min(CLIPPED, z))]),
          silent: true,
          progressive: 0,
        },
      ],
    },
  };
}

/** How far cards go: how often one lies so many places after its own. */
export function profileOf(report: AuditReport): Chart {
  const { profile } = report;
  const n = profile.length;
  const half = Math.floor(n / 2);
  const points = Array.from({ length: n }, (_, i): [number, number] => {
    const d = i - half + (n % 2 === 0 ? 1 : 0);
    return [d, profile[(d + n) % n] as number];
  });
  const worst = points.reduce(
    (a, b) => (Math.abs(b[1] - 1) > Math.abs(a[1] - 1) ? b : a),
    points[0] as [number, number],
  );
  const noise = 3 / Math.sqrt(Math.max(1, report.orders));
  const way =
    worst[0] === 0
      ? 'at their own place'
      : `${Math.abs(worst[0])} ${Math.abs(worst[0]) === 1 ? 'place' : 'places'} ${worst[0] > 0 ? 'after' : 'before'} it`;
  return {
    id: 'profile',
    title: 'How far cards go',
    about: 'How often a card lies so many places after its own, for each shuffle; one is fair',
    sentence: `Furthest from one is ${worst[1].toFixed(3)}, for cards ${way}; chance alone keeps within ${noise.toFixed(3)}.`,
    height: 180,
    table: {
      head: ['places after its own', 'for each shuffle'],
      rows: points.map(([d, mean]) => [axisNumber(d), mean.toFixed(3)]),
    },
    option: {
      ...base,
      grid: { left: 48, right: 16, top: 10, bottom: 26 },
      xAxis: {
        ...axis,
        type: 'value',
        min: points[0]?.[0] ?? 0,
        max: points.at(-1)?.[0] ?? 0,
        splitLine: { show: false },
        axisLabel: { ...TEXT, formatter: axisNumber },
      },
      yAxis: { ...axis, type: 'value', scale: true, splitNumber: 3, axisLabel: { ...TEXT, formatter: axisNumber } },
      series: [
        {
          type: 'line',
          symbol: 'none',
          data: points,
          lineStyle: { color: PLUM, width: 2 },
          markLine: {
            silent: true,
            symbol: 'none',
            label: { show: true, position: 'insideEndTop', formatter: 'fair', color: INK },
            lineStyle: { color: ZERO, type: 'solid', width: 1 },
            data: [{ yAxis: 1 }],
          },
        },
      ],
    },
  };
}

/** All pictures of an audit. */
export const auditCharts = (report: AuditReport): Chart[] => [heatOf(report), profileOf(report)];
