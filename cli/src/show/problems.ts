import type { Problem } from '@wily-jester/motley';
import { paint } from './paint.js';

/** Problems with the lines that they stand in, each marked. */
export function problemLines(problems: readonly Problem[], file: string, source: string): string[] {
  const lines = source.split('\n');
  return problems.flatMap((problem) => {
    const name = problem.severity === 'error' ? paint.red('error') : paint.yellow('warning');
    const text = lines[problem.line - 1] ?? '';
    const number = String(problem.line);
    const gap = ' '.repeat(number.length);
    const marks = '^'.repeat(Math.max(1, Math.min(problem.endColumn, text.length + 1) - problem.column));
    return [
      `${paint.bold(`${file}:${problem.line}:${problem.column}`)} ${name}: ${problem.message}`,
      `  ${paint.dim(`${number} |`)} ${text}`,
      `  ${paint.dim(`${gap} |`)} ${' '.repeat(problem.column - 1)}${problem.severity === 'error' ? paint.red(marks) : paint.yellow(marks)}`,
    ];
  });
}
