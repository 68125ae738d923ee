import type { Problem } from '@wily-jester/motley';
import { paint } from './paint.js';

/** A source line is shown so wide where no terminal says how wide it is, in characters. */
const USUAL_WIDTH = 120;
/** Of what stands before a mark at least so much stays. */
const BEFORE = 24;

/** A stretch of a source line around a mark, as long as a terminal is wide; what is left out is an ellipsis. */
function cutAround(
  text: string,
  column: number,
  marked: number,
  width: number,
): { readonly text: string; readonly column: number; readonly marked: number } {
  if (text.length <= width) return { text, column, marked };
  // The mark stays in sight with something before it; a line that begins within sight begins at its beginning.
  const end = column - 1 + Math.min(marked, width - BEFORE);
  const start = end < width ? 0 : Math.min(column - 1 - BEFORE, text.length - width);
  const piece = text.slice(start, start + width);
  const head = start > 0 ? `…${piece.slice(1)}` : piece;
  const shown = start + width < text.length ? `${head.slice(0, -1)}…` : head;
  const at = Math.max(1, column - start);
  return { text: shown, column: at, marked: Math.max(1, Math.min(marked, width - at + 1)) };
}

/** Problems with the lines that they stand in, each marked; long lines are cut around their mark. */
export function problemLines(problems: readonly Problem[], file: string, source: string): string[] {
  const lines = source.split('\n');
  return problems.flatMap((problem) => {
    const name = problem.severity === 'error' ? paint.red('error') : paint.yellow('warning');
    const line = lines[problem.line - 1] ?? '';
    const number = String(problem.line);
    const gap = ' '.repeat(number.length);
    const width = Math.max(40, (process.stdout.columns ?? USUAL_WIDTH) - number.length - 6);
    const long = Math.max(1, Math.min(problem.endColumn, line.length + 1) - problem.column);
    const { text, column, marked } = cutAround(line, problem.column, long, width);
    const marks = '^'.repeat(marked);
    return [
      `${paint.bold(`${file}:${problem.line}:${problem.column}`)} ${name}: ${problem.message}`,
      `  ${paint.dim(`${number} |`)} ${text}`,
      `  ${paint.dim(`${gap} |`)} ${' '.repeat(column - 1)}${problem.severity === 'error' ? paint.red(marks) : paint.yellow(marks)}`,
    ];
  });
}
