import type { Expr, ExprOf, Plain } from '../../program/types.js';
import { LONGEST_LIST } from '../runtime/lists.js';
import { literalText } from './texts.js';
import type { Pools, Writer } from './writer.js';

/** The module under way, as far as functions need it. */
interface FunctionModule extends Pools {
  /** Whether the sheet asks what a seat has seen. */
  asksWhatWasSeen: boolean;
}

/** A call of a function as its row sees it. */
export interface FunctionUse {
  readonly x: Writer & { readonly module: FunctionModule; asSeat(at: number, code: string): string };
  readonly e: ExprOf<'fn'>;
  /** The number of the pile that a list of cards is, where it is one. */
  readonly pileOf: (of: Expr) => string | null;
  /** The card from which a list of cards is the tail of its pile, where it is one. */
  readonly tailOf: (of: Expr) => string | null;
}

/** What is known of the items of a list that a function gives. */
type Items = 'there' | 'given';

/** An operation of the machine. */
interface FunctionRow {
  /**
   * The code of a call: a pattern in which `$0` is the first argument, `!0` the first argument where it must not be
   * nothing, `@` the place in the sheet; or what writes it.
   */
  readonly code: string | ((use: FunctionUse) => string);
  /** Its value comes from its arguments alone. `numbers`: and they need be no cards. */
  readonly pure?: 'cards' | 'numbers';
  /** Its items are never nothing, or never where those of the list that it is given are not. */
  readonly items?: Items;
}

const first = (e: ExprOf<'fn'>): Expr => e.args[0] as Expr;

/** The operations that the language's functions are compiled to, a row each. */
export const FUNCTIONS: Readonly<Record<Plain, FunctionRow>> = {
  score: { code: ({ x, e }) => `s.f[${x.module.layout.scoreBase}+${x.sure(first(e))}]` },
  teamScore: { code: ({ x, e }) => `s.f[${x.module.layout.scoreBase}+${x.sure(first(e))}]` },
  sizeOfPile: { code: 's.len[!0]' },
  emptyPile: { code: '(s.len[!0]===0)' },
  size: {
    pure: 'numbers',
    code: ({ x, e, pileOf }) => {
      const pile = pileOf(first(e));
      if (first(e).k === 'seats') return String(x.module.layout.seats.length);
      return pile === null ? `${x.write(first(e))}.length` : `s.len[${pile}]`;
    },
  },
  empty: {
    pure: 'cards',
    code: ({ x, e, pileOf }) => {
      const pile = pileOf(first(e));
      return pile === null ? `(${x.write(first(e))}.length===0)` : `(s.len[${pile}]===0)`;
    },
  },
  top: { code: 'top(s,!0)' },
  tail: { code: 'tail(s,!0)', items: 'there' },
  tops: { code: 'tops(s,$0)', items: 'there' },
  cardsOf: { code: 'cardsOf(s,$0)', items: 'there' },
  first: {
    pure: 'cards',
    code: ({ x, e, pileOf, tailOf }) => {
      const pile = pileOf(first(e));
      return pile === null ? (tailOf(first(e)) ?? `(${x.write(first(e))}[0]??-1)`) : `bottom(s,${pile})`;
    },
  },
  firstOf: { code: 'firstOf($0,$1)', pure: 'cards', items: 'given' },
  last: { code: 'last($0,$1)', pure: 'cards', items: 'given' },
  reversed: { code: 'turnedOver($0)', pure: 'cards', items: 'given' },
  abs: { code: 'Math.abs($0)', pure: 'numbers' },
  min2: { code: 'Math.min($0,$1)', pure: 'numbers' },
  max2: { code: 'Math.max($0,$1)', pure: 'numbers' },
  listMin: { code: 'least($0,@)', pure: 'numbers' },
  listMax: { code: 'most($0,@)', pure: 'numbers' },
  listSum: { code: 'chk(sum($0),@)', pure: 'numbers' },
  faceUp: { code: '(s.facing[!0]===1)' },
  nextSeat: { code: 'nextSeat($0,1,@)' },
  previousSeat: { code: 'nextSeat($0,-1,@)' },
  seatsFrom: { code: 'seatsFrom($0,@)', items: 'there' },
  others: { code: 'others($0)', items: 'there' },
  nextRank: { code: 'nextRank[!0]', pure: 'cards' },
  plural: { code: ({ x, e }) => `[plural(${x.write(first(e))},${x.module.text(literalText(e.args[1] as Expr))})]` },
  seen: {
    code: ({ x, e }) => {
      x.module.asksWhatWasSeen = true;
      return x.asSeat(e.at, `knows(s,${x.sure(first(e))},v)`);
    },
  },
  category: { code: 'category($0)', pure: 'cards' },
  handRanks: { code: 'handRanks($0)', pure: 'cards' },
  handName: { code: '[handName($0)]' },
  lowName: { code: '[lowName($0)]' },
  teamOf: { code: 'teamOf($0,@)' },
  seatsOf: { code: 'seatsOf($0,@)', items: 'there' },
  nextTeam: { code: 'nextTeam($0,@)' },
  chance: { code: 'dice.toss($0,$1)' },
  rangeOf: { code: `rangeOf($0,$1,@,${LONGEST_LIST})`, pure: 'numbers', items: 'there' },
  withoutItems: { code: 'withoutItems($0,$1)', pure: 'cards', items: 'given' },
  withoutLists: { code: 'withoutLists($0,$1)', pure: 'cards', items: 'given' },
  placeOf: {
    code: ({ x, e }) => (first(e).t === 'rank' ? `(rankPlace[${x.sure(first(e))}]+1)` : `(${x.sure(first(e))}+1)`),
    pure: 'cards',
  },
  colorOf: { code: 'suitColor[!0]', pure: 'cards' },
  lowRanks: { code: 'lowRanks($0)', pure: 'cards' },
};

/** A pattern with the arguments of a call in it. */
export const filled = (pattern: string, x: Writer, { args, at }: ExprOf<'fn'>): string =>
  pattern.replace(/[$!]\d|@/g, (mark) => {
    if (mark === '@') return String(at);
    const arg = args[Number(mark.charAt(1))] as Expr;
    return mark.startsWith('!') ? x.sure(arg) : x.write(arg);
  });
