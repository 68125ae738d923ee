import type { At, Program } from '../program/types.js';
import { eachStmt } from '../program/walk.js';

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

/** Collects what rehearsals reach. */
export class Coverage {
  private readonly reached = new Set<string>();
  readonly points: readonly CoveragePoint[];

  constructor(program: Program) {
    this.points = coveragePoints(program);
  }

  readonly hit = (kind: PointKind, at: At): void => {
    this.reached.add(`${kind} ${at}`);
  };

  get missed(): readonly CoveragePoint[] {
    return this.points.filter((point) => !this.reached.has(`${point.kind} ${point.at}`));
  }
  /** How many points of a kind there are, and how many were reached. */
  of(kind: PointKind): { readonly all: number; readonly reached: number } {
    const all = this.points.filter((point) => point.kind === kind);
    return { all: all.length, reached: all.length - this.missed.filter((point) => point.kind === kind).length };
  }
  /** The share of all points that was reached, 0 to 1. */
  get share(): number {
    return this.points.length === 0 ? 1 : 1 - this.missed.length / this.points.length;
  }
}
