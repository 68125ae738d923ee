import { exprKey } from '../../program/tree.js';
import type { BinaryOp, Expr, ExprOf, Type, Variable } from '../../program/types.js';
import { isRef, manyOf } from '../layout.js';
import { FUNCTIONS, filled } from './functions.js';
import { foldKey } from './fusion.js';
import {
  comparable,
  freeLocals,
  loop,
  type Over,
  throughList,
  throughPile,
  throughRows,
  throughSeats,
  throughTail,
  throughWays,
} from './loops.js';
import { isOfCards, memoCode } from './memo.js';
import type { Module } from './module.js';
import type { CardRow, Place, Places } from './places.js';
import { areThere, isThere } from './presence.js';
import { placeIn } from './slots.js';
import { pieces } from './texts.js';
import type { Writer, WriterOptions } from './writer.js';

const NONE: ReadonlyMap<string, string> = new Map();

const isFlag = (t: Type): boolean => t === 'flag';

/** Writes one expression as JavaScript. Flags are booleans there, lists are arrays, everything else is a number. */
export class ExprWriter implements Writer {
  readonly guarded: boolean;
  private readonly kept: ReadonlyMap<string, string>;
  private readonly made: ReadonlyMap<string, string>;
  private readonly memoFolds: boolean;

  constructor(
    readonly module: Module,
    readonly places: Places,
    { guarded, kept = NONE, made = NONE, memoFolds = false }: WriterOptions,
  ) {
    this.guarded = guarded;
    this.kept = kept;
    this.made = made;
    this.memoFolds = memoFolds;
  }

  /** A writer that knows more locals besides. */
  inside(more: Places): ExprWriter {
    const { guarded, kept } = this;
    return new ExprWriter(this.module, new Map([...this.places, ...more]), { guarded, kept });
  }
  /** A writer that finds some expressions once, when they are first needed. */
  keeping(kept: ReadonlyMap<string, string>): ExprWriter {
    return new ExprWriter(this.module, this.places, { guarded: this.guarded, kept });
  }

  readonly placeOf = (i: number): Place => {
    const found = this.places.get(i);
    if (!found) throw new Error(`local ${i} has no place`);
    return found;
  };

  /** The number of the pile that a list of cards is, where it is one. */
  pileOf(e: Expr): string | null {
    if (e.k === 'cards') return this.sure(e.of);
    if (e.k === 'local' && this.placeOf(e.i).asPile) return this.placeOf(e.i).js;
    return null;
  }

  /** The card from which a list of cards is the tail of its pile, where it is one. */
  private tailOf(e: Expr): string | null {
    return e.k === 'fn' && e.f === 'tail' ? this.sure(e.args[0] as Expr) : null;
  }
  /** Where a card lies, if it is of a pile that is gone through where it lies. */
  private rowOf(e: Expr | undefined): CardRow | undefined {
    return e?.k === 'local' ? this.placeOf(e.i).row : undefined;
  }

  /** Whether nothing is never among the items of a list. */
  areThere(e: Expr): boolean {
    return areThere(e, this.placeOf);
  }
  /** A card, seat or pile that must be there: where it is nothing, the step stops. */
  sure(e: Expr): string {
    return isThere(e, this.placeOf) ? this.write(e) : `ok(${this.write(e)},${e.at})`;
  }

  /** A literal as it stands in the code. */
  private literal(e: ExprOf<'lit'>): string {
    return isFlag(e.t) ? (e.v ? 'true' : 'false') : e.v < 0 ? `(${e.v})` : String(e.v);
  }

  write(e: Expr): string {
    const kept = this.kept.size > 0 ? this.kept.get(exprKey(e)) : undefined;
    const code = this.written(e);
    return kept === undefined ? code : `(${kept}===undefined?${kept}=${code}:${kept})`;
  }

