import { type CoveragePoint, coveragePoints, type PointKind } from '../program/points.js';
import type { At, Program } from '../program/types.js';

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
