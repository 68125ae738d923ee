import { childrenOf } from '../../program/tree.js';
import type { Def, Expr, Program } from '../../program/types.js';
import { FUNCTIONS } from './functions.js';

/** Expressions whose value comes from their operands, from settings and from the faces of cards alone. */
const OF_CARDS: ReadonlySet<Expr['k']> = new Set([
  'lit',
  'setting',
  'local',
  'suits',
  'ranks',
  'face',
  'op',
  'not',
  'neg',
  'if',
  'list',
  'key',
  'item',
  'is',
  'fits',
  'largest',
  'ways',
  'arranged',
  'hand',
  'bestFive',
  'fold',
  'choose',
  'sift',
]);
/** What goes through cards, or ranks them: worth remembering. */
const REPEATING: ReadonlySet<Expr['k']> = new Set([
  'fold',
  'choose',
  'sift',
  'fits',
  'largest',
  'hand',
  'bestFive',
  'ways',
  'arranged',
]);
/** Of these, what sorts its cards or makes lists of them. */
const LISTING: ReadonlySet<Expr['k']> = new Set(['choose', 'sift']);
/** A def that does less with its cards is as quick as remembering what it did. */
const WORTHWHILE = { pile: 3, list: 2 };

/**
 * Whether the values of a def are remembered: its value comes from the cards alone that it is given, in their
 * order, and it goes through them several times. Those of piles are remembered as long as the pile stays as it
 * is, those of lists for the list that was asked for last: the clauses of an option ask of the same cards again.
 */
export function isMemoized(program: Program, def: Def, asPile: boolean): boolean {
  return (
    def.params.length === 1 &&
    def.params[0]?.t === 'list:card' &&
    isOfCards(program, def.body) &&
    passes(program, def.body) >= (asPile ? WORTHWHILE.pile : WORTHWHILE.list)
  );
}

/** A remembered def as it is written: its name, the name of what works it out, and its parameters. */
export interface MemoizedDef {
  readonly name: string;
  readonly work: string;
  readonly cards: string;
  readonly asPile: boolean;
  /** Read with the eyes of a viewer: where it sees other cards, it may not see these. */
  readonly guarded: boolean;
  /** How many viewers there may be. */
  readonly viewers: number;
}

/**
 * The function of a def that remembers. A value that is known costs the operations that it took when it was found: a
 * step stops at the same place either way.
 */
export function memoCode({ name, work, cards, asPile, guarded, viewers }: MemoizedDef): string {
  const params = guarded ? `s,v,${cards}` : `s,${cards}`;
  const [kept, find] = [`k${name}`, `f${name}`];
  const known = (isKnown: string, cost: string, value: string): string =>
    `function ${name}(${params}){if(${isKnown}){const n=ops+${cost};if(n<=limit){ops=n;return ${value};}}return ${find}(${params});}`;
  // Computing the value is a function of its own, so that the lookup is short enough to be inlined.
  const found = (keep: string): string =>
    `function ${find}(${params}){const before=ops,value=${work}(${params});${keep}return value;}`;
  if (asPile) {
    const at = guarded ? `${cards}*${viewers}+v+2` : cards;
    const [stamps, values, costs] = [`${kept}s`, `${kept}v`, `${kept}c`];
    return (
      `const {stamps:${stamps},values:${values},costs:${costs}}=${guarded ? 'viewerPileMemo' : 'pileMemo'}();` +
      known(`${stamps}[${at}]===s.stamp[${cards}]`, `${costs}[${at}]`, `${values}[${at}]`) +
      found(`${values}[${at}]=value;${costs}[${at}]=ops-before;${stamps}[${at}]=s.stamp[${cards}];`)
    );
  }
  const isSame = guarded ? `&&${kept}.viewer===v&&${kept}.state===s&&${kept}.since===CHANGES[0]` : '';
  const keepSame = guarded ? `${kept}.viewer=v;${kept}.state=s;${kept}.since=CHANGES[0];` : '';
  return (
    `const ${kept}=lastMemo();` +
    known(`${kept}.cards===${cards}${isSame}`, `${kept}.cost`, `${kept}.value`) +
    found(`${kept}.cards=${cards};${keepSame}${kept}.cost=ops-before;${kept}.value=value;`)
  );
}

/** Whether an expression reads nothing but its locals, settings and the faces of cards. */
export function isOfCards(program: Program, e: Expr): boolean {
  const isReadAlone =
    OF_CARDS.has(e.k) ||
    (e.k === 'field' && e.f !== 'place' && e.f !== 'pile') ||
    (e.k === 'fn' && FUNCTIONS[e.f].pure !== undefined) ||
    (e.k === 'call' && isOfCards(program, (program.defs[e.def] as Def).body));
  return isReadAlone && childrenOf(e).every((child) => isOfCards(program, child));
}

/** How often an expression goes through cards, at least; making lists of them and ranking them counts for several times. */
function passes(program: Program, e: Expr): number {
  if (e.k === 'if') return passes(program, e.c) + Math.max(passes(program, e.a), passes(program, e.b));
  const inside = childrenOf(e).reduce((sum, child) => sum + passes(program, child), 0);
  if (e.k === 'call') {
    const def = program.defs[e.def];
    return def && !isMemoized(program, def, true) ? inside + passes(program, def.body) : inside;
  }
  if (e.k === 'hand' || e.k === 'bestFive' || e.k === 'largest' || e.k === 'ways' || e.k === 'arranged')
    return inside + WORTHWHILE.pile;
  if (LISTING.has(e.k)) return inside + 2;
  return REPEATING.has(e.k) ? inside + 1 : inside;
}
