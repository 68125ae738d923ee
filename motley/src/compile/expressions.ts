import { type CardField, type Expr, type Lambda, NOTHING, type Type } from '@wily-jester/core';
import type { AstNode } from 'langium';
import type * as ast from '../grammar/generated/ast.js';
import { nearest } from '../problems.js';
import { CONSTANTS, isList, itemOf, listOf } from './builtins.js';
import { lowerFunction } from './functions.js';
import { lowerBinary } from './operators.js';
import type { Frame, Sheet } from './scope.js';
import { compileText } from './texts.js';
import { article, counted, ordinal } from './wording.js';

const CARD_FIELDS: Readonly<Record<string, Type>> = {
  rank: 'rank',
  suit: 'suit',
  color: 'color',
  pips: 'int',
  number: 'int',
  place: 'int',
  pile: 'pile',
};

/** Compiles expressions: finds what names mean, checks types, and gives plain data. */
export class Expressions {
  constructor(readonly sheet: Sheet) {}

  private lit(node: AstNode, t: Type, v: number): Expr {
    return { k: 'lit', t, at: this.sheet.at(node), v };
  }

  /** A stand-in after a problem was reported; its type fits what was wanted, so that one mistake gives one message. */
  hole(node: AstNode, want?: Type): Expr {
    return this.lit(node, want ?? 'nothing', 1);
  }

  /** Compiles and insists on a type. */
  want(node: ast.Expr, frame: Frame, t: Type, what: string): Expr {
    const e = this.lower(node, frame, t);
    return this.fit(e, t, node, what);
  }

  /** Makes a compiled expression fit a type, or says why it does not. */
  fit(e: Expr, t: Type, node: AstNode, what: string): Expr {
    if (e.t === t || t === 'nothing') return e;
    if (e.t === 'nothing') {
      if (t === 'int' || t === 'flag' || t === 'text' || isList(t)) {
        if (e.k === 'lit' && e.v === NOTHING)
          this.sheet.error(node, `${what} must be ${article(t)}, and "nothing" is none.`);
        return this.hole(node, t);
      }
      return { ...e, t } as Expr;
    }
    if (t === 'list:card' && e.t === 'pile') return { k: 'cards', t, at: e.at, of: e };
    if (t === 'list:card' && e.t === 'card') return { k: 'list', t, at: e.at, items: [e] };
    if (t === 'list:pile' && e.t === 'pile') return { k: 'list', t, at: e.at, items: [e] };
    if (t === 'list:seat' && e.t === 'seat') return { k: 'list', t, at: e.at, items: [e] };
    if (t === 'rank' && e.t === 'int' && e.k === 'lit') {
      if (e.v >= 2 && e.v <= 10) return { ...e, t: 'rank' };
      this.sheet.error(node, `${e.v} is not a rank: ranks are A, 2 to 10, J, Q and K.`);
      return this.hole(node, t);
    }
    if (isList(t) && isList(e.t) && e.k === 'list' && e.items.length === 0) return { ...e, t };
    this.sheet.error(node, `${what} must be ${article(t)}, and this is ${article(e.t)}.`);
    return this.hole(node, t);
  }

  /** Compiles something that is a list, or a pile taken as its cards. */
  list(node: ast.Expr, frame: Frame, what: string): Expr {
    const e = this.lower(node, frame);
    if (e.t === 'pile') return { k: 'cards', t: 'list:card', at: e.at, of: e };
    if (isList(e.t)) return e;
    if (e.t !== 'nothing') this.sheet.error(node, `${what} must be a list or a pile, and this is ${article(e.t)}.`);
    return { k: 'list', t: 'list:card', at: e.at, items: [] };
  }

