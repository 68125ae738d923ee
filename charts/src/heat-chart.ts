import type { CellFigures, TallyFigures } from '@wily-jester/core';
import { axis, base, type Chart, leftOf, TEXT } from './chart.js';
import { INK, shadeOf, textOn } from './palette.js';
import { figureWords, scaleOf, signed } from './words.js';

/** A tally that goes by two things: a figure in each cell, shaded by how far it is from nothing. */
export function heatChart(tally: TallyFigures): Chart | null {
  if (tally.by.length !== 2 || tally.form === 'category') return null;
  const columns = [...new Set(tally.cells.map(({ marks }) => marks[1] as string))].sort(byNumber);
  const rows = [...new Set(tally.cells.map(({ marks }) => marks[0] as string))].sort(byNumber);
  if (columns.length < 2 || rows.length < 2) return null;
  const scale = scaleOf(tally.form);
  const known = tally.cells.filter(({ doubt }) => doubt === null);
  const most = Math.max(1e-12, ...known.map(({ value }) => Math.abs(value * scale)));
  const places = most >= 100 ? 0 : most >= 10 ? 1 : 2;
  const best = known.reduce((a, b) => (b.value > a.value ? b : a), known[0] as CellFigures);
  const worst = known.reduce((a, b) => (b.value < a.value ? b : a), known[0] as CellFigures);
  if (!best || !worst) return null;
  return {
    id: `table-${tally.name.replace(/\W+/g, '-')}`,
    title: `“${tally.name}”`,
    about: `By ${tally.by[0]} (down) and ${tally.by[1]} (across)${tally.form !== 'number' ? ', of a hundred' : ''}; empty where there were too few`,
    sentence: `It is most at ${best.marks.join(' against ')}, ${signed(best.value * scale, places)}, and least at ${worst.marks.join(' against ')}, ${signed(worst.value * scale, places)}.`,
    height: 44 + 30 * rows.length,
    table: {
      head: [tally.by.join(' and '), ...columns],
      rows: rows.map((row) => [
        row,
        ...columns.map((column) => {
          const cell = known.find(({ marks }) => marks[0] === row && marks[1] === column);
          return cell ? figureWords(cell, tally.form) : 'too few';
        }),
      ]),
    },
    option: {
      ...base,
      grid: { left: leftOf(rows), right: 12, top: 26, bottom: 8 },
      xAxis: {
        ...axis,
        type: 'category',
        position: 'top',
        data: columns,
        splitLine: { show: false },
        axisLabel: { ...TEXT, color: INK, fontWeight: 600, interval: 0 },
      },
      yAxis: {
        ...axis,
        type: 'category',
        inverse: true,
        data: rows,
        splitLine: { show: false },
        axisLabel: { ...TEXT, color: INK, fontWeight: 600, interval: 0 },
      },
      series: [
        {
          type: 'heatmap',
          label: { show: columns.length <= 16, fontSize: 12 },
          itemStyle: { borderColor: '#fbf6e9', borderWidth: 2, borderRadius: 3 },
          data: known.map(({ marks, value }) => {
            const shade = shadeOf((value * scale) / most);
            return {
              value: [columns.indexOf(marks[1] as string), rows.indexOf(marks[0] as string), value * scale],
              itemStyle: { color: shade },
              label: { color: textOn(shade), formatter: signed(value * scale, places) },
            };
          }),
        },
      ],
      visualMap: { show: false, min: -most, max: most, inRange: { color: ['#8a4c05', '#f3ead6', '#24547a'] } },
    },
  };
}

/** Marks in their order: numbers by size, words before them by their letters. */
export function byNumber(a: string, b: string): number {
  const read = (mark: string): readonly [string, number] => {
    const [, words = '', digits] = /^(\D*)(\d+)?/.exec(mark) ?? [];
    return [
      words.startsWith('−') || words.startsWith('-') ? '' : words,
      digits === undefined ? 0 : Number(mark.replace(/^\D*/, (w) => (w.includes('-') ? '-' : ''))),
    ];
  };
  const [wordsA, numberA] = read(a);
  const [wordsB, numberB] = read(b);
  return wordsA === wordsB ? numberA - numberB : wordsA < wordsB ? -1 : 1;
}
