import { compileRehearsals, compileSheet } from '@wily-jester/motley';
import { taskOf } from '../workers/task.js';
import type { CompiledSheet, SheetSource } from './compiler.js';

/** Checks a stranger's texts in a worker and hands back plain data. */
export default taskOf(({ source, rehearsals }: SheetSource): CompiledSheet => {
  const { program, problems, lines, text } = compileSheet(source);
  const rehearsalProblems = rehearsals && program ? compileRehearsals(rehearsals, source).problems : [];
  return { program: program ?? null, problems, lines, text, rehearsalProblems };
});