  lower(node: ast.Expr, frame: Frame, want?: Type): Expr {
    switch (node.$type) {
      case 'Int':
        if (!Number.isSafeInteger(node.value)) {
          this.sheet.error(node, 'This number is too large: whole numbers are exact up to 9,007,199,254,740,991.');
          return this.hole(node, 'int');
        }
        return want === 'rank' && node.value >= 2 && node.value <= 10
          ? this.lit(node, 'rank', node.value)
          : this.lit(node, 'int', node.value);
      case 'Group':
        return this.lower(node.value, frame, want);
      case 'Text':
        return compileText(this, frame, node);
      case 'CardLit':
        this.sheet.notYet(node, 'card "…"');
        return this.hole(node, 'card');
      case 'ListLit':
        return this.listLiteral(node, frame, want);
      case 'Ref':
        return this.reference(node, frame, want);
      case 'Member':
        return this.member(node, frame);
      case 'Index':
        return this.index(node, frame);
      case 'Call':
        return this.call(node, frame, want);
      case 'Negative': {
        const a = this.want(node.value, frame, 'int', 'What follows "-"');
        return a.k === 'lit' ? { ...a, v: -a.v } : { k: 'neg', t: 'int', at: this.sheet.at(node), a };
      }
      case 'Not':
        return {
          k: 'not',
          t: 'flag',
          at: this.sheet.at(node),
          a: this.want(node.value, frame, 'flag', 'What follows "not"'),
        };
      case 'IfExpr':
        return this.choice(node, frame, want);
      case 'Binary':
        return lowerBinary(this, node, frame, want);
    }
  }

  private choice(node: ast.IfExpr, frame: Frame, want?: Type): Expr {
    const c = this.want(node.condition, frame, 'flag', 'The condition');
    let a = this.lower(node.yes, frame, want);
    let b = this.lower(node.no, frame, want ?? a.t);
    if (a.t !== b.t) {
      if (a.t === 'nothing') a = this.fit(a, b.t, node.yes, 'The part after "then"');
      else b = this.fit(b, a.t, node.no, 'The part after "else"');
    }
    return { k: 'if', t: a.t, at: this.sheet.at(node), c, a, b };
  }

  private listLiteral(node: ast.ListLit, frame: Frame, want?: Type): Expr {
    const wanted = want && isList(want) ? itemOf(want) : undefined;
    const items: Expr[] = [];
    let t = wanted;
    for (const item of node.items) {
      const e = this.lower(item, frame, t);
      if (t === undefined || t === 'nothing') t = e.t;
      items.push(this.fit(e, t, item, 'Every item of the list'));
    }
    return { k: 'list', t: listOf(t ?? 'nothing'), at: this.sheet.at(node), items };
  }

