import type { CellFigures, TallyFigures, TrialFigures } from '@wily-jester/core';
import { axis, axisNumber, base, type Chart, leftOf, TEXT, whole } from './chart.js';
import { changeChart, heatChart } from './heat-chart.js';
import { ARMS, INK, PLUM, ZERO } from './palette.js';
import { figureWords, fixed, scaleOf } from './words.js';

/** Before so many games a band says little. */
const LEAST_GAMES = 1_000;

/** How a figure settled as games were played, with the band that it may be watched by. */
export function wayChart({ headline, arms }: TrialFigures): Chart | null {
  const { tally } = headline;
  const points = headline.points.filter(({ games, half }) => games >= LEAST_GAMES && half > 0);
  if (points.length < 3) return null;
  const form = arms[0]?.tallies.find(({ name }) => name === tally)?.form ?? 'number';
  const scale = scaleOf(form);
  const last = points.at(-1);
  if (!last) return null;
  const isDifference = arms.length > 1;
  const first = points.find(({ half }) => Number.isFinite(half));
  const wide = Math.max(
    ...points.slice(Math.floor(points.length / 8)).map(({ value, half }) => Math.abs(value - last.value) + half),
  );
  const [low, high] = [(last.value - wide) * scale, (last.value + wide) * scale];
  const cut = (n: number): number => Math.max(low, Math.min(high, n));
  const places = Math.max(0, 2 - Math.floor(Math.log10(Math.max(1e-9, last.half * scale))) - 1);
  const name = isDifference ? `${arms[1]?.label} less ${arms[0]?.label}` : tally;
  return {
    id: 'way',
    title: 'How the answer settled',
    about: `${isDifference ? `The difference in “${tally}”` : `“${tally}”`}${form !== 'number' ? ', of a hundred,' : ''} as games were played; the band holds however often it is looked at`,
    sentence: `After ${whole(last.games)} games ${name} is ${fixed(last.value * scale, places)}, give or take ${(last.half * scale).toFixed(places)}; after ${whole(first?.games ?? 0)} it was known to within ${((first?.half ?? 0) * scale).toFixed(places)}.`,
    height: 210,
    table: {
      head: ['games', name, 'give or take'],
      rows: points.map(({ games, value, half }) => [
        whole(games),
        fixed(value * scale, places),
        (half * scale).toFixed(places),
      ]),
    },
    option: {
      ...base,
      grid: { left: 52, right: 92, top: 12, bottom: 26 },
      xAxis: {
        ...axis,
        type: 'log',
        min: points[0]?.games ?? 1,
        max: last.games,
        splitLine: { show: false },
        axisLabel: { ...TEXT, formatter: axisNumber },
      },
      yAxis: {
        ...axis,
        type: 'value',
        min: low,
        max: high,
        splitNumber: 4,
        axisLabel: { ...TEXT, formatter: axisNumber, showMinLabel: false, showMaxLabel: false },
      },
      series: [
        {
          type: 'line',
          stack: 'band',
          stackStrategy: 'all',
          symbol: 'none',
          lineStyle: { opacity: 0 },
          data: points.map(({ games, value, half }) => [games, cut((value - half) * scale)]),
        },
        {
          type: 'line',
          stack: 'band',
          stackStrategy: 'all',
          symbol: 'none',
          lineStyle: { opacity: 0 },
          areaStyle: { color: PLUM, opacity: 0.17 },
          data: points.map(({ games, value, half }) => [
            games,
            cut((value + half) * scale) - cut((value - half) * scale),
          ]),
        },
        {
          type: 'line',
          symbol: 'none',
          lineStyle: { color: PLUM, width: 2 },
          data: points.map(({ games, value }) => [games, cut(value * scale)]),
          endLabel: {
            show: true,
            formatter: () => `${fixed(last.value * scale, places)}\n± ${(last.half * scale).toFixed(places)}`,
            color: INK,
            fontSize: 13,
            lineHeight: 17,
            fontWeight: 600,
          },
          ...(low < 0 && high > 0
            ? {
                markLine: {
                  silent: true,
                  symbol: 'none',
                  label: { show: false },
                  lineStyle: { color: ZERO, type: 'solid', width: 1 },
                  data: [{ yAxis: 0 }],
                },
              }
            : {}),
        },
      ],
    },
  };
}

/** A figure's interval as a capped line: its ends, and what is drawn at its middle. */
interface Bar {
  readonly label: string;
  readonly figure: CellFigures | TrialFigures['differences'][number];
  readonly color: string;
  readonly symbol: string;
}

