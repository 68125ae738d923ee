import { type Expr, FACINGS, type Facing, type Stmt, type StmtOf, type Target } from '../../program/types.js';
import { CHAPTER_TEXT, CHAPTERS, isRef, manyOf } from '../layout.js';
import { BUDGETS } from '../prices.js';
import { isCostly } from './costly.js';
import { ExprWriter } from './expressions.js';
import type { Module } from './module.js';
import type { Place } from './places.js';
import { assign } from './slots.js';
import { pay, spend, standsAt } from './spend.js';
import { bytesOf, pieces, unsaid } from './texts.js';
import { type Code, code } from './written.js';

/** How `break`, `return` and `finish` leave the code around them. */
export interface Exits {
  readonly leave: Code;
  readonly returns: Code;
  readonly finishes: Code;
  /** After a call that may have finished the game. */
  readonly finished: Code;
}

/** The statements that neither hold others nor leave the code around them. */
type Straight = Exclude<
  Stmt,
  StmtOf<'if' | 'while' | 'repeat' | 'each' | 'for' | 'break' | 'return' | 'finish' | 'call' | 'pause' | 'ask'>
>;

const facingNumber = (facing: Facing | null): number => (facing === null ? -1 : FACINGS.indexOf(facing));

/** Writes statements that cannot wait, as structured JavaScript. */
export class StmtWriter {
  readonly x: ExprWriter;
  constructor(
    readonly module: Module,
    readonly places: Map<number, Place>,
  ) {
    this.x = new ExprWriter(module, places, { guarded: false });
  }

  block(body: readonly Stmt[], exits: Exits): Code {
    return body.flatMap((s) => this.statement(s, exits));
  }

  /** Makes a JavaScript variable of a local. */
  private newLocal(i: number): string {
    this.places.set(i, { js: `l${i}` });
    return `l${i}`;
  }

  /** Code that gives a local a value: one that has no place yet becomes a variable. */
  private assign(i: number, value: string): string {
    const place = this.places.get(i);
    return place ? assign(place, value) : `let ${this.newLocal(i)}=${value};`;
  }

  statement(s: Stmt, exits: Exits): Code {
    if (s.s === 'tally' && !this.module.mode.counting) return [this.module.mark('statement', s.at)];
    return code`${this.module.mark('statement', s.at)}${isCostly(s) ? standsAt(s.at) : ''}${this.unmarked(s, exits)}`;
  }

  private unmarked(s: Stmt, exits: Exits): Code {
    const { x } = this;
    const body = (inner: readonly Stmt[]): Code => this.block(inner, { ...exits, leave: ['break;'] });
    switch (s.s) {
      case 'if': {
        const no = s.no ? code`else{${this.block(s.no, exits)}}` : '';
        return code`if(${x.write(s.c)}){${this.block(s.yes, exits)}}${no}`;
      }
      case 'while':
        return code`while(${x.write(s.c)}){${spend(this.module.lengths.turnOf(s.body, s.c), s.at)}${body(s.body)}}`;
      case 'repeat': {
        const turn = body(s.body);
        const until = s.until ? `if(${x.write(s.until)})break;` : '';
        return code`for(;;){${spend(this.module.lengths.turnOf(s.body, s.until), s.at)}${turn}${until}}`;
      }
      case 'each': {
        const list = x.write(s.list);
        const js = this.places.get(s.local)?.js ?? this.newLocal(s.local);
        if (x.areThere(s.list)) this.places.set(s.local, { js, isThere: true });
        const where = s.where ? `if(!${x.write(s.where)})continue;` : '';
        const counted = spend(this.module.lengths.turnOf(s.body, s.where), s.at);
        return code`${this.module.each(js, list)}{${counted}${where}${body(s.body)}}`;
      }
      case 'for': {
        const from = x.write(s.from);
        const to = x.write(s.to);
        const js = this.places.get(s.local)?.js ?? this.newLocal(s.local);
        const head = `let ${js}=${from},end${s.local}=${to};${js}<=end${s.local};${js}++`;
        return code`for(${head}){${spend(this.module.lengths.turnOf(s.body), s.at)}${body(s.body)}}`;
      }
      case 'break':
        return exits.leave;
      case 'return':
        return exits.returns;
      case 'finish':
        return exits.finishes;
      case 'call':
        return code`if(r${s.routine}(${['s', ...s.args.map((arg) => x.write(arg))].join(',')}))${exits.finished}`;
      case 'pause':
      case 'ask':
        throw new Error(`"${s.s}" waits and cannot stand in structured code`);
      default:
        return [this.straight(s)];
    }
  }