  private reference(node: ast.Ref, frame: Frame, want?: Type): Expr {
    const place = this.sheet.at(node);
    const { name } = node;
    const local = frame.find(name);
    if (local !== undefined) {
      frame.read.add(local);
      const value: Expr = { k: 'local', t: frame.locals[local]?.t ?? 'int', at: place, i: local };
      return frame.tails.has(local) ? { k: 'fn', t: 'list:card', at: place, f: 'tail', args: [value] } : value;
    }
    const seat = frame.seatNames.get(name);
    if (seat !== undefined) return this.lit(node, 'seat', seat);
    if (want?.startsWith('kind:')) {
      const kind = this.sheet.kinds.find((k) => `kind:${k.name}` === want);
      const v = kind?.members.findIndex((m) => m.name === name) ?? -1;
      if (v >= 0) {
        this.sheet.use(name);
        return this.lit(node, want, v);
      }
    }
    const meaning = this.sheet.names.get(name);
    if (meaning) {
      this.sheet.use(name);
      switch (meaning.k) {
        case 'setting':
          return { k: 'setting', t: this.sheet.settings[meaning.i]?.t ?? 'int', at: place, i: meaning.i };
        case 'var': {
          const variable = this.sheet.vars[meaning.i];
          if (variable && variable.of.k !== 'table') {
            const of = variable.of.k === 'seat' ? 'seat' : 'pile';
            this.sheet.error(node, `"${name}" is kept for each ${of}: say whose, such as s.${name}.`);
          }
          return { k: 'var', t: variable?.t ?? 'int', at: place, i: meaning.i, owner: null };
        }
        case 'pile': {
          const pile = this.sheet.piles[meaning.i];
          const single = pile && !pile.perSeat && !pile.perSuit && pile.many === null;
          return single
            ? { k: 'pile', t: 'pile', at: place, i: meaning.i, owner: null, index: null }
            : { k: 'family', t: 'list:pile', at: place, i: meaning.i, owner: null };
        }
        case 'def': {
          this.sheet.ensureDef(meaning.i);
          const def = this.sheet.defs[meaning.i];
          if (def && def.params.length > 0)
            this.sheet.error(
              node,
              `"${name}" needs ${def.params.length === 1 ? 'a value' : `${def.params.length} values`} in parentheses.`,
            );
          return { k: 'call', t: def?.t ?? 'int', at: place, def: meaning.i, args: [] };
        }
        case 'routine':
          this.sheet.error(node, `"${name}" is a routine: it can be run as a statement, and gives no value.`);
          return this.hole(node, want);
        case 'member': {
          const [only, ...more] = meaning.kinds;
          if (only && more.length === 0) return this.lit(node, `kind:${only.kind}`, only.v);
          this.sheet.error(
            node,
            `"${name}" is in several kinds (${this.sheet.listed(meaning.kinds.map((k) => k.kind))}), and nothing here says which.`,
          );
          return this.hole(node, want);
        }
      }
    }
    if (name === 'seats') return { k: 'seats', t: 'list:seat', at: place };
    if (name === 'suits') return { k: 'suits', t: 'list:suit', at: place };
    if (name === 'pack') return { k: 'pile', t: 'pile', at: place, i: 0, owner: null, index: null };
    if (name === 'me') {
      if (!frame.hasMe) {
        this.sheet.error(node, '"me" is the seat that a bot plays for: it can stand in bots only.');
        return this.hole(node, 'seat');
      }
      return { k: 'me', t: 'seat', at: place };
    }
    const constant = CONSTANTS[name];
    if (constant) return this.lit(node, constant.t, constant.v);
    this.sheet.unknown(node, name, [...this.sheet.knownNames(frame), 'seats', 'pack', ...frame.seatNames.keys()]);
    return this.hole(node, want);
  }

  private member(node: ast.Member, frame: Frame): Expr {
    const of = this.lower(node.of, frame);
    const place = this.sheet.at(node);
    const { name } = node;
    if (of.t === 'nothing') return this.hole(node);
    if (of.t === 'card') {
      const t = CARD_FIELDS[name];
      if (t) return { k: 'field', t, at: place, f: name as CardField, of };
      this.sheet.unknown(node, name, Object.keys(CARD_FIELDS), 'property of a card named');
      return this.hole(node);
    }
    const meaning = this.sheet.names.get(name);
    if (of.t === 'seat') {
      if (name === 'score') return { k: 'fn', t: 'int', at: place, f: 'score', args: [of] };
      if (meaning?.k === 'var' && this.sheet.vars[meaning.i]?.of.k === 'seat') {
        this.sheet.use(name);
        return { k: 'var', t: this.sheet.vars[meaning.i]?.t ?? 'int', at: place, i: meaning.i, owner: of };
      }
      const pile = meaning?.k === 'pile' ? this.sheet.piles[meaning.i] : undefined;
      if (meaning?.k === 'pile' && pile?.perSeat) {
        this.sheet.use(name);
        return pile.many === null
          ? { k: 'pile', t: 'pile', at: place, i: meaning.i, owner: of, index: null }
          : { k: 'family', t: 'list:pile', at: place, i: meaning.i, owner: of };
      }
      const known = [...this.sheet.names].filter(([, m]) => this.isOfSeat(m)).map(([n]) => n);
      if (meaning && meaning.k !== 'member')
        this.sheet.error(node, `"${name}" belongs to the table, not to a seat: write ${name} alone.`);
      else this.sheet.unknown(node, name, [...known, 'score'], 'variable or pile of a seat named');
      return this.hole(node);
    }
    if (of.t === 'pile') {
      if (name === 'seat') return { k: 'owner', t: 'seat', at: place, of };
      if (meaning?.k === 'var' && this.sheet.vars[meaning.i]?.of.k === 'pile') {
        this.sheet.use(name);
        return { k: 'var', t: this.sheet.vars[meaning.i]?.t ?? 'int', at: place, i: meaning.i, owner: of };
      }
      const known = [...this.sheet.names]
        .filter(([, m]) => m.k === 'var' && this.sheet.vars[m.i]?.of.k === 'pile')
        .map(([n]) => n);
      const near = nearest(name, [...known, 'seat']);
      this.sheet.error(
        node,
        `A pile has no "${name}".${near ? ` Did you mean "${near}"?` : ' Its cards have: write top(p).rank, or size(p).'}`,
        near,
      );
      return this.hole(node);
    }
    this.sheet.error(node, `There is no "${name}" of ${article(of.t)}.`);
    return this.hole(node);
  }