function intervalChart(
  id: string,
  title: string,
  about: string,
  form: TallyFigures['form'],
  bars: readonly Bar[],
): Chart {
  const scale = scaleOf(form);
  const rows = bars.map(({ label, figure }) => `${label}: ${figureWords(figure, form)}`);
  const line = (i: number): [number, number] => {
    const { value, interval } = (bars[i] as Bar).figure;
    const [from, to] = interval ?? [value, value];
    return [from * scale, to * scale];
  };
  const everywhere = bars.flatMap((_, i) => line(i));
  const spare = (Math.max(...everywhere) - Math.min(...everywhere)) * 0.12 || 1;
  const [low, high] = [Math.min(...everywhere) - spare, Math.max(...everywhere) + spare];
  return {
    id,
    title,
    about,
    sentence: `${rows.join('; ')}.`,
    height: 54 + 42 * bars.length,
    table: { head: ['of', 'figure'], rows: bars.map(({ label, figure }) => [label, figureWords(figure, form)]) },
    option: {
      ...base,
      grid: { left: leftOf(rows.flatMap((row) => row.split(': '))), right: 16, top: 8, bottom: 26 },
      xAxis: {
        ...axis,
        type: 'value',
        ...(everywhere.length > 0 ? { min: low, max: high } : {}),
        splitNumber: 4,
        axisLabel: { ...TEXT, formatter: axisNumber, hideOverlap: true, showMinLabel: false, showMaxLabel: false },
      },
      yAxis: {
        ...axis,
        type: 'category',
        inverse: true,
        splitLine: { show: false },
        data: rows.map((row) => row.replace(': ', '\n')),
        axisLabel: { ...TEXT, color: INK, lineHeight: 16, align: 'right' },
      },
      series: [
        {
          type: 'scatter',
          data: bars.map(({ figure, color, symbol }, i) => ({
            value: [figure.value * scale, i],
            symbol,
            symbolSize: 11,
            itemStyle: { color },
          })),
          z: 3,
          markLine: {
            silent: true,
            symbol: ['rect', 'rect'],
            symbolSize: [2, 10],
            label: { show: false },
            lineStyle: { type: 'solid', width: 2 },
            data: bars.map(({ color }, i) => [
              { coord: [line(i)[0], i], lineStyle: { color }, itemStyle: { color } },
              { coord: [line(i)[1], i] },
            ]),
          },
        },
      ],
    },
  };
}

/** One figure under each setting, and how they differ. */
export function againstChart(figures: TrialFigures, tally: string): Chart | null {
  const { arms } = figures;
  const bars = arms.flatMap(({ label, tallies }, i): Bar[] => {
    const figure = tallies.find(({ name }) => name === tally)?.cells[0];
    const { color, symbol } = ARMS[i % ARMS.length] as (typeof ARMS)[number];
    return figure ? [{ label, figure, color, symbol }] : [];
  });
  const form = arms[0]?.tallies.find(({ name }) => name === tally)?.form ?? 'number';
  if (bars.length < 2) return null;
  return intervalChart(
    'against',
    `“${tally}”`,
    `${form !== 'number' ? 'Of a hundred, t' : 'T'}he same shuffles for all`,
    form,
    bars,
  );
}

/** How each other setting differs from the first. */
export function differenceChart(figures: TrialFigures, tally: string): Chart | null {
  const form = figures.arms[0]?.tallies.find(({ name }) => name === tally)?.form ?? 'number';
  const bars = figures.differences
    .filter((of) => of.tally === tally)
    .slice(0, 8)
    .map((of): Bar => ({ label: `${of.arm} less ${of.against}`, figure: of, color: PLUM, symbol: 'diamond' }));
  return bars.length === 0
    ? null
    : intervalChart(
        'difference',
        'The difference',
        form !== 'number' ? 'Of a hundred' : 'On its own scale',
        form,
        bars,
      );
}

