import type { Expr, Program } from '../../program/types.js';

/** The most parts of a def that is not counted. */
const MOST_PARTS = 200;

/**
 * How long defs are. A short one is not counted as an operation: what it goes through is counted there, and the rest
 * takes no longer than so many parts allow, with the short ones that it calls. Defs that double by calling each other
 * twice become long, so that a step still ends.
 */
export class Lengths {
  private readonly known = new Map<number, number>();

  constructor(private readonly program: Program) {}

  isShort(def: number): boolean {
    return this.of(def) <= MOST_PARTS;
  }

  /** The parts of a def, with those of the short ones that it calls. Defs do not recurse. */
  private of(def: number): number {
    let length = this.known.get(def);
    if (length === undefined) {
      length = this.parts(this.program.defs[def]?.body);
      this.known.set(def, length);
    }
    return length;
  }

  private parts(value: unknown): number {
    if (Array.isArray(value)) return value.reduce<number>((sum, part) => sum + this.parts(part), 0);
    if (value === null || typeof value !== 'object') return 0;
    const inside = Object.values(value).reduce<number>((sum, part) => sum + this.parts(part), 0);
    const { k, def } = value as Partial<Extract<Expr, { k: 'call' }>>;
    if (k === undefined) return inside;
    return 1 + inside + (def !== undefined && this.isShort(def) ? this.of(def) : 0);
  }
}