  /** A statement that goes on with the next one. */
  private straight(s: Straight): string {
    const { x } = this;
    switch (s.s) {
      case 'shuffle':
        return `shuffle(s,${x.sure(s.pile)});`;
      case 'pick':
        return this.set(s.target, '=', `pick(s,${x.write(s.from)},${s.at})`, s.at);
      case 'deal':
        return this.deal(s);
      case 'move':
        return this.move(s);
      case 'gather':
        return s.piles.map((piles) => this.gather(piles, s)).join('');
      case 'turn':
        return this.turn(s);
      case 'reveal':
        return `reveal(s,${x.write(s.what)},${x.write(s.to)},${s.at});`;
      case 'show':
        return `show(s,${x.write(s.what)},${s.to ? x.write(s.to) : '-1'},${s.at});`;
      case 'set':
        return this.set(s.target, s.op, x.write(s.e), s.at);
      case 'reset':
        return s.vars.map((i) => resetVar(this.module, x, i)).join('');
      case 'let':
        return this.assign(s.local, x.write(s.e));
      case 'tally':
        return this.tally(s);
      case 'say':
        if (this.module.mode.quiet && !s.to) return unsaid(x, s.text);
        return s.to
          ? `tell(${pieces(x, s.text)},${x.write(s.to)},${s.at},${bytesOf(x, s.text) ?? -1});`
          : `say(s,${pieces(x, s.text)},${s.at},${bytesOf(x, s.text) ?? -1});`;
      case 'chapter':
        return `s.f[${CHAPTERS}]++;s.refs[${CHAPTER_TEXT}]=${pieces(x, s.text)};${this.module.mode.quiet ? '' : `chapter(s,${s.at},${bytesOf(x, s.text) ?? -1});`}`;
    }
  }

  /** Counts something, with a budget of its own: what a step costs is the same where nobody counts. */
  private tally(s: StmtOf<'tally'>): string {
    const { x } = this;
    const value = (e: Expr | null | undefined): string =>
      !e ? '0' : e.t === 'text' ? pieces(x, e) : e.t === 'flag' ? `Number(${x.write(e)})` : x.write(e);
    const [first, second] = s.by;
    const given = [s.tally, value(s.e), value(s.per), value(first), value(second)].join(',');
    return `{const o=ops,m=limit;ops=0;limit=${BUDGETS.looks};count(${given});ops=o;limit=m;}`;
  }

  private turn(s: StmtOf<'turn'>): string {
    const up = s.how === 'up' ? 1 : 0;
    const pile = this.x.pileOf(s.what);
    return pile === null ? `turn(s,${this.x.write(s.what)},${up},${s.at});` : `turnWhole(s,${pile},${up});`;
  }

  private gather(piles: Expr, s: StmtOf<'gather'>): string {
    const to = this.x.sure(s.to);
    const one = piles.k === 'list' && piles.items.length === 1 ? piles.items[0] : undefined;
    if (one) return `moveWhole(s,${this.x.sure(one)},${to},-1);`;
    const whole = piles.k === 'family' && !piles.owner ? this.x.familyRange(piles) : null;
    if (whole) return `for(let i=${whole[0]};i<${whole[0] + whole[1]};i++)moveWhole(s,i,${to},-1);`;
    return `for(const from of ${this.x.write(piles)})moveWhole(s,from,${to},-1);`;
  }

  /** The facing that cards take on their way: where none is said, that of the pile where they come to lie, or −1 where that is found out then. */
  private facing(s: StmtOf<'deal'> | StmtOf<'move'>, to: Expr | null): string {
    const there = to?.k === 'pile' ? this.module.program.piles[to.i]?.facing : null;
    const otherwise = String(facingNumber(there ?? null));
    if (s.facing === null) return otherwise;
    const facing = String(facingNumber(s.facing));
    return s.facingWhen ? `(${this.x.write(s.facingWhen)}?${facing}:${otherwise})` : facing;
  }