/** Single values as bars, those of further settings as outlined steps. */
export function spreadChart(figures: TrialFigures, tally: string): Chart | null {
  const kept = figures.arms.flatMap(({ label, tallies }, i) => {
    const cell = tallies.find(({ name }) => name === tally)?.cells[0];
    return cell?.bars && cell.bars.length > 1 ? [{ label, cell, bars: cell.bars, i }] : [];
  });
  const [first] = kept;
  if (!first) return null;
  // The outline of the bars: from each edge on, how high it goes; nothing where there are gaps.
  const outline = (bars: NonNullable<CellFigures['bars']>): [number, number][] => {
    const all = bars.reduce((sum, [, , n]) => sum + n, 0);
    const points: [number, number][] = [];
    let end = Number.NaN;
    for (const [from, to, n] of bars) {
      if (from - 0.5 !== end && points.length > 0) points.push([end, 0]);
      if (points.length === 0) points.push([from - 0.5, 0]);
      points.push([from - 0.5, (100 * n) / all / (to - from + 1)]);
      end = to + 0.5;
    }
    return [...points, [end, 0]];
  };
  const { cell } = first;
  const [, quarter, , threeQuarters] = cell.quantiles ?? [];
  return {
    id: `spread-${tally.replace(/\W+/g, '-')}`,
    title: `“${tally}”`,
    about: `How often each value comes, of a hundred${kept.length > 1 ? `: bars ${first.label}, steps the others` : ''}`,
    sentence: `From ${axisNumber(cell.least ?? 0)} to ${axisNumber(cell.most ?? 0)}, ${axisNumber(cell.value)} on average; half of all lie between ${axisNumber(quarter?.value ?? 0)} and ${axisNumber(threeQuarters?.value ?? 0)}.`,
    height: 220,
    table: {
      head: ['under', 'from', 'to', 'times'],
      rows: kept.flatMap(({ label, bars }) =>
        bars.map(([from, to, n]) => [label, axisNumber(from), axisNumber(to), whole(n)]),
      ),
    },
    option: {
      ...base,
      grid: { left: 44, right: 16, top: 10, bottom: 26 },
      xAxis: {
        ...axis,
        type: 'value',
        scale: true,
        splitLine: { show: false },
        axisLabel: { ...TEXT, formatter: axisNumber, hideOverlap: true },
      },
      yAxis: { ...axis, type: 'value', min: 0, splitNumber: 3, axisLabel: { ...TEXT, formatter: axisNumber } },
      series: kept.map(({ bars, i, label }) => {
        const color = ARMS[i % ARMS.length]?.color ?? INK;
        return {
          type: 'line' as const,
          name: label,
          step: 'end' as const,
          symbol: 'none',
          data: outline(bars),
          lineStyle: { color, width: i === first.i ? 1 : 2 },
          ...(i === first.i ? { areaStyle: { color, opacity: 0.55 } } : {}),
        };
      }),
    },
  };
}

/** Categories with their shares and intervals, the most frequent first. */
export function sharesChart(figures: TrialFigures, tally: TallyFigures): Chart | null {
  if (tally.form !== 'category' || tally.by.length > 0) return null;
  const bars = tally.cells
    .slice(0, 12)
    .map((figure): Bar => ({ label: figure.category ?? '', figure, color: ARMS[0].color, symbol: ARMS[0].symbol }));
  if (bars.length < 2) return null;
  const chart = intervalChart(
    `shares-${tally.name.replace(/\W+/g, '-')}`,
    `“${tally.name}”`,
    `Shares of a hundred, ${whole(figures.games)} games`,
    'category',
    bars,
  );
  return { ...chart, height: 40 + 34 * bars.length };
}

/** All pictures of a trial, the telling ones first. */
export function trialCharts(figures: TrialFigures): Chart[] {
  const [first] = figures.arms;
  if (!first) return [];
  const own = first.tallies.filter(isOwn);
  const told = own.length > 0 ? own : first.tallies;
  const { tally } = figures.headline;
  const found = [
    wayChart(figures),
    againstChart(figures, tally),
    differenceChart(figures, tally),
    ...told.flatMap((one) => [heatChart(one), ...changeCharts(figures, one)]),
    ...told.map((one) => sharesChart(figures, one)),
    ...[...told, ...first.tallies.filter(({ name }) => name === 'score' || name === 'choices of a game')].map(
      ({ name }) => spreadChart(figures, name),
    ),
  ];
  const seen = new Set<string>();
  return found.filter(
    (chart): chart is Chart => chart !== null && !seen.has(chart.id) && seen.add(chart.id) !== undefined,
  );
}

/** How each further setting differs from the first in a table. */
const changeCharts = ({ arms, differences }: TrialFigures, tally: TallyFigures): (Chart | null)[] =>
  arms.slice(1).map(({ label }) =>
    changeChart(
      tally,
      differences.filter((of) => of.tally === tally.name && of.arm === label),
    ),
  );

/** Whether a sheet counts it; a trial always counts some things, whatever the sheet says. */
const isOwn = ({ name }: TallyFigures): boolean => !ALWAYS.has(name);

/** The sheet's tallies that go by something: their cells are compared among themselves. */
export const tablesOf = ({ arms }: TrialFigures): TallyFigures[] =>
  (arms[0]?.tallies ?? []).filter((tally) => tally.by.length > 0 && isOwn(tally));

const ALWAYS: ReadonlySet<string> = new Set([
  'score',
  'best score',
  'choices of a game',
  'chapters of a game',
  'options taken',
]);
