import { childrenOf, exprsOf, innerBlocks } from '../../program/tree.js';
import type { Expr, Program, Stmt } from '../../program/types.js';

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
    const length = this.defs.get(def) ?? this.ofExpr(this.program.defs[def]?.body);
    this.defs.set(def, length);
    return length;
  }
  private ofRoutine(routine: number): number {
    const length = this.routines.get(routine) ?? this.ofBlock(this.program.routines[routine]?.body ?? []);
    this.routines.set(routine, length);
    return length;
  }

  private ofExpr(e: Expr | null | undefined): number {
    if (!e) return 0;
    const called = e.k === 'call' && this.isShort(e.def) ? this.ofDef(e.def) : 0;
    return childrenOf(e).reduce((sum, child) => sum + this.ofExpr(child), 1 + called);
  }
  private ofBlock(body: readonly Stmt[]): number {
    return body.reduce((sum, s) => sum + this.ofStmt(s), 0);
  }
  private ofStmt(s: Stmt): number {
    const called = s.s === 'call' && this.isShortRoutine(s.routine) ? this.ofRoutine(s.routine) : 0;
    const own = exprsOf(s).reduce((sum, e) => sum + this.ofExpr(e), 1 + called);
    return innerBlocks(s).reduce((sum, block) => sum + this.ofBlock(block), own);
  }
}
