import type { AuditReport, TrialFigures } from '@wily-jester/core';

/** What programs for tables take for a formula: a word of somebody's sheet must not become one (OWASP, CSV injection). */
const FORMULA = /^[=+\-@\t\r]/;
const isNumber = (text: string): boolean => /^[+-]?\d+(\.\d+)?$/.test(text);

const quoted = (value: string | number): string => {
  const given = String(value);
  const text = typeof value === 'string' && FORMULA.test(given) && !isNumber(given) ? `'${given}` : given;
  return /[",\r\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text;
};
const lines = (rows: readonly (readonly (string | number)[])[]): string =>
  `${rows.map((row) => row.map(quoted).join(',')).join('\r\n')}\r\n`;

/** One line a test, for tables elsewhere (RFC 4180). */
export const auditCsv = ({ tests }: AuditReport): string =>
  lines([
    ['test', 'eye', 'p', 'corrected', 'effect', 'mean', 'fair'],
    ...tests.map(({ name, eye, p, corrected, effect, mean, fair }) => [
      name,
      eye,
      p,
      corrected,
      effect,
      mean ?? '',
      fair ?? '',
    ]),
  ]);

/** One line a figure, for tables elsewhere (RFC 4180). */
export function trialCsv(figures: TrialFigures): string {
  const head = [
    'setting',
    'tally',
    'form',
    'first',
    'second',
    'category',
    'value',
    'from',
    'to',
    'doubt',
    'times',
    'games',
    'deviation',
    'byChance',
  ];
  const rows = figures.arms.flatMap(({ label, tallies }) =>
    tallies.flatMap(({ name, form, cells }) =>
      cells.map((cell) => [
        label,
        name,
        form,
        cell.marks[0] ?? '',
        cell.marks[1] ?? '',
        cell.category ?? '',
        cell.value,
        cell.interval?.[0] ?? '',
        cell.interval?.[1] ?? '',
        cell.doubt ?? '',
        cell.times,
        cell.games,
        cell.deviation ?? '',
        '',
      ]),
    ),
  );
  const apart = figures.differences.map((of) => [
    `${of.arm} less ${of.against}`,
    of.tally,
    'difference',
    of.marks[0] ?? '',
    of.marks[1] ?? '',
    of.category ?? '',
    of.value,
    of.interval?.[0] ?? '',
    of.interval?.[1] ?? '',
    of.doubt ?? '',
    '',
    figures.games,
    '',
    of.byChance,
  ]);
  return lines([head, ...rows, ...apart]);
}