  private written(e: Expr): string {
    switch (e.k) {
      case 'lit':
        return this.literal(e);
      case 'text':
        return pieces(this, e);
      case 'setting': {
        const value = this.module.layout.settings[e.i] ?? 0;
        return isFlag(e.t) ? (value ? 'true' : 'false') : `(${value})`;
      }
      case 'local': {
        const { js, asPile } = this.placeOf(e.i);
        return asPile ? `pileCards(s,${js})` : js;
      }
      case 'me':
        return 'v';
      case 'var':
        return this.variable(e).js;
      case 'pile':
        return this.pile(e);
      case 'family':
        return this.family(e);
      case 'cards':
        return `pileCards(s,${this.sure(e.of)})`;
      case 'seats':
        return 'seats';
      case 'suits':
        return 'suits';
      case 'field':
        return this.field(e);
      case 'owner':
        return `owner[${this.sure(e.of)}]`;
      case 'op':
        return this.binary(e);
      case 'not':
        return `!${this.write(e.a)}`;
      case 'neg':
        return e.a.t === 'key' ? `turnedKey(${this.write(e.a)})` : `(-${comparable(e.a.t, this.write(e.a))})`;
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
      case 'ranks':
      case 'teams':
        return e.k;
      case 'cell':
        return `cell(${e.i},[${e.index.map((i) => this.write(i)).join(',')}],${e.at})`;
      case 'cellKey':
        return `cellKey(${this.write(e.of)},${e.n},${e.at})`;
      case 'fresh': {
        const [base, all] = this.familyRange({ k: 'family', t: 'list:pile', at: e.at, i: e.i, owner: null });
        return `fresh(s,${base},${all},${e.at})`;
      }
      case 'face':
        return `cardOf(${e.face},${e.at})`;
      case 'fits':
        return `fits([${e.shapes.join(',')}],${this.readCards(e.of, e.at)})`;
      case 'largest':
        return `largest([${e.shapes.join(',')}],${this.readCards(e.of, e.at)},pay)`;
      case 'ways':
        return e.sizes
          ? `waysOf(${this.write(e.of)},${this.write(e.sizes)})`
          : `shapeWays([${e.shapes.join(',')}],${this.readCards(e.of, e.at)},pay)`;
      case 'arranged': {
        const weights = e.weights ? this.write(e.weights) : 'null';
        return `bestGroups([${e.shapes.join(',')}],${this.readCards(e.of, e.at)},${weights},${e.at},pay)`;
      }
      case 'hand':
        return `rankHand(${this.module.text(e.kind)},${this.readCards(e.of, e.at)},${e.at})`;
      case 'bestFive':
        return `fiveOf(${this.module.text(e.kind)},${this.readCards(e.of, e.at)},${e.at})`;
      case 'can': {
        const args = e.args.map((arg) =>
          arg === null ? 'null' : isFlag(arg.t) ? `Number(${this.write(arg)})` : this.write(arg),
        );
        return this.asSeat(e.at, `can(s,v,${this.module.text(e.option)},[${args.join(',')}],${e.at})`);
      }
      case 'key':
        return `[${e.items.map((item) => comparable(item.t, this.write(item))).join(',')}]`;
      case 'fn':
        return this.plain(e);
    }
  }

  /** Where a variable is kept. */
  variable(e: Pick<ExprOf<'var'>, 'i' | 'owner' | 'second' | 'at'>): Place {
    const { layout, program } = this.module;
    const base = layout.varBase[e.i] ?? 0;
    const declared = program.vars[e.i];
    const t = declared?.t ?? 'int';
    const row = isRef(t) ? 's.refs' : 's.f';
    let at = String(base);
    if (e.owner && declared) {
      const { of, hidden } = declared;
      const [first, second] = of.k === 'pair' ? of.keys : [of];
      let owner = this.keyOf(first, e.owner, e.at);
      if (this.guarded && hidden) owner = `ownOnly(${owner},v,${e.at})`;
      at = `${base}+${owner}`;
      if (second && e.second) at = `${base}+${layout.varWidth[e.i]}*(${owner})+${this.keyOf(second, e.second, e.at)}`;
    }
    return placeIn(`${row}[${at}]`, t);
  }

  /** The place of a key among those that a variable is kept for. */
  private keyOf(key: Variable['of'], e: Expr, at: number): string {
    const value = this.sure(e);
    if (key.k === 'pile') return `${value}-${this.module.layout.pileBase[key.pile]}`;
    return key.k === 'card' && this.guarded ? `see(s,${value},v,${at})` : value;
  }

  private pile(e: ExprOf<'pile'>): string {
    const { layout, program } = this.module;
    const base = layout.pileBase[e.i] ?? 0;
    const declared = program.piles[e.i];
    const many = (declared && manyOf(program, declared)) ?? 1;
    let first = String(base);
    if (e.owner) {
      const owner = this.sure(e.owner);
      first = many === 1 ? `(${base}+${owner})` : `(${base}+${many}*${owner})`;
    }
    if (!e.index) return first;
    const fromZero = declared?.by === 'suit' || declared?.by === 'team';
    const index = fromZero ? this.write(e.index) : `${this.write(e.index)}-1`;
    return `member(${first},${index},${many},${e.at})`;
  }

  /** The first pile of a whole family, and how many piles it has. */
  familyRange(e: ExprOf<'family'>): [number, number] {
    const { layout, program } = this.module;
    const declared = program.piles[e.i];
    const many = (declared && manyOf(program, declared)) ?? 1;
    return [layout.pileBase[e.i] ?? 0, many * (declared?.perSeat ? layout.seats.length : 1)];
  }

  private family(e: ExprOf<'family'>): string {
    const [base, all] = this.familyRange(e);
    if (this.module.program.piles[e.i]?.open && !e.owner) return `openFamily(s,${base},${all})`;
    if (!e.owner) return `family(${base},${all})`;
    const many = all / this.module.layout.seats.length;
    return `family(${base}+${many}*${this.sure(e.owner)},${many})`;
  }

  /** A card that is about to be read. */
  private readCard(of: Expr, at: number): string {
    return this.guarded ? `see(s,${this.write(of)},v,${at})` : this.sure(of);
  }

  /** Cards that are about to be read. */
  private readCards(of: Expr, at: number): string {
    const cards = this.write(of);
    return this.guarded ? `seeAll(s,${cards},v,${at})` : cards;
  }

