import {
  byNumber,
  cellWords,
  chanceWords,
  changeWords,
  clearCells,
  differenceSentence,
  figureWords,
  fixed,
  scaleOf,
  tablesOf,
} from '@wily-jester/charts';
import type { DifferenceFigures, TallyFigures, TrialFigures } from '@wily-jester/core';
import { padded, paint } from '../show/paint.js';
import { print } from '../show/print.js';

const whole = (n: number): string => n.toLocaleString('en');
/** Widest table by two keys, in columns. */
const MOST_COLUMNS = 14;
/** Cells in which settings differ; the rest is in the files. */
const MOST_CELLS = 6;
/** Rows of one tally; the rest is in the files. */
const MOST_ROWS = 16;

/** A tally by two things, as a grid of figures. */
function grid(tally: TallyFigures): string[] | null {
  if (tally.by.length !== 2 || tally.form === 'category') return null;
  const columns = [...new Set(tally.cells.map(({ marks }) => marks[1] as string))].sort(byNumber);
  const rows = [...new Set(tally.cells.map(({ marks }) => marks[0] as string))].sort(byNumber);
  if (columns.length > MOST_COLUMNS) return null;
  const scale = scaleOf(tally.form);
  const most = Math.max(...tally.cells.map(({ value }) => Math.abs(value * scale)));
  const places = most >= 100 ? 0 : most >= 10 ? 1 : 2;
  const written = (row: string, column: string): string => {
    const cell = tally.cells.find(({ marks }) => marks[0] === row && marks[1] === column);
    return cell && cell.doubt === null ? fixed(cell.value * scale, places) : '·';
  };
  const width = Math.max(4, ...columns.map((column) => column.length), places + 5);
  const head = Math.max(...rows.map((row) => row.length));
  const line = (first: string, cells: readonly string[]): string =>
    `    ${first.padStart(head)} ${cells.map((cell) => cell.padStart(width)).join(' ')}`;
  return [
    paint.dim(line('', columns)),
    ...rows.map((row) =>
      line(
        row,
        columns.map((column) => written(row, column)),
      ),
    ),
    paint.dim(`    by ${tally.by.join(' (down) and ')} (across); · where there were too few`),
  ];
}

function tallyLines(tally: TallyFigures): string[] {
  const { cells, form } = tally;
  const [only] = cells;
  if (cells.length === 1 && only && only.marks.length === 0 && only.category === undefined) {
    const parts = [figureWords(only, form)];
    if (only.deviation) parts.push(`spread ${fixed(only.deviation, 2)}`);
    const middle = only.quantiles?.find(({ share }) => share === 0.5);
    if (middle && only.least !== only.most)
      parts.push(`from ${whole(only.least ?? 0)} to ${whole(only.most ?? 0)}, half below ${whole(middle.value)}`);
    return [`  ${paint.bold(tally.name)}  ${parts.join(' · ')}`];
  }
  const lines = grid(tally) ?? shown(tally);
  return [`  ${paint.bold(tally.name)}`, ...lines];
}

function shown({ cells, form }: TallyFigures): string[] {
  const width = Math.min(30, Math.max(...cells.map((cell) => cellWords(cell).length)));
  const rows = cells
    .slice(0, MOST_ROWS)
    .map((cell) => `    ${padded(cellWords(cell), width)}  ${figureWords(cell, form)}`);
  return cells.length > MOST_ROWS
    ? [...rows, paint.dim(`    and ${cells.length - MOST_ROWS} more: --json or --csv`)]
    : rows;
}

/** How settings differ: what is clear first, and how much the common cards were worth. */
function differenceLines(figures: TrialFigures): string[] {
  const form = (of: DifferenceFigures): TallyFigures['form'] =>
    figures.arms[0]?.tallies.find(({ name }) => name === of.tally)?.form ?? 'number';
  const tables = new Map(tablesOf(figures).map((tally) => [tally.name, tally]));
  const plain = figures.differences.filter(({ tally }) => !tables.has(tally));
  const order = [...plain].sort((a, b) => Number(b.isClear) - Number(a.isClear));
  const headline = order.filter(({ tally }) => tally === figures.headline.tally);
  const others = order.filter((of) => of.tally !== figures.headline.tally && of.isClear && !UNTOLD.has(of.tally));
  const saved = (of: DifferenceFigures): string =>
    of.pairing > 1.5
      ? ` The same cards for both saved ${of.pairing >= 10 ? Math.round(of.pairing) : of.pairing.toFixed(1)} times the games.`
      : '';
  return [
    ...headline.map(
      (of) =>
        `  ${paint.bold(differenceSentence(of, form(of)))}${paint.dim(` By chance alone: ${chanceWords(of.byChance)}.${saved(of)}`)}`,
    ),
    ...others.slice(0, MOST_ROWS).map((of) => `  ${differenceSentence(of, form(of))}`),
    ...(plain.length > 1
      ? [paint.dim(`  ${plain.length} figures were compared; what is said allows for all of them.`)]
      : []),
    ...figures.arms
      .slice(1)
      .flatMap(({ label }) => [...tables.values()].flatMap((tally) => cellLines(figures, tally, label))),
  ];
}

