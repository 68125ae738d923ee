import type { BinaryOp, Expr, ExprOf, Lambda, Type } from '../../program/types.js';
import { isRef } from '../shape.js';
import type { Module } from './module.js';

/** Where the value of a local stands in the generated code. */
export interface Place {
  readonly js: string;
  /** The local is a list of cards that is handed over as the number of a pile. */
  readonly asPile: boolean;
}
export type Places = ReadonlyMap<number, Place>;

const NONE: ReadonlyMap<string, string> = new Map();

/** What makes two calls the same: all but the place where they stand. */
const callKey = (e: Expr): string => JSON.stringify(e, (key, value) => (key === 'at' ? undefined : value));

/**
 * Calls that a def's body holds more than once. Defs are pure, so each is made once at most, when it is
 * first needed; calls inside short functions differ from item to item and are left alone.
 */
export function repeatedCalls(body: Expr): string[] {
  return [...callCounts(body)].filter(([, times]) => times > 1).map(([key]) => key);
}

/** How often each call may be made on one way through an expression: of two branches only one is taken. */
function callCounts(value: unknown): Map<string, number> {
  const counts = new Map<string, number>();
  const add = (more: ReadonlyMap<string, number>): void => {
    for (const [key, times] of more) counts.set(key, (counts.get(key) ?? 0) + times);
  };
  if (Array.isArray(value)) for (const inner of value) add(callCounts(inner));
  else if (value !== null && typeof value === 'object') {
    const e = value as Expr;
    if (e.k === 'if') {
      add(callCounts(e.c));
      const other = callCounts(e.b);
      for (const [key, times] of callCounts(e.a)) other.set(key, Math.max(times, other.get(key) ?? 0));
      add(other);
      return counts;
    }
    if (e.k === 'call') counts.set(callKey(e), 1);
    for (const [key, inner] of Object.entries(value)) if (key !== 'by') add(callCounts(inner));
  }
  return counts;
}

const isFlag = (t: Type): boolean => t === 'flag';

/** Writes one expression as JavaScript. Flags are booleans there, lists are arrays, everything else is a number. */
export class ExprWriter {
  constructor(
    readonly module: Module,
    readonly places: Places,
    /** Reads as the seat `v`, and stops at what that seat may not see. */
    readonly guarded: boolean,
    /** Calls that stand several times in one def, each with the variable that keeps its value. */
    private readonly kept: ReadonlyMap<string, string> = NONE,
  ) {}

  private place(i: number): Place {
    const found = this.places.get(i);
    if (!found) throw new Error(`local ${i} has no place`);
    return found;
  }

  /** The number of the pile that a list of cards is, where it is one. */
  pileOf(e: Expr): string | null {
    if (e.k === 'cards') return this.write(e.of);
    if (e.k === 'local' && this.place(e.i).asPile) return this.place(e.i).js;
    return null;
  }

  /** A literal as it stands in the code. */
  private literal(e: ExprOf<'lit'>): string {
    return isFlag(e.t) ? (e.v ? 'true' : 'false') : e.v < 0 ? `(${e.v})` : String(e.v);
  }

  write(e: Expr): string {
    switch (e.k) {
      case 'lit':
        return this.literal(e);
      case 'text':
        return this.pieces(e);
      case 'setting': {
        const value = this.module.shape.settings[e.i] ?? 0;
        return isFlag(e.t) ? (value ? 'true' : 'false') : `(${value})`;
      }
      case 'local': {
        const { js, asPile } = this.place(e.i);
        return asPile ? `pileCards(s,${js})` : js;
      }
      case 'me':
        return 'v';
      case 'var':
        return this.variable(e);
      case 'pile':
        return this.pile(e);
      case 'family':
        return this.family(e);
      case 'cards':
        return `pileCards(s,${this.write(e.of)})`;
      case 'seats':
        return 'seats';
      case 'suits':
        return 'suits';
      case 'field':
        return this.field(e);
      case 'owner':
        return `owner[${this.write(e.of)}]`;
      case 'op':
        return this.binary(e);
      case 'not':
        return `!${this.write(e.a)}`;
      case 'neg':
        return `(-${this.write(e.a)})`;
      case 'if':
        return `(${this.write(e.c)}?${this.write(e.a)}:${this.write(e.b)})`;
      case 'call':
        return this.call(e);
      case 'list':
        return `[${e.items.map((item) => this.write(item)).join(',')}]`;
      case 'item': {
        const pile = this.pileOf(e.of);
        return pile === null
          ? `item(${this.write(e.of)},${this.write(e.n)},${e.at})`
          : `pileItem(s,${pile},${this.write(e.n)},${e.at})`;
      }
      case 'is':
        return `(faces[${this.readCard(e.of, e.at)}]===${e.face})`;
      case 'fold':
      case 'choose':
      case 'sift':
        return this.over(e);
      case 'fn':
        return this.plain(e);
    }
  }

