import { type Program, type SolvedTable, solution, Unsolved } from '@wily-jester/core';

/** A game that is to be solved. */
export interface SolveTask {
  readonly program: Program;
  readonly table: SolvedTable;
}
/** A solution as JSON, or why there is none. */
export type SolveAnswer = { readonly decisions: string } | { readonly unsolved: string };

/** Largest solution that is taken, in characters of JSON: that of seven hundred places takes a twentieth of it. */
const LARGEST = 2_000_000;

/** Solves a stranger's game in a process of its own. */
export default function solve({ program, table }: SolveTask): SolveAnswer {
  try {
    const decisions = JSON.stringify(solution(program, table));
    if (decisions.length <= LARGEST) return { decisions };
    return { unsolved: 'The solution of this game is larger than can be kept. Smaller settings may do.' };
  } catch (error) {
    if (error instanceof Unsolved) return { unsolved: error.message };
    throw error;
  }
}