  private deal(s: StmtOf<'deal'>): string {
    const { x } = this;
    const from = x.sure(s.from);
    const facing = this.facing(s, s.to.k === 'pile' ? s.to.pile : null);
    const one = s.count?.k === 'lit' && s.count.v === 1 && !s.upTo;
    let code: string;
    if (s.to.k === 'pile') {
      const to = x.sure(s.to.pile);
      if (one) code = `deal1(s,${from},${to},${facing},${s.at})`;
      else if (s.count) code = `dealN(s,${from},${to},${x.write(s.count)},${s.upTo},${facing},${s.at})`;
      else code = `dealAll(s,${from},[${to}],${facing},${s.at})`;
    } else if (s.to.k === 'piles') {
      const to = x.write(s.to.piles);
      code = s.count
        ? `dealEach(s,${from},${to},${x.write(s.count)},${s.upTo},${facing},${s.at})`
        : `dealAll(s,${from},${to},${facing},${s.at})`;
    } else {
      const base = this.module.layout.pileBase[s.to.family] ?? 0;
      const starting = s.to.starting ? x.sure(s.to.starting) : '-1';
      const count = s.count ? x.write(s.count) : '-1';
      const declared = this.module.program.piles[s.to.family];
      const many = (declared && manyOf(this.module.program, declared)) ?? 1;
      code = `dealRound(s,${from},${base},${many},${x.write(s.to.of)},${starting},${count},${s.upTo},${facing},${s.at})`;
    }
    return s.into === null ? `${code};` : this.assign(s.into, code);
  }

  private move(s: StmtOf<'move'>): string {
    const { x } = this;
    const to = x.sure(s.to);
    const facing = this.facing(s, s.to);
    const flags = `${s.reversed},${s.beneath},${facing},${s.at}`;
    const pile = s.what.k === 'all' ? x.sure(s.what.pile) : x.pileOf(s.what.cards);
    const only = s.what.k === 'cards' && s.what.cards.k === 'list' ? s.what.cards.items : [];
    if (only.length === 1) return `moveCard(s,${x.write(only[0] as Expr)},${to},${s.beneath},${facing},${s.at});`;
    if (s.what.k === 'cards' && pile === null) return `moveCards(s,${x.write(s.what.cards)},${to},${flags});`;
    return s.reversed || s.beneath ? `moveAll(s,${pile},${to},${flags});` : `moveWhole(s,${pile},${to},${facing});`;
  }

  private set(target: Target, op: string, value: string, at: number): string {
    const place = this.targetOf(target, at);
    const note = target.k === 'var' ? this.module.written(target.i) : '';
    if (op === '=') return `${assign(place, value)}${note}`;
    if (target.k === 'var' && isRef(this.module.program.vars[target.i]?.t ?? 'int'))
      return `${assign(place, `join(${place.js},${value},${at})`)}${note}`;
    return `${assign(place, `chk(${place.js}${op.charAt(0)}${value},${at})`)}${note}`;
  }

  private targetOf(target: Target, at: number): Place {
    if (target.k === 'local') return this.x.placeOf(target.i);
    if (target.k === 'score') return { js: `s.f[${this.module.layout.scoreBase}+${this.x.sure(target.owner)}]` };
    return this.x.variable({ ...target, at });
  }
}

/** Sets a variable back to its first value, for all that it is kept of. */
export function resetVar(module: Module, x: ExprWriter, i: number): string {
  const { layout, program } = module;
  const variable = program.vars[i];
  if (!variable) return '';
  const base = layout.varBase[i] ?? 0;
  const count = layout.varCount[i] ?? 1;
  const row = isRef(variable.t) ? 's.refs' : 's.f';
  const none = isRef(variable.t)
    ? '[]'
    : variable.t === 'int' || variable.t === 'flag' || variable.t.startsWith('kind:')
      ? '0'
      : '-1';
  const value = variable.start
    ? variable.t === 'flag'
      ? `Number(${x.write(variable.start)})`
      : x.write(variable.start)
    : none;
  const note = module.written(i);
  if (count === 1) return `${row}[${base}]=${value};${note}`;
  return `${note}${pay(Math.ceil(count / 4))}{const value=${value};for(let i=${base};i<${base + count};i++)${row}[i]=value;}`;
}
