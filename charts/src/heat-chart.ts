import type { CellFigures, DifferenceFigures, Estimate, TallyFigures } from '@wily-jester/core';
import { axis, base, type Chart, leftOf, TEXT } from './chart.js';
import { INK, shadeOf, textOn } from './palette.js';
import { changeWords, figureWords, scaleOf, signed } from './words.js';

/** A figure of a table by two things. */
type Placed = Estimate & { readonly marks: readonly string[] };

interface Heat<Cell extends Placed> extends Pick<Chart, 'id' | 'title' | 'about'> {
  readonly by: readonly string[];
  readonly form: TallyFigures['form'];
  readonly cells: readonly Cell[];
  /** A figure with its error. */
  figure(cell: Cell): string;
  /** Which figures are written into their cells. */
  isWritten(cell: Cell): boolean;
  /** What the picture shows. @param told a figure as it is written */
  sentence(best: Cell, worst: Cell, told: (cell: Cell) => string): string;
}

const slug = (words: string): string => words.replace(/\W+/g, '-');
const at = ({ marks }: Placed): string => marks.join(' against ');

/** What may be nothing but chance has so much of its shade. */
const FAINT_SHADE = 0.3;

/** A figure in each cell, shaded by how far it is from nothing. */
function heat<Cell extends Placed>({ by, form, cells, figure, isWritten, sentence, ...of }: Heat<Cell>): Chart | null {
  const columns = [...new Set(cells.map(({ marks }) => marks[1] as string))].sort(byNumber);
  const rows = [...new Set(cells.map(({ marks }) => marks[0] as string))].sort(byNumber);
  if (columns.length < 2 || rows.length < 2) return null;
  const scale = scaleOf(form);
  const known = cells.filter(({ doubt }) => doubt === null);
  const written = known.filter(isWritten);
  const most = Math.max(1e-12, ...(written.length > 0 ? written : known).map(({ value }) => Math.abs(value * scale)));
  const places = most >= 100 ? 0 : most >= 10 ? 1 : 2;
  const [first] = known;
  if (!first) return null;
  const best = known.reduce((a, b) => (b.value > a.value ? b : a), first);
  const worst = known.reduce((a, b) => (b.value < a.value ? b : a), first);
  const told = ({ value }: Cell): string => signed(value * scale, places);
  const words = (row: string, column: string): string => {
    const cell = known.find(({ marks }) => marks[0] === row && marks[1] === column);
    return cell ? figure(cell) : 'too few';
  };
  const grid = { left: leftOf(rows), right: 12, top: 26, bottom: 8 };
  return {
    ...of,
    sentence: sentence(best, worst, told),
    height: 44 + 30 * rows.length,
    table: {
      head: [by.join(' and '), ...columns],
      rows: rows.map((row) => [row, ...columns.map((column) => words(row, column))]),
    },
    cells: {
      ...grid,
      rows: rows.length,
      columns: columns.length,
      read: (r, c) => `${rows[r]} against ${columns[c]}: ${words(rows[r] as string, columns[c] as string)}`,
    },
    option: {
      ...base,
      grid,
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
          data: known.map((cell) => {
            const { marks, value } = cell;
            const part = Math.max(-1, Math.min(1, (value * scale) / most));
            const shade = shadeOf(isWritten(cell) ? part : FAINT_SHADE * part);
            return {
              value: [columns.indexOf(marks[1] as string), rows.indexOf(marks[0] as string), value * scale],
              itemStyle: { color: shade },
              label: { color: textOn(shade), formatter: isWritten(cell) ? told(cell) : '' },
            };
          }),
        },
      ],
      visualMap: { show: false, min: -most, max: most, inRange: { color: ['#8a4c05', '#f3ead6', '#24547a'] } },
    },
  };
}

/** Whether a tally is a table of figures by two things. */
const isTable = ({ by, form }: TallyFigures): boolean => by.length === 2 && form !== 'category';
const ways = ({ by, form }: TallyFigures): string =>
  `By ${by[0]} (down) and ${by[1]} (across)${form !== 'number' ? ', of a hundred' : ''}`;

/** A tally that goes by two things. */
export function heatChart(tally: TallyFigures): Chart | null {
  if (!isTable(tally)) return null;
  return heat<CellFigures>({
    id: `table-${slug(tally.name)}`,
    title: `“${tally.name}”`,
    about: `${ways(tally)}; empty where there were too few`,
    by: tally.by,
    form: tally.form,
    cells: tally.cells,
    figure: (cell) => figureWords(cell, tally.form),
    isWritten: () => true,
    sentence: (best, worst, told) =>
      `It is most at ${at(best)}, ${told(best)}, and least at ${at(worst)}, ${told(worst)}.`,
  });
}

/** The cells of a tally in which an arm surely differs from the first, the largest differences first. */
export const clearCells = (differences: readonly DifferenceFigures[]): readonly DifferenceFigures[] =>
  differences.filter(({ isClear }) => isClear).sort((a, b) => Math.abs(b.value) - Math.abs(a.value));

/** How an arm differs from the first, cell by cell. @param differences of that arm in this tally */
export function changeChart(tally: TallyFigures, differences: readonly DifferenceFigures[]): Chart | null {
  const [some] = differences;
  if (!isTable(tally) || !some) return null;
  const clear = clearCells(differences);
  const [widest] = clear;
  return heat({
    id: `table-change-${slug(`${tally.name} ${some.arm}`)}`,
    title: `“${tally.name}”: ${some.arm} less ${some.against}`,
    about: `${ways(tally)}; written, and in full shade, where they surely differ`,
    by: tally.by,
    form: tally.form,
    cells: differences,
    figure: (cell) => changeWords(cell, tally.form),
    isWritten: ({ isClear }) => isClear,
    sentence: (_best, _worst, told) =>
      widest
        ? `${clear.length} of ${differences.length} cells surely differ, most at ${at(widest)}, ${told(widest)}; what is said of one allows for all of them.`
        : `None of ${differences.length} cells surely differs; more games would tell.`,
  });
}

/** Ranks that are letters stand where cards have them. */
const RANKS: Readonly<Record<string, number>> = { A: 1, J: 11, Q: 12, K: 13 };

/** Marks in their order: numbers and ranks by size, words behind the numbers by their letters, with the numbers in them by size. */
export function byNumber(a: string, b: string): number {
  const read = (mark: string): readonly [words: string, number: number] => {
    if (mark in RANKS) return ['', RANKS[mark] as number];
    const [, words = '', digits = '0'] = /^(\D*)(\d+)?/.exec(mark) ?? [];
    return words === '−' || words === '-' ? ['', -Number(digits)] : [words, Number(digits)];
  };
  const [wordsA, numberA] = read(a);
  const [wordsB, numberB] = read(b);
  return wordsA === wordsB ? numberA - numberB : wordsA < wordsB ? -1 : 1;
}
