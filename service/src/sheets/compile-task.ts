import { compileRehearsals, compileSheet } from '@wily-jester/motley';
import type { CompiledSheet, SheetSource } from './compiler.js';

/** The most problems that are told of one text: whoever has mended these checks again. */
const MOST_PROBLEMS = 100;

/** Checks a stranger's texts in a process of its own, and hands back plain data. */
export default function compile({ source, rehearsals }: SheetSource): CompiledSheet {
  const { program, problems, lines, text } = compileSheet(source);
  const rehearsalProblems = rehearsals && program ? compileRehearsals(rehearsals, source).problems : [];
  return {
    program: program ?? null,
    problems: problems.slice(0, MOST_PROBLEMS),
    lines,
    text,
    rehearsalProblems: rehearsalProblems.slice(0, MOST_PROBLEMS),
  };
}