  private variable(e: ExprOf<'var'>): string {
    const { shape, program } = this.module;
    const base = shape.varBase[e.i] ?? 0;
    const declared = program.vars[e.i];
    const t = declared?.t ?? 'int';
    const row = isRef(t) ? 's.refs' : 's.f';
    let at = String(base);
    if (e.owner) {
      let owner = this.write(e.owner);
      if (declared?.of.k === 'pile') owner = `ok(${owner},${e.at})-${shape.pileBase[declared.of.pile]}`;
      else if (this.guarded && declared?.hidden) owner = `ownOnly(ok(${owner},${e.at}),v,${e.at})`;
      else if (e.owner.k !== 'local' && e.owner.k !== 'me' && e.owner.k !== 'lit') owner = `ok(${owner},${e.at})`;
      at = `${base}+${owner}`;
    }
    return isFlag(t) ? `(${row}[${at}]!==0)` : `${row}[${at}]`;
  }

  private pile(e: ExprOf<'pile'>): string {
    const { shape, program } = this.module;
    const base = shape.pileBase[e.i] ?? 0;
    const declared = program.piles[e.i];
    const many = declared?.perSuit ? 4 : (declared?.many ?? 1);
    let first = String(base);
    if (e.owner) {
      const owner =
        e.owner.k === 'local' || e.owner.k === 'me' ? this.write(e.owner) : `ok(${this.write(e.owner)},${e.at})`;
      first = many === 1 ? `(${base}+${owner})` : `(${base}+${many}*${owner})`;
    }
    if (!e.index) return first;
    const index = declared?.perSuit ? this.write(e.index) : `${this.write(e.index)}-1`;
    return `member(${first},${index},${many},${e.at})`;
  }

  /** The first pile of a whole family, and how many piles it has. */
  familyRange(e: ExprOf<'family'>): [number, number] {
    const { shape, program } = this.module;
    const declared = program.piles[e.i];
    const many = declared?.perSuit ? 4 : (declared?.many ?? 1);
    return [shape.pileBase[e.i] ?? 0, many * (declared?.perSeat ? shape.seats.length : 1)];
  }

  private family(e: ExprOf<'family'>): string {
    const [base, all] = this.familyRange(e);
    if (!e.owner) return `family(${base},${all})`;
    const many = all / this.module.shape.seats.length;
    return `family(${base}+${many}*ok(${this.write(e.owner)},${e.at}),${many})`;
  }

  /** A card that is about to be read. */
  private readCard(of: Expr, at: number): string {
    const card = this.write(of);
    return this.guarded
      ? `see(s,${card},v,${at})`
      : of.k === 'local' && this.module.isBound(of)
        ? card
        : `ok(${card},${at})`;
  }

  private field(e: ExprOf<'field'>): string {
    switch (e.f) {
      case 'place':
        return `(indexOf(s,ok(${this.write(e.of)},${e.at}))+1)`;
      case 'pile':
        return `s.where[ok(${this.write(e.of)},${e.at})]`;
      default:
        return `${e.f}[${this.readCard(e.of, e.at)}]`;
    }
  }

  private binary(e: ExprOf<'op'>): string {
    const { op } = e;
    if (op === 'in') {
      const pile = this.pileOf(e.b);
      return pile === null
        ? `${this.write(e.b)}.includes(${this.write(e.a)})`
        : `(s.where[ok(${this.write(e.a)},${e.at})]===${pile})`;
    }
    const a = this.write(e.a);
    const b = this.write(e.b);
    if (e.t.startsWith('list:')) return `join(${a},${b},${e.at})`;
    switch (op) {
      case 'and':
        return `(${a}&&${b})`;
      case 'or':
        return `(${a}||${b})`;
      case '==':
        return `(${a}===${b})`;
      case '!=':
        return `(${a}!==${b})`;
      case '/':
        return `div(${a},${b},${e.at})`;
      case '%':
        return `mod(${a},${b},${e.at})`;
      case '+':
      case '-':
      case '*':
        return `chk(${a}${op}${b},${e.at})`;
      default:
        return this.ordered(e.a.t, op, a, b, e.at);
    }
  }

  private ordered(t: Type, op: BinaryOp, a: string, b: string, at: number): string {
    if (t === 'rank') return `(rankPlace[ok(${a},${at})]${op}rankPlace[ok(${b},${at})])`;
    if (t === 'suit') return `(suitPlace[ok(${a},${at})]${op}suitPlace[ok(${b},${at})])`;
    return `(${a}${op}${b})`;
  }