  private isOfSeat(m: { k: string; i?: number }): boolean {
    if (m.i === undefined) return false;
    return m.k === 'var'
      ? this.sheet.vars[m.i]?.of.k === 'seat'
      : m.k === 'pile' && this.sheet.piles[m.i]?.perSeat === true;
  }

  private index(node: ast.Index, frame: Frame): Expr {
    const of = this.lower(node.of, frame);
    const place = this.sheet.at(node);
    const [first, ...more] = node.index;
    if (!first) return this.hole(node);
    if (more.length > 0) {
      this.sheet.notYet(node, 'an index with several numbers');
      return this.hole(node, 'pile');
    }
    if (of.k === 'family') {
      const pile = this.sheet.piles[of.i];
      if (pile?.perSeat && of.owner === null) {
        if (pile.many !== null)
          this.sheet.error(node, `"${pile.name}" is kept for each seat: write s.${pile.name}[…].`);
        const owner = this.want(first, frame, 'seat', 'What stands in brackets');
        return { k: 'pile', t: 'pile', at: place, i: of.i, owner, index: null };
      }
      const index = this.want(first, frame, pile?.perSuit ? 'suit' : 'int', 'What stands in brackets');
      return { k: 'pile', t: 'pile', at: place, i: of.i, owner: of.owner, index };
    }
    const n = this.want(first, frame, 'int', 'What stands in brackets');
    if (of.t === 'pile')
      return { k: 'item', t: 'card', at: place, of: { k: 'cards', t: 'list:card', at: of.at, of }, n };
    if (isList(of.t)) return { k: 'item', t: itemOf(of.t), at: place, of, n };
    if (of.t !== 'nothing')
      this.sheet.error(node, `${article(of.t, true)} has no places to count: brackets go after a list or a pile.`);
    return this.hole(node);
  }

