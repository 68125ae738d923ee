import { type Decision, type Program, type SolvedTable, solution, Unsolved } from '@wily-jester/core';

/** A game that is to be solved. */
export interface SolveTask {
  readonly program: Program;
  readonly table: SolvedTable;
}
export type SolveAnswer = { readonly decisions: readonly Decision[] } | { readonly unsolved: string };

/** Solves a stranger's game in a process of its own. */
export default function solve({ program, table }: SolveTask): SolveAnswer {
  try {
    return { decisions: solution(program, table) };
  } catch (error) {
    if (error instanceof Unsolved) return { unsolved: error.message };
    throw error;
  }
}