  private call(e: ExprOf<'call'>): string {
    const def = this.module.program.defs[e.def];
    const piles = e.args.map((arg, i) => (def?.params[i]?.t === 'list:card' ? this.pileOf(arg) : null));
    const name = this.module.def(
      e.def,
      piles.map((pile) => pile !== null),
      this.guarded,
    );
    const args = e.args.map((arg, i) => piles[i] ?? this.write(arg));
    const kept = this.kept.get(callKey(e));
    const code = `${name}(${['s', ...(this.guarded ? ['v'] : []), ...args].join(',')})`;
    return kept === undefined ? code : `(${kept}===undefined?${kept}=${code}:${kept})`;
  }

  /** A fold, choice or sift over a list: a function of its own, given what its short function reads. */
  private over(e: ExprOf<'fold'> | ExprOf<'choose'> | ExprOf<'sift'>): string {
    const pile = this.pileOf(e.of);
    const free = [...freeLocals(e.by)];
    const inside = new Map<number, Place>();
    const params: string[] = [];
    const given: string[] = [];
    for (const i of free) {
      const place = this.place(i);
      inside.set(i, { js: `l${i}`, asPile: place.asPile });
      params.push(`l${i}`);
      given.push(place.js);
    }
    const [item, next] = e.by.params;
    if (item !== undefined) inside.set(item, { js: 'x', asPile: false });
    if (next !== undefined) inside.set(next, { js: 'y', asPile: false });
    const writer = new ExprWriter(this.module, inside, this.guarded);
    const name = this.module.helper((fn) => loop(fn, e, pile !== null, writer, params, this.guarded));
    return `${name}(${['s', ...(this.guarded ? ['v'] : []), pile ?? this.write(e.of), ...given].join(',')})`;
  }

  private plain(e: ExprOf<'fn'>): string {
    const arg = (i: number): string => this.write(e.args[i] as Expr);
    const first = e.args[0] as Expr;
    switch (e.f) {
      case 'score':
        return `s.f[${this.module.shape.scoreBase}+ok(${arg(0)},${e.at})]`;
      case 'sizeOfPile':
        return `s.len[${arg(0)}]`;
      case 'emptyPile':
        return `(s.len[${arg(0)}]===0)`;
      case 'size': {
        const pile = this.pileOf(first);
        return pile === null ? `${arg(0)}.length` : `s.len[${pile}]`;
      }
      case 'empty': {
        const pile = this.pileOf(first);
        return pile === null ? `(${arg(0)}.length===0)` : `(s.len[${pile}]===0)`;
      }
      case 'top':
      case 'tops':
        return `${e.f}(s,${arg(0)})`;
      case 'tail':
        return `tail(s,ok(${arg(0)},${e.at}))`;
      case 'cardsOf':
        return `cardsOf(s,${arg(0)})`;
      case 'first':
        return `(${arg(0)}[0]??-1)`;
      case 'last':
        return `last(${arg(0)},${arg(1)})`;
      case 'reversed':
        return `[...${arg(0)}].reverse()`;
      case 'abs':
        return `Math.abs(${arg(0)})`;
      case 'min2':
        return `Math.min(${arg(0)},${arg(1)})`;
      case 'max2':
        return `Math.max(${arg(0)},${arg(1)})`;
      case 'listMin':
        return `least(${arg(0)},${e.at})`;
      case 'listMax':
        return `most(${arg(0)},${e.at})`;
      case 'listSum':
        return `chk(sum(${arg(0)}),${e.at})`;
      case 'faceUp':
        return `(s.facing[ok(${arg(0)},${e.at})]===1)`;
      case 'nextSeat':
        return `nextSeat(${arg(0)},1,${e.at})`;
      case 'previousSeat':
        return `nextSeat(${arg(0)},-1,${e.at})`;
      case 'seatsFrom':
        return `seatsFrom(${arg(0)},${e.at})`;
      case 'others':
        return `others(${arg(0)})`;
      case 'nextRank':
        return `nextRank(ok(${arg(0)},${e.at}))`;
      case 'plural':
        return `[plural(${arg(0)},${this.module.text(literalText(e.args[1] as Expr))})]`;
      case 'chance':
        return `dice.toss(${arg(0)},${arg(1)})`;
    }
  }

  /** A text as the row of pieces from which each viewer's words are made. */
  pieces(e: Expr): string {
    if (e.k !== 'text') return e.t === 'text' ? this.write(e) : `[${this.piece(e)}]`;
    return `[${e.parts.map((part) => (typeof part === 'string' ? this.module.text(part) : this.piece(part))).join(',')}]`;
  }

