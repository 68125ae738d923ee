import { eachStmt } from './tree.js';
import type { At, Program } from './types.js';

/** What a rehearsal may reach of a sheet. */
export type PointKind = 'statement' | 'option' | 'guard' | 'refusal';

/** One thing that can be reached: a statement that runs, an option that is chosen, a guard that hides one, a refusal that is given. */
export interface CoveragePoint {
  readonly kind: PointKind;
  readonly at: At;
}

/** All that can be reached of a program, in the order of the sheet. */
export function coveragePoints(program: Program): CoveragePoint[] {
  const points = new Map<string, CoveragePoint>();
  const add = (kind: PointKind, at: At): void => {
    points.set(`${kind} ${at}`, { kind, at });
  };
  for (const routine of program.routines) eachStmt(routine.body, program.asks, (s) => add('statement', s.at));
  for (const ask of program.asks)
    for (const option of ask.options) {
      add('option', option.at);
      if (option.when) add('guard', option.when.at);
      for (const need of option.needs) add('refusal', need.at);
    }
  return [...points.values()].sort((a, b) => a.at - b.at);
}
