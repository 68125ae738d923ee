import type { Expr, Plain, Program } from '../../program/types.js';

/** Functions that look at nothing but what they are given. */
const OF_ARGUMENTS: ReadonlySet<Plain> = new Set(['size', 'abs', 'min2', 'max2', 'listMin', 'listMax', 'listSum']);

/**
 * The variables that an expression reads, where it reads nothing else of the table: as long as none of them is
 * written, its value is what it was. `null` where it looks at cards, piles, scores or chance too, or at nothing.
 */
export function variablesOf(program: Program, e: Expr): ReadonlySet<number> | null {
  const found = new Set<number>();
  const looks = (...parts: readonly (Expr | null)[]): boolean => parts.every((part) => part === null || look(part));
  const look = (part: Expr): boolean => {
    switch (part.k) {
      case 'lit':
      case 'setting':
      case 'local':
      case 'seats':
        return true;
      case 'var':
        found.add(part.i);
        return looks(part.owner);
      case 'op':
        return looks(part.a, part.b);
      case 'not':
      case 'neg':
        return look(part.a);
      case 'if':
        return looks(part.c, part.a, part.b);
      case 'list':
        return looks(...part.items);
      case 'call': {
        const def = program.defs[part.def];
        return def !== undefined && look(def.body) && looks(...part.args);
      }
      case 'fold':
        return looks(part.of, part.by.body);
      case 'fn':
        return OF_ARGUMENTS.has(part.f) && looks(...part.args);
      default:
        return false;
    }
  };
  return look(e) && found.size > 0 ? found : null;
}
