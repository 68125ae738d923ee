import type { Def, Expr, Plain, Program } from '../../program/types.js';

/** Functions of cards and numbers that look at nothing else of the table. */
const OF_ARGUMENTS: ReadonlySet<Plain> = new Set([
  'size',
  'empty',
  'first',
  'last',
  'abs',
  'min2',
  'max2',
  'reversed',
  'nextRank',
  'listMin',
  'listMax',
  'listSum',
  'firstOf',
  'category',
  'handRanks',
]);
/** What goes through cards, or ranks them: worth remembering. */
const REPEATING: ReadonlySet<Expr['k']> = new Set(['fold', 'choose', 'sift', 'fits', 'largest', 'hand', 'bestFive']);
/** A def that goes through its cards less often is as quick as the comparison of the cards. */
const WORTHWHILE = 3;

/**
 * Whether the values of a def are remembered: it is given one pile, its value comes from the cards there alone,
 * in their order, and it goes through them several times.
 */
export function isRemembered(program: Program, def: Def): boolean {
  return (
    def.params.length === 1 &&
    def.params[0]?.t === 'list:card' &&
    isOfCards(program, def.body) &&
    passes(program, def.body) >= WORTHWHILE
  );
}

/** Whether an expression reads nothing but its locals, settings and the faces of cards. */
function isOfCards(program: Program, e: Expr): boolean {
  const all = (...parts: readonly (Expr | null)[]): boolean =>
    parts.every((part) => part === null || isOfCards(program, part));
  switch (e.k) {
    case 'lit':
    case 'setting':
    case 'local':
    case 'suits':
    case 'ranks':
    case 'face':
      return true;
    case 'field':
      return e.f !== 'place' && e.f !== 'pile' && all(e.of);
    case 'op':
      return all(e.a, e.b);
    case 'not':
    case 'neg':
      return all(e.a);
    case 'if':
      return all(e.c, e.a, e.b);
    case 'call': {
      const def = program.defs[e.def];
      return def !== undefined && isOfCards(program, def.body) && all(...e.args);
    }
    case 'list':
    case 'key':
      return all(...e.items);
    case 'item':
      return all(e.of, e.n);
    case 'is':
    case 'fits':
    case 'largest':
    case 'hand':
    case 'bestFive':
      return all(e.of);
    case 'fold':
    case 'choose':
    case 'sift':
      return all(e.of, e.by.body);
    case 'fn':
      return OF_ARGUMENTS.has(e.f) && all(...e.args);
    default:
      return false;
  }
}

/** How often an expression goes through cards, at least; ranking them counts for several times. */
function passes(program: Program, value: unknown): number {
  if (Array.isArray(value)) return value.reduce<number>((sum, part) => sum + passes(program, part), 0);
  if (value === null || typeof value !== 'object') return 0;
  const e = value as Expr;
  if (e.k === 'if') return passes(program, e.c) + Math.max(passes(program, e.a), passes(program, e.b));
  const inside = passes(program, Object.values(e));
  if (e.k === 'call') {
    const def = program.defs[e.def];
    return def && !isRemembered(program, def) ? inside + passes(program, def.body) : inside;
  }
  if (e.k === 'hand' || e.k === 'bestFive' || e.k === 'largest') return inside + WORTHWHILE;
  return REPEATING.has(e.k) ? inside + 1 : inside;
}
