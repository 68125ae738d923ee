import { childrenOf } from '../../program/tree.js';
import type { Def, Expr, Program } from '../../program/types.js';
import { FUNCTIONS } from './functions.js';

/** Expressions whose value comes from their operands, settings and variables alone. */
const OF_VARIABLES: ReadonlySet<Expr['k']> = new Set([
  'lit',
  'setting',
  'local',
  'seats',
  'var',
  'op',
  'not',
  'neg',
  'if',
  'list',
  'fold',
]);

/**
 * The variables that an expression reads, where it reads nothing else of the table: as long as none of them is
 * written, its value is what it was. `null` where it looks at cards, piles, scores or chance too, or at nothing.
 */
export function variablesOf(program: Program, e: Expr): ReadonlySet<number> | null {
  const found = new Set<number>();
  const look = (part: Expr): boolean => {
    if (part.k === 'var') found.add(part.i);
    const isReadAlone =
      OF_VARIABLES.has(part.k) ||
      (part.k === 'fn' && FUNCTIONS[part.f].pure === 'numbers') ||
      (part.k === 'call' && look((program.defs[part.def] as Def).body));
    return isReadAlone && childrenOf(part).every(look);
  };
  return look(e) && found.size > 0 ? found : null;
}
