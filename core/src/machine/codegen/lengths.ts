import type { Expr, Program, StmtOf } from '../../program/types.js';

/** The most parts of a def, or a routine, that is not counted. */
const MOST_PARTS = 200;

/**
 * How long defs and routines are. A short one is not counted as an operation: what it goes through is counted there,
 * and the rest takes no longer than so many parts allow, with the short ones that it calls. Those that double by
 * calling each other twice become long, so that a step still ends.
 */
export class Lengths {
  private readonly defs = new Map<number, number>();
  private readonly routines = new Map<number, number>();

  constructor(private readonly program: Program) {}

  isShort(def: number): boolean {
    return this.ofDef(def) <= MOST_PARTS;
  }
  isShortRoutine(routine: number): boolean {
    return this.ofRoutine(routine) <= MOST_PARTS;
  }

  /** The parts of a def, with those of the short ones that it calls. Neither defs nor routines recurse. */
  private ofDef(def: number): number {
    const length = this.defs.get(def) ?? this.parts(this.program.defs[def]?.body);
    this.defs.set(def, length);
    return length;
  }
  private ofRoutine(routine: number): number {
    const length = this.routines.get(routine) ?? this.parts(this.program.routines[routine]?.body);
    this.routines.set(routine, length);
    return length;
  }

  private parts(value: unknown): number {
    if (Array.isArray(value)) return value.reduce<number>((sum, part) => sum + this.parts(part), 0);
    if (value === null || typeof value !== 'object') return 0;
    const inside = Object.values(value).reduce<number>((sum, part) => sum + this.parts(part), 0);
    const { k, s, def, routine } = value as Partial<Extract<Expr, { k: 'call' }> & StmtOf<'call'>>;
    if (k === undefined && s === undefined) return inside;
    if (k === 'call' && def !== undefined && this.isShort(def)) return 1 + inside + this.ofDef(def);
    if (s === 'call' && routine !== undefined && this.isShortRoutine(routine))
      return 1 + inside + this.ofRoutine(routine);
    return 1 + inside;
  }
}