  private call(node: ast.Call, frame: Frame, want?: Type): Expr {
    const place = this.sheet.at(node);
    if (node.builtin !== undefined) return lowerFunction(this, node, node.builtin, frame, want);
    if (node.callee?.$type !== 'Ref') {
      this.sheet.error(node, 'Only a function can be called.');
      return this.hole(node, want);
    }
    const { name } = node.callee;
    const meaning = this.sheet.names.get(name);
    if (meaning?.k === 'def') {
      this.sheet.use(name);
      this.sheet.ensureDef(meaning.i);
      const def = this.sheet.defs[meaning.i];
      const params = def?.params ?? [];
      if (params.length !== node.args.length)
        this.sheet.error(
          node,
          `"${name}" takes ${counted(params.length, 'value')}, and here there ${node.args.length === 1 ? 'is' : 'are'} ${node.args.length}.`,
        );
      const args = params.map((param, i): Expr => {
        const arg = node.args[i];
        if (!arg) return this.hole(node, param.t);
        if (arg.$type === 'Lambda') {
          this.sheet.error(arg, `"${name}" takes values, not a short function.`);
          return this.hole(node, param.t);
        }
        return this.want(arg, frame, param.t, `The ${ordinal(i)} value of ${name}`);
      });
      return { k: 'call', t: def?.t ?? 'int', at: place, def: meaning.i, args };
    }
    if (meaning?.k === 'routine') {
      this.sheet.error(node, `"${name}" is a routine: it can be run as a statement, and gives no value.`);
      return this.hole(node, want);
    }
    if (meaning) {
      this.sheet.error(node, `"${name}" is not a function.`);
      return this.hole(node, want);
    }
    return lowerFunction(this, node, name, frame, want);
  }

  /** Reports a name that nothing here has; `false` for a known one. */
  private unknownName(node: ast.Ref, frame: Frame): boolean {
    const known = this.sheet.knownNames(frame);
    if (known.includes(node.name)) return false;
    this.sheet.unknown(node, node.name, known);
    return true;
  }

  /** A short function `x => e`, or the name of a def that takes one value. */
  lambda(arg: ast.Arg, frame: Frame, item: Type, want: Type | undefined, values = 1): Lambda {
    frame.open();
    try {
      if (arg.$type === 'Lambda') {
        if (arg.params.length !== values) {
          const many = values === 2 ? 'two values, such as (below, above) => …' : 'one value, such as c => …';
          this.sheet.error(arg, `This short function takes ${many}`);
          return { params: [], body: this.hole(arg, want) };
        }
        const params = arg.params.map((name) => {
          if (frame.find(name) !== undefined || this.sheet.names.has(name))
            this.sheet.error(
              arg,
              `"${name}" means something else here already. Nothing may be hidden by another of the same name.`,
            );
          return frame.add(name, item, true);
        });
        const body = this.lower(arg.body, frame, want);
        return { params, body: want ? this.fit(body, want, arg.body, 'What the short function gives') : body };
      }
      if (arg.$type === 'Ref' && this.sheet.names.get(arg.name)?.k === 'def') {
        const meaning = this.sheet.names.get(arg.name) as { k: 'def'; i: number };
        this.sheet.ensureDef(meaning.i);
        const def = this.sheet.defs[meaning.i];
        this.sheet.use(arg.name);
        const local = frame.add('', item, true);
        const place = this.sheet.at(arg);
        if (def?.params.length !== 1) {
          this.sheet.error(arg, `"${arg.name}" must take one value to be used here.`);
          return { params: [local], body: this.hole(arg, want) };
        }
        const given = this.fit(
          { k: 'local', t: item, at: place, i: local },
          def.params[0]?.t ?? item,
          arg,
          `What ${arg.name} takes`,
        );
        const body: Expr = { k: 'call', t: def.t, at: place, def: meaning.i, args: [given] };
        return { params: [local], body: want ? this.fit(body, want, arg, `What ${arg.name} gives`) : body };
      }
      if (arg.$type === 'Ref' && arg.name === 'faceUp') {
        const at = this.sheet.at(arg);
        const local = frame.add('', item, true);
        const card = this.fit({ k: 'local', t: item, at, i: local }, 'card', arg, 'What faceUp looks at');
        return { params: [local], body: { k: 'fn', t: 'flag', at, f: 'faceUp', args: [card] } };
      }
      if (arg.$type === 'Ref' && this.unknownName(arg, frame)) return { params: [], body: this.hole(arg, want) };
      this.sheet.error(arg, 'A short function should stand here, such as c => c.rank == A, or the name of a def.');
      return { params: [], body: this.hole(arg, want) };
    } finally {
      frame.close();
    }
  }
}
