import { childrenOf, exprsOf, innerBlocks, operandsOf } from '../../program/tree.js';
import type { Expr, Program, Stmt } from '../../program/types.js';
import { CARD, STATEMENT } from '../prices.js';

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
  private readonly weights = new Map<Expr, number>();

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

  /**
   * What an expression weighs: its parts, those that run once where it runs once. Of two branches the dearer counts;
   * what a short function is given for each item counts where it is gone through.
   */
  weightOf(e: Expr | null | undefined): number {
    if (!e) return 0;
    const known = this.weights.get(e);
    if (known !== undefined) return known;
    const weight =
      e.k === 'if'
        ? 1 + this.weightOf(e.c) + Math.max(this.weightOf(e.a), this.weightOf(e.b))
        : operandsOf(e).reduce((sum, of) => sum + this.weightOf(of), 1 + this.calledWeight(e));
    this.weights.set(e, weight);
    return weight;
  }
  private calledWeight(e: Expr): number {
    return e.k === 'call' && this.isShort(e.def) ? this.weightOf(this.program.defs[e.def]?.body) : 0;
  }

  /** What statements weigh; what loops among them repeat counts at each turn, and so do long routines. */
  weightOfBlock(body: readonly Stmt[]): number {
    return body.reduce((sum, s) => sum + this.weightOfStmt(s), 0);
  }
  private weightOfStmt(s: Stmt): number {
    // What is counted has a budget of its own.
    if (s.s === 'tally') return 0;
    const own = exprsOf(s).reduce((sum, e) => sum + this.weightOf(e), s.s === 'deal' ? 1 + CARD : 1);
    if (s.s === 'if') return own + Math.max(this.weightOfBlock(s.yes), this.weightOfBlock(s.no ?? []));
    if (s.s !== 'call' || !this.isShortRoutine(s.routine)) return own;
    return own + this.weightOfBlock(this.program.routines[s.routine]?.body ?? []);
  }
  /** What one turn of a loop costs. @param tested what is asked at each turn */
  turnOf(body: readonly Stmt[], tested: Expr | null = null): number {
    return 1 + Math.ceil(STATEMENT * (this.weightOfBlock(body) + this.weightOf(tested)));
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
    if (s.s === 'tally') return 0;
    const called = s.s === 'call' && this.isShortRoutine(s.routine) ? this.ofRoutine(s.routine) : 0;
    const own = exprsOf(s).reduce((sum, e) => sum + this.ofExpr(e), 1 + called);
    return innerBlocks(s).reduce((sum, block) => sum + this.ofBlock(block), own);
  }
}