  private piece(e: Expr): string {
    const value = this.write(e);
    const { module } = this;
    if (e.t.startsWith('kind:')) {
      const kind = module.program.kinds.find((k) => `kind:${k.name}` === e.t);
      return `word(${module.words((kind?.members ?? []).map((m) => m.label ?? m.name))},${value})`;
    }
    switch (e.t) {
      case 'text':
        return value;
      case 'flag':
        return `(${value}?${module.text('yes')}:${module.text('no')})`;
      case 'card':
        return `cardPiece(s,${value})`;
      case 'list:card':
        return `cardsPiece(s,${value})`;
      case 'seat':
        return `seatPiece(${value})`;
      case 'list:seat':
        return `seatsPiece(${value})`;
      case 'rank':
        return `word(${module.words(['', 'ace', '2', '3', '4', '5', '6', '7', '8', '9', '10', 'jack', 'queen', 'king'])},${value})`;
      case 'suit':
        return `word(${module.words(['spade', 'heart', 'diamond', 'club'])},${value})`;
      case 'color':
        return `word(${module.words(['black', 'red'])},${value})`;
      case 'pile':
        return `pileName(${value})`;
      default:
        return value;
    }
  }
}

function literalText(e: Expr): string {
  return e.k === 'text' ? e.parts.filter((part): part is string => typeof part === 'string').join('') : '';
}

/** Locals that a short function reads and does not bind itself. */
function freeLocals(lambda: Lambda): Set<number> {
  const found = new Set<number>();
  const visit = (value: unknown, bound: ReadonlySet<number>): void => {
    if (Array.isArray(value)) for (const inner of value) visit(inner, bound);
    else if (value !== null && typeof value === 'object') {
      const e = value as Partial<Expr> & { by?: Lambda };
      if (e.k === 'local') {
        const { i } = e as ExprOf<'local'>;
        if (!bound.has(i)) found.add(i);
      }
      const within = e.by ? new Set([...bound, ...e.by.params]) : bound;
      for (const inner of Object.values(value)) visit(inner, within);
    }
  };
  visit(lambda.body, new Set(lambda.params));
  return found;
}

/** The function that goes through a list (or a pile where it lies) for one fold, choice or sift. */
function loop(
  name: string,
  e: ExprOf<'fold'> | ExprOf<'choose'> | ExprOf<'sift'>,
  isPile: boolean,
  writer: ExprWriter,
  params: readonly string[],
  guarded: boolean,
): string {
  const by = writer.write(e.by.body);
  const key = e.by.body.t === 'rank' ? `rankPlace[${by}]` : e.by.body.t === 'flag' ? `Number(${by})` : by;
  const head = `function ${name}(${['s', ...(guarded ? ['v'] : []), 'of', ...params].join(',')}){`;
  const [before, step, after] = steps(e, by, key);
  const size = isPile ? 's.len[of]' : 'of.length';
  // Neighbours are gone through two by two: the lower one is x, the one above it y.
  const two = e.by.params.length === 2;
  const last = two ? '-1' : '';
  const through = isPile
    ? `const from=s.start[of],to=from+s.len[of]${last};for(let i=from;i<to;i++){const x=s.cards[i]${two ? ',y=s.cards[i+1]' : ''};`
    : `for(let i=0;i<of.length${last};i++){const x=of[i]${two ? ',y=of[i+1]' : ''};`;
  return `${head}spend(${size},${e.at});${before}${through}${step}}${after}}`;
}

/** What a loop does before, at each item, and after. */
function steps(
  e: ExprOf<'fold'> | ExprOf<'choose'> | ExprOf<'sift'>,
  by: string,
  key: string,
): [string, string, string] {
  switch (e.f) {
    case 'any':
      return ['', `if(${by})return true;`, 'return false;'];
    case 'all':
      return ['', `if(!${by})return false;`, 'return true;'];
    case 'none':
      return ['', `if(${by})return false;`, 'return true;'];
    case 'count':
      return ['let n=0;', `if(${by})n++;`, 'return n;'];
    case 'sum':
      return ['let n=0;', `n+=${by};`, `return chk(n,${e.at});`];
    case 'min':
    case 'max':
      return [
        'let n=NaN;',
        `const k=${by};if(!(n${e.f === 'min' ? '<=' : '>='}k))n=k;`,
        `return n===n?n:fault(${e.f === 'min' ? 'EMPTY_MIN' : 'EMPTY_MAX'},${e.at});`,
      ];
    case 'find':
      return ['', `if(${by})return x;`, 'return -1;'];
    case 'best':
    case 'least':
      return [
        'let n=NaN,found=-1;',
        `const k=${key};if(!(n${e.f === 'best' ? '>=' : '<='}k)){n=k;found=x;}`,
        'return found;',
      ];
    case 'leaders':
      return [
        'let n=NaN,found=[];',
        `const k=${key};if(!(n>=k)){n=k;found=[x];}else if(n===k)found.push(x);`,
        'return found;',
      ];
    case 'only':
      return ['const found=[];', `if(${by})found.push(x);`, 'return found;'];
    case 'map':
      return ['const found=[];', `found.push(${by});`, 'return found;'];
  }
}