/** In which cells of a tally an arm differs from the first. */
function cellLines({ differences }: TrialFigures, tally: TallyFigures, arm: string): string[] {
  const cells = differences.filter((of) => of.tally === tally.name && of.arm === arm);
  const clear = clearCells(cells);
  if (cells.length === 0) return [];
  const head = `  ${paint.bold(`${tally.name}: ${arm} less ${cells[0]?.against}`)}  ${
    clear.length === 0
      ? `none of ${cells.length} cells surely differs`
      : `${clear.length} of ${cells.length} cells surely differ`
  }`;
  const width = Math.max(0, ...clear.slice(0, MOST_CELLS).map((cell) => cellWords(cell).length));
  return [
    head,
    ...clear
      .slice(0, MOST_CELLS)
      .map((cell) => `    ${padded(cellWords(cell), width)}  ${changeWords(cell, tally.form)}`),
    ...(clear.length > MOST_CELLS ? [paint.dim(`    and ${clear.length - MOST_CELLS} more: --json or --csv`)] : []),
  ];
}

/** What follows from others, and is told in the files alone. */
const UNTOLD: ReadonlySet<string> = new Set(['options taken', 'best score', 'choices of a game', 'chapters of a game']);

const ENDS: Record<TrialFigures['ended'], string> = {
  'all games': '',
  'known well enough': ' It is known as exactly as was asked.',
  'surely different': ' They surely differ.',
  'stopped early': ' Stopped early: intervals are the wider ones that allow for that.',
};

/** A figure of one game: nothing is estimated there, so that it is told as it is. */
function countedWords({ value, times }: TallyFigures['cells'][number], form: TallyFigures['form']): string {
  if (form === 'category') return whole(times);
  if (form === 'share') return `${whole(Math.round(value * times))} of ${whole(times)}`;
  const figure = fixed(value, Number.isInteger(value) ? 0 : 2);
  return form === 'number' && times > 1 ? `${figure} on average, ${whole(times)} times` : figure;
}

/** The figures of one game that was played, in lines. */
export function printGame(title: string, { arms }: TrialFigures): void {
  print(paint.bold(title));
  for (const { tallies, endless } of arms) {
    for (const { name, form, cells } of tallies)
      for (const cell of cells)
        print(`  ${paint.bold(name)}  ${[cellWords(cell), countedWords(cell, form)].filter(Boolean).join('  ')}`);
    if (endless > 0) print(paint.dim('  The game is not over: its end is not counted.'));
  }
}

/** A trial's figures in lines. */
export function printTrial(title: string, figures: TrialFigures, seconds: number): void {
  print(paint.bold(title));
  for (const [i, { label, tallies, endless }] of figures.arms.entries()) {
    if (figures.arms.length > 1) print(`${paint.underline(label)}`);
    const own =
      figures.arms.length > 1
        ? tallies.filter(({ name, by }) => !UNTOLD.has(name) && (i === 0 || by.length < 2))
        : tallies;
    for (const tally of own) for (const line of tallyLines(tally)) print(line);
    if (endless > 0)
      print(
        paint.yellow(
          `  ${whole(endless)} games were not over after the most choices (--longest): their ends count for nothing.`,
        ),
      );
  }
  if (figures.arms.length > 1) for (const line of differenceLines(figures)) print(line);
  const rate = Math.round((figures.games * figures.arms.length) / Math.max(0.001, seconds));
  print(
    paint.dim(
      `  ${whole(figures.games)} games${figures.arms.length > 1 ? ` under each of ${figures.arms.length}` : ''}, ${seconds.toFixed(1)} s, ${whole(rate)} a second; ± is a 95 % interval.${ENDS[figures.ended]}`,
    ),
  );
}
