import type { Expr, Lambda } from './expressions.js';
import { localsIn } from './tree.js';
import type { BotLine, Option, Program } from './types.js';

/** What a condition asks of each card of a set by itself. */
export interface CardTests {
  readonly each: readonly Lambda[];
  /** The condition asks nothing else. */
  readonly isWhole: boolean;
}

/**
 * What a bot's line asks of each card of its one set, such as `when not any(cs, c => c.rank != due)`: where every card can be a
 * set of its own, those that fail are in no set that the line plays, and need not be looked at with others.
 * What comes after something that is asked of the whole set is left out: it is not read where that fails.
 */
export function cardTests(program: Program, option: Option, { when, locals, args }: BotLine): CardTests {
  const NONE = { each: [], isWhole: when === null };
  const [param, ...more] = option.params;
  const [cards] = locals;
  if (when === null || cards === undefined || more.length > 0 || param?.domain.k !== 'cards') return NONE;
  const { least, grow, shapes } = param.domain;
  if (least.k !== 'lit' || least.v > 1 || grow !== null || shapes !== null || args?.some((arg) => arg !== null))
    return NONE;
  const each: Lambda[] = [];
  return { isWhole: collect(program, when, true, cards, each), each };
}

/** Collects the tests of an expression that must hold, or must not; gives whether it asks nothing else. */
function collect(program: Program, e: Expr, holds: boolean, cards: number, into: Lambda[]): boolean {
  switch (e.k) {
    case 'not':
      return collect(program, e.a, !holds, cards, into);
    case 'op':
      return (
        e.op === (holds ? 'and' : 'or') &&
        collect(program, e.a, holds, cards, into) &&
        collect(program, e.b, holds, cards, into)
      );
    case 'call': {
      const def = program.defs[e.def];
      const at = e.args.findIndex((arg) => arg.k === 'local' && arg.i === cards);
      const own = def?.params[at]?.local;
      return def !== undefined && own !== undefined && collect(program, def.body, holds, own, into);
    }
    case 'fold': {
      const test = testOf(e, holds);
      if (test === null || e.of.k !== 'local' || e.of.i !== cards) return false;
      // A test that reads other values of where it stands is none of a card alone.
      const [card, ...others] = test.params;
      if (others.length > 0 || [...localsIn(test.body)].some((local) => local !== card)) return false;
      into.push(test);
      return true;
    }
    default:
      return false;
  }
}

/** What each item must be, so that a fold holds, or does not. */
function testOf({ f, by, at }: Extract<Expr, { k: 'fold' }>, holds: boolean): Lambda | null {
  const isNot: Lambda = { params: by.params, body: { k: 'not', t: 'flag', at, a: by.body } };
  if (f === 'all') return holds ? by : null;
  if (f === 'none') return holds ? isNot : null;
  if (f === 'any') return holds ? null : isNot;
  return null;
}
