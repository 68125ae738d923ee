import { type Expr, type Lambda, NOTHING, type Type } from '@wily-jester/core';
import type { AstNode } from '#langium';
import type * as ast from '../grammar/generated/ast.js';
import { CONSTANTS, canBeNothing, isComparable, isList, itemOf, listOf } from '../symbols/builtins.js';
import type { Frame, Sheet } from '../symbols/scope.js';
import { article, counted, ordinal } from '../symbols/wording.js';
import type { ExprContext } from './context.js';
import { lowerFunction } from './functions.js';
import { lowerIndex } from './indexing.js';
import { keyWords, lowerMember, suitsOf } from './members.js';
import { lowerBinary } from './operators.js';
import { compileText, faceIn } from './texts.js';

/** Compiles expressions: finds what names mean, checks types, and gives plain data. */
export class Expressions implements ExprContext {
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
      if (!canBeNothing(t)) {
        if (e.k === 'lit' && e.v === NOTHING)
          this.sheet.error(node, `${what} must be ${article(t)}, and "nothing" is none.`);
        return this.hole(node, t);
      }
      return { ...e, t } as Expr;
    }
    if (t === 'list:card' && e.t === 'pile') return { k: 'cards', t, at: e.at, of: e };
    if (t === 'list:card' && e.t === 'card') return { k: 'list', t, at: e.at, items: [e] };
    if (t === 'list:pile' && e.t === 'pile') return { k: 'list', t, at: e.at, items: [e] };
    if (t === 'key') return this.asKey(e, node, what);
    if (t === 'list:seat' && e.t === 'seat') return { k: 'list', t, at: e.at, items: [e] };
    if (t === 'rank' && e.t === 'int' && e.k === 'lit') {
      if (e.v >= 2 && e.v <= 10) return { ...e, t: 'rank' };
      this.sheet.error(node, `${e.v} is not a rank: ranks are A, 2 to 10, J, Q and K.`);
      return this.hole(node, t);
    }
    if (isList(t) && isList(e.t) && e.k === 'list' && e.items.length === 0) return { ...e, t };
    const instead = t === 'pile' && e.t === 'list:card' ? ': first(list) is its first card, last(list) its last' : '';
    this.sheet.error(node, `${what} must be ${article(t)}, and this is ${article(e.t)}${instead}.`);
    return this.hole(node, t);
  }

  /** Makes a key: one number that is compared, or several from the first to the last. */
  private asKey(e: Expr, node: AstNode, what: string): Expr {
    const items = e.k === 'list' && e.t !== 'list:card' ? e.items : [e];
    if (e.t === 'list:int') return { ...e, t: 'key' } as Expr;
    for (const item of items)
      if (!isComparable(item.t) && item.t !== 'nothing')
        this.sheet.error(node, `${what} is compared, and ${article(item.t)} is neither more nor less than another.`);
    return { k: 'key', t: 'key', at: e.at, items };
  }

  private namedCard(node: ast.CardLit): Expr {
    const face = faceIn(this.sheet, node.face);
    return face === undefined ? this.hole(node, 'card') : { k: 'face', t: 'card', at: this.sheet.at(node), face };
  }

  /** Options are known only when all asks are compiled: what they take is looked at then. */
  private can(node: ast.Can, frame: Frame): Expr {
    const args = node.args.map((arg): Expr | null =>
      arg.$type === 'Ref' && !this.isKnown(arg.name, frame) ? null : this.lower(arg, frame),
    );
    this.sheet.cans.push({ node, args });
    return { k: 'can', t: 'flag', at: this.sheet.at(node), option: node.option, args };
  }

  /** Compiles something that is a list, or a pile taken as its cards. */
  list(node: ast.Expr, frame: Frame, what: string): Expr {
    const e = this.lower(node, frame, isWrittenRanks(node) ? 'list:rank' : undefined);
    if (e.t === 'pile') return { k: 'cards', t: 'list:card', at: e.at, of: e };
    if (isList(e.t)) return e;
    if (e.t === 'key') this.sheet.error(node, 'The items of this list are of different sorts.');
    else if (e.t !== 'nothing')
      this.sheet.error(node, `${what} must be a list or a pile, and this is ${article(e.t)}.`);
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
        return this.namedCard(node);
      case 'Can':
        return this.can(node, frame);
      case 'ListLit':
        return this.listLiteral(node, frame, want);
      case 'Ref':
        return this.reference(node, frame, want);
      case 'Member':
        return lowerMember(this, node, frame);
      case 'Index':
        return lowerIndex(this, node, frame);
      case 'Call':
        return this.call(node, frame, want);
      case 'Negative':
        return this.negative(node, frame, want);
      case 'RangeExpr':
        return this.range(node, frame);
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

  /** A number below zero, or a value that compares the other way round. */
  private negative(node: ast.Negative, frame: Frame, want?: Type): Expr {
    const at = this.sheet.at(node);
    const e = this.lower(node.value, frame, want === 'key' && node.value.$type === 'ListLit' ? 'key' : undefined);
    const isKey = e.t === 'key' || e.t === 'list:int';
    if (isKey) return { k: 'neg', t: 'key', at, a: this.fit(e, 'key', node.value, 'What is turned round') };
    if (e.t !== 'int' && isComparable(e.t)) return { k: 'neg', t: 'turned', at, a: e };
    const a = this.fit(e, 'int', node.value, 'What follows "-"');
    return a.k === 'lit' ? { ...a, v: -a.v } : { k: 'neg', t: 'int', at, a };
  }

  /** Whole numbers from one to another, as a list. */
  private range(node: ast.RangeExpr, frame: Frame): Expr {
    const from = this.want(node.from, frame, 'int', 'The lower end');
    const to = this.want(node.to, frame, 'int', 'The upper end');
    return { k: 'fn', t: 'list:int', at: this.sheet.at(node), f: 'rangeOf', args: [from, to] };
  }

  private choice(node: ast.IfExpr, frame: Frame, want?: Type): Expr {
    const c = this.want(node.condition, frame, 'flag', 'The condition');
    let a = this.lower(node.yes, frame, want);
    let b = this.lower(node.no, frame, want ?? a.t);
    if (a.t !== b.t) {
      if (a.t === 'nothing' || a.t === 'list:nothing') a = this.fit(a, b.t, node.yes, 'The part after "then"');
      else b = this.fit(b, a.t, node.no, 'The part after "else"');
    }
    return { k: 'if', t: a.t, at: this.sheet.at(node), c, a, b };
  }

  private listLiteral(node: ast.ListLit, frame: Frame, want?: Type): Expr {
    const at = this.sheet.at(node);
    if (want === 'key') {
      const items = node.items.map((item) => this.lower(item, frame));
      return this.asKey({ k: 'list', t: 'list:nothing', at, items }, node, 'A key');
    }
    let t = want && isList(want) ? itemOf(want) : undefined;
    const items = node.items.map((item) => {
      const e = this.lower(item, frame, t);
      if (t === undefined || t === 'nothing' || t === 'list:nothing') t = e.t;
      return e;
    });
    const [only] = items;
    if (node.items.length === 1 && only?.k === 'fn' && only.f === 'rangeOf') {
      this.sheet.error(node, 'This is a list with a list in it: a range is a list already. Leave out the brackets.');
      return only;
    }
    // A list of unlike things that can all be compared is a key.
    if (items.some((e) => e.t !== t) && items.every((e) => isComparable(e.t)))
      return this.asKey({ k: 'list', t: 'list:nothing', at, items }, node, 'A key');
    const fitted = items.map((e, i) => this.fit(e, t ?? 'nothing', node.items[i] as AstNode, 'Every item of the list'));
    return { k: 'list', t: listOf(t ?? 'nothing'), at, items: fitted };
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
            const of = keyWords(this.sheet, variable.of);
            const keys = of.split(' and ').map((word) => `a ${word}`);
            this.sheet.error(
              node,
              keys.length > 1
                ? `"${name}" is kept for each ${of}: write ${name}[${keys.join(', ')}].`
                : `"${name}" is kept for each ${of}: say whose, such as ${of.charAt(0).toLowerCase()}.${name}.`,
            );
          }
          return { k: 'var', t: variable?.t ?? 'int', at: place, i: meaning.i, owner: null };
        }
        case 'pile': {
          const pile = this.sheet.piles[meaning.i];
          const single = pile && !pile.perSeat && pile.by === null && pile.many === null;
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
          this.sheet.error(
            node,
            `"${name}" is a routine: it can be run as a statement, and gives no value. What it finds it may keep in a variable.`,
          );
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
    const kind = this.sheet.kinds.find((k) => k.name === name);
    if (kind) {
      this.sheet.use(name);
      const t: Type = `kind:${name}`;
      return { k: 'list', t: listOf(t), at: place, items: kind.members.map((_, v) => this.lit(node, t, v)) };
    }
    if (name === 'ranks') return { k: 'ranks', t: 'list:rank', at: place };
    if (name === 'teams') {
      if (this.sheet.teams === 0)
        this.sheet.error(node, 'This game has no teams: its header would say "for 4 seats in 2 teams".');
      return { k: 'teams', t: 'list:team', at: place };
    }
    if (name === 'seats') return { k: 'seats', t: 'list:seat', at: place };
    if (name === 'suits') return suitsOf(this.sheet, place);
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
    // A routine gives no value: what is misspelt here was never meant to be one.
    const known = this.sheet.knownNames(frame).filter((other) => this.sheet.names.get(other)?.k !== 'routine');
    this.sheet.unknown(node, name, [...known, 'seats', 'pack', ...frame.seatNames.keys()]);
    return this.hole(node, want);
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
        if (arg.$type === 'Lambda' || arg.$type === 'ShapeList') {
          this.sheet.error(
            arg,
            `"${name}" takes values, not ${arg.$type === 'Lambda' ? 'a short function' : 'shapes'}.`,
          );
          return this.hole(node, param.t);
        }
        return this.want(arg, frame, param.t, `The ${ordinal(i)} value of ${name}`);
      });
      return { k: 'call', t: def?.t ?? 'int', at: place, def: meaning.i, args };
    }
    if (meaning?.k === 'routine') {
      this.sheet.error(
        node,
        `"${name}" is a routine: it can be run as a statement, and gives no value. What it finds it may keep in a variable.`,
      );
      return this.hole(node, want);
    }
    if (meaning) {
      this.sheet.error(node, `"${name}" is not a function.`);
      return this.hole(node, want);
    }
    return lowerFunction(this, node, name, frame, want);
  }

  private isKnown(name: string, frame: Frame): boolean {
    return frame.seatNames.has(name) || [...this.sheet.knownNames(frame), 'seats', 'pack', 'me'].includes(name);
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
          if (frame.find(name) !== undefined || this.sheet.names.has(name)) this.sheet.refuseHiding(arg, name);
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

const RANK_WORDS: ReadonlySet<string> = new Set(['A', 'J', 'Q', 'K']);
const isRankWord = (item: ast.Expr): boolean => item.$type === 'Ref' && RANK_WORDS.has(item.name);

/** Whether a list is written of ranks, whichever of them comes first: numbers beside ranks are ranks. */
const isWrittenRanks = (node: ast.Expr): boolean =>
  node.$type === 'ListLit' &&
  node.items.some(isRankWord) &&
  node.items.every((i) => isRankWord(i) || i.$type === 'Int');