  /** Code that is a fault unless it is evaluated for a seat. */
  asSeat(at: number, code: string): string {
    return this.guarded ? code : `fault(NO_EYES,${at})`;
  }

  private field(e: ExprOf<'field'>): string {
    switch (e.f) {
      case 'place': {
        const row = this.rowOf(e.of);
        return row ? `(${row.index}-${row.first}+1)` : `(indexOf(s,${this.sure(e.of)})+1)`;
      }
      case 'pile':
        return `s.where[${this.sure(e.of)}]`;
      default:
        return `${e.f}[${this.readCard(e.of, e.at)}]`;
    }
  }

  private binary(e: ExprOf<'op'>): string {
    const { op } = e;
    if (op === 'in') {
      const pile = this.pileOf(e.b);
      // Where a named card is, is a secret too.
      if (pile !== null && this.guarded && e.a.k === 'face')
        return `heldOpenly(s,${this.write(e.a)},${pile},v,${e.at})`;
      return pile === null ? `holds(${this.write(e.b)},${this.write(e.a)})` : `(s.where[${this.sure(e.a)}]===${pile})`;
    }
    const a = this.write(e.a);
    const b = this.write(e.b);
    if (e.t.startsWith('list:')) return `join(${a},${b},${e.at})`;
    if (e.a.t === 'key' || e.a.t.startsWith('list:'))
      return op === '=='
        ? `sameList(${a},${b})`
        : op === '!='
          ? `!sameList(${a},${b})`
          : `(compareKeys(${a},${b})${op}0)`;
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
        return e.b.k === 'lit' && e.b.v !== 0 ? `Math.floor(${a}/${b})` : `div(${a},${b},${e.at})`;
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
      e.args.map((arg) => (arg.t === 'seat' || arg.t === 'card' || arg.t === 'pile') && isThere(arg, this.placeOf)),
      this.guarded,
    );
    const args = e.args.map((arg, i) => piles[i] ?? this.write(arg));
    return `${name}(${['s', ...(this.guarded ? ['v'] : []), ...args].join(',')})`;
  }

  /** A fold, choice or sift over a list: a function of its own, given what its short function reads. */
  private over(e: Over): string {
    const made = this.made.size > 0 && e.k === 'fold' ? this.made.get(foldKey(e)) : undefined;
    if (made !== undefined) return made;
    const pile = this.pileOf(e.of);
    const tail = pile === null ? this.tailOf(e.of) : null;
    const free = [...freeLocals(e.by)];
    const inside = new Map<number, Place>();
    const params: string[] = [];
    const given: string[] = [];
    for (const i of free) {
      const place = this.placeOf(i);
      inside.set(i, { ...place, js: `l${i}` });
      params.push(`l${i}`);
      given.push(place.js);
    }
    const [item, next] = e.by.params;
    const isThere = this.areThere(e.of);
    if (item !== undefined) inside.set(item, { js: 'x', isThere });
    if (next !== undefined) inside.set(next, { js: 'y', isThere });
    const writer = new ExprWriter(this.module, inside, { guarded: this.guarded });
    const by = writer.write(e.by.body);
    const weight = this.module.lengths.weightOf(e.by.body);
    const { parts, layout } = this.module;
    // Neighbours are gone through two by two.
    const two = next !== undefined;
    const row = tail === null ? undefined : this.rowOf((e.of as ExprOf<'fn'>).args[0]);
    const [through, of, over] =
      pile !== null
        ? [throughPile(parts, 'of', two), ['of'], [pile]]
        : row !== undefined
          ? [throughRows(two), ['from', 'to'], [row.index, row.end]]
          : tail !== null
            ? [throughTail(parts, 'of', two), ['of'], [tail]]
            : e.of.k === 'seats'
              ? [throughSeats(layout.seats.length, two), ['of'], [this.write(e.of)]]
              : e.of.k === 'ways'
                ? [throughWays('of', 8 + weight, e.at), ['of'], [this.write(e.of)]]
                : [throughList('of', two), ['of'], [this.write(e.of)]];
    const work = this.module.helper((fn) => loop(fn, e, through, by, of, params, this.guarded, weight));
    const name = this.memoFolds && pile !== null && free.length === 0 ? this.memoized(e, work) : work;
    return `${name}(${['s', ...(this.guarded ? ['v'] : []), ...over, ...given].join(',')})`;
  }

  /** The function of a fold that remembers its values by pile, if they come from the cards alone. */
  private memoized(e: Over, work: string): string {
    const { program, layout } = this.module;
    if (e.k !== 'fold' || this.guarded || !isOfCards(program, e.by.body)) return work;
    const viewers = layout.seats.length + 2;
    return this.module.helper((name) => memoCode({ name, work, cards: 'of', asPile: true, guarded: false, viewers }));
  }

  private plain(e: ExprOf<'fn'>): string {
    const { code } = FUNCTIONS[e.f];
    if (typeof code === 'string') return filled(code, this, e);
    return code({ x: this, e, pileOf: (of) => this.pileOf(of), tailOf: (of) => this.tailOf(of) });
  }
}
