import type {
  AuditReport,
  CellFigures,
  DifferenceFigures,
  Estimate,
  TallyFigures,
  TrialFigures,
} from '@wily-jester/core';

/** A number with so many places, its sign a real minus; what is rounded to nothing has no sign. */
export function fixed(n: number, places: number): string {
  const text = n.toFixed(places);
  return text.replace('-', /[1-9]/.test(text) ? '−' : '');
}

/** A number with its sign always written, but for nothing. */
export function signed(n: number, places: number): string {
  const text = fixed(n, places);
  return n > 0 && /[1-9]/.test(text) ? `+${text}` : text;
}

/** How many places show the first two digits of an error, 0 to 6. */
export function placesFor(half: number): number {
  if (!(half > 0)) return 2;
  return Math.max(0, Math.min(6, 1 - Math.floor(Math.log10(half))));
}

/** Shares and ratios are written of a hundred. */
export const scaleOf = (form: TallyFigures['form']): number => (form === 'number' ? 1 : 100);

/** What figures of a form are written in: `%`, ` in 100`, or nothing. */
export const unitOf = (form: TallyFigures['form']): string =>
  form === 'number' ? '' : form === 'ratio' ? ' in 100' : ' %';

/** Half the width of an interval; the wider side, where it is not even. */
export const halfOf = ({ value, interval }: Estimate): number =>
  interval ? Math.max(value - interval[0], interval[1] - value) : Number.NaN;

/** What is told instead of an interval. */
const DOUBTS = { 'few games': 'few games', 'too few': 'too few to say' } as const;

/** A figure with its error: `0.42 ± 0.11`, `22.9 % ± 0.4`. */
export function figureWords(figure: Estimate, form: TallyFigures['form']): string {
  const scale = scaleOf(form);
  const unit = unitOf(form);
  const half = halfOf(figure) * scale;
  const places = figure.interval ? placesFor(half) : 2;
  const value = fixed(figure.value * scale, places);
  if (!figure.interval) return `${value}${unit} (${figure.doubt ? DOUBTS[figure.doubt] : 'no interval'})`;
  const doubt = figure.doubt ? `, ${DOUBTS[figure.doubt]}` : '';
  return half === 0 ? `${value}${unit}${doubt}` : `${value} ± ${half.toFixed(places)}${unit}${doubt}`;
}

/** How two settings differ in a figure, with a sign: `+0.21 ± 0.02`. */
export const changeWords = (of: DifferenceFigures, form: TallyFigures['form']): string =>
  `${of.value > 0 ? '+' : ''}${figureWords(of, form)}`;

/** What a cell is of, in words: its marks and its category. */
export const cellWords = ({ marks, category }: Pick<CellFigures, 'marks' | 'category'>): string =>
  [...marks, ...(category === undefined ? [] : [category])].join(' · ');

/** The figure that a difference is of. */
export const differenceName = (of: DifferenceFigures): string =>
  [of.tally, cellWords(of)].filter((words) => words !== '').join(', ');

/** How likely something is by chance, in words. */
export function chanceWords(p: number): string {
  if (p < 0.0001) return 'less than one in ten thousand';
  if (p < 0.001) return 'less than one in a thousand';
  return p > 0.1 ? p.toFixed(1) : p.toFixed(3);
}

/** What two settings come to, in one sentence. */
export function differenceSentence(of: DifferenceFigures, form: TallyFigures['form']): string {
  const scale = scaleOf(form);
  const half = halfOf(of) * scale;
  const places = placesFor(half);
  const name = differenceName(of);
  const unit = form === 'number' ? '' : ' in a hundred';
  const take = `give or take ${half.toFixed(places)}`;
  if (!of.isClear)
    return `${of.arm} and ${of.against} cannot be told apart in “${name}”: the difference is ${signed(of.value * scale, places)}${unit}, ${take}.`;
  const more = of.value > 0 ? 'more' : 'less';
  return `With ${of.arm}, “${name}” is ${fixed(Math.abs(of.value) * scale, places)}${unit} ${more} than with ${of.against}, ${take}.`;
}

/** A text as it stands in an attribute or an element. */
export const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** What a test found, beside what is fair. */
export function foundWords({ name, mean, fair, effect }: AuditReport['tests'][number]): string {
  if (mean === null || fair === null) return `±${(100 * effect).toFixed(1)} % on average`;
  if (name === 'repeats')
    return `${mean.toLocaleString('en')} pairs, fair ${fair < 0.001 ? 'none' : Number(fair.toPrecision(3)).toLocaleString('en')}`;
  const places = fair < 10 ? 3 : 1;
  return `${mean.toFixed(places)} a shuffle, fair ${fair.toFixed(places)} (${signed(100 * effect, 1)} %)`;
}

/** What a trial found, in one sentence. @param isOver whether nothing more is played */
export function headlineSentence(figures: TrialFigures, isOver: boolean): string {
  const { tally } = figures.headline;
  const [first] = figures.arms;
  const found = first?.tallies.find(({ name }) => name === tally);
  const difference = figures.differences.find((of) => of.tally === tally);
  const soFar = isOver ? '' : 'So far: ';
  if (difference) {
    const sentence = differenceSentence(difference, found?.form ?? 'number');
    return isOver ? sentence : soFar + sentence.charAt(0).toLowerCase() + sentence.slice(1);
  }
  const cell = found?.cells[0];
  if (!found || !cell) return isOver ? 'Nothing was counted.' : 'The first games are played.';
  const scale = scaleOf(found.form);
  const half = halfOf(cell) * scale;
  const places = placesFor(half);
  const unit = found.form === 'number' ? '' : ' in a hundred';
  const of = cellWords(cell);
  const take = cell.interval ? `, give or take ${half.toFixed(places)}` : '';
  return `${soFar}“${tally}${of === '' ? '' : `, ${of}`}” is ${fixed(cell.value * scale, places)}${unit}${take}.`;
}
