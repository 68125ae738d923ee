import type { Expr, Lambda, Plain, Type } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import {
  type Builtin,
  CONSTANTS,
  type Form,
  FUNCTIONS,
  isComparable,
  isList,
  itemOf,
  listOf,
} from '../symbols/builtins.js';
import type { Frame } from '../symbols/scope.js';
import { article } from '../symbols/wording.js';
import type { ExprContext } from './context.js';
import { writtenHand } from './written.js';

/** Compiles a call of one of the language's own functions. */
export function lowerFunction(
  x: ExprContext,
  node: ast.Call,
  name: string,
  frame: Frame,
  want: Type | undefined,
): Expr {
  const builtin = FUNCTIONS[name];
  return builtin ? new FunctionCall(x, node, name, builtin, frame).lower(want) : noFunction(x, node, name, frame, want);
}

function noFunction(x: ExprContext, node: ast.Call, name: string, frame: Frame, want: Type | undefined): Expr {
  const { sheet } = x;
  if (name === 'pairs')
    sheet.error(node, 'pairs(list) goes with a short function of two values: all(pairs(run), (below, above) => …).');
  else if (frame.find(name) !== undefined || CONSTANTS[name]) sheet.error(node, `"${name}" is not a function.`);
  else sheet.unknown(node.callee ?? node, name, [...Object.keys(FUNCTIONS), ...defNames(x)], 'function');
  for (const arg of node.args) if (arg.$type !== 'Lambda' && arg.$type !== 'ShapeList') x.lower(arg, frame);
  return x.hole(node, want);
}

type FormOf<K extends Form['k']> = Extract<Form, { k: K }>;

/** One call of a function: finds the form that it is written in, and compiles that. */
class FunctionCall {
  private readonly args: readonly ast.Arg[];
  private readonly at: number;

  constructor(
    private readonly x: ExprContext,
    private readonly node: ast.Call,
    private readonly name: string,
    private readonly builtin: Builtin,
    private readonly frame: Frame,
  ) {
    this.args = node.args;
    this.at = x.sheet.at(node);
  }

  lower(want: Type | undefined): Expr {
    const lowered = this.formed();
    if (lowered) return lowered;
    this.x.sheet.error(this.node, `"${this.name}" is used like this: ${this.builtin.usage}.`);
    return this.x.hole(this.node, want);
  }

  /** An argument that is a value, not a short function. */
  private value(i: number): ast.Expr | undefined {
    const arg = this.args[i];
    return arg && arg.$type !== 'Lambda' && arg.$type !== 'ShapeList' ? arg : undefined;
  }

  /** The call in the form that it is written in, or nothing where it is in none. */
  private formed(): Expr | undefined {
    const forms = this.builtin.forms.filter((form) => this.isWritten(form));
    const [form, ...more] = forms;
    if (!form) return undefined;
    if (form.k === 'plain') return this.plain([form, ...more] as FormOf<'plain'>[]);
    return this.special(form);
  }

  /** Whether the call is written in a form, as far as the number of its arguments and its short functions say. */
  private isWritten(form: Form): boolean {
    const [first, second] = this.args;
    if (!first || first.$type === 'Lambda' || first.$type === 'ShapeList') return false;
    const count = this.args.length;
    switch (form.k) {
      case 'plain':
        return count === form.takes.length && this.args.every((_, i) => this.value(i) !== undefined);
      case 'extreme':
        // Two values, or a list and what is looked at of its items.
        return count === 2 && isFunction(this.x, second);
      case 'extremeOfTwo':
        return count === 2 && this.value(1) !== undefined;
      case 'ways':
        return count === 2;
      case 'arranged':
        return count === 2 || count === 3;
      case 'fold':
      case 'choose':
      case 'sift':
        return count === 2;
      case 'nextWhere':
      case 'previousWhere':
        return count === 2;
      case 'extremeItself':
      case 'sumItself':
      case 'siftItself':
      case 'hand':
      case 'bestFive':
        return count === 1;
      case 'without':
        return count === 2 && this.value(1) !== undefined;
      case 'largest':
        return count === 2 && first.$type === 'Ref' && this.value(1) !== undefined;
      case 'plural':
        return count === 2 && this.value(1)?.$type === 'Text';
    }
  }

  private fn(f: Plain, t: Type, args: readonly Expr[]): Expr {
    return { k: 'fn', t, at: this.at, f, args };
  }

  /** An operation of the machine; of several forms the one whose first argument fits. */
  private plain(forms: readonly FormOf<'plain'>[]): Expr | undefined {
    const { x, frame, builtin } = this;
    if (builtin.botsOnly !== undefined && frame.what !== 'bot') x.sheet.error(this.node, builtin.botsOnly);
    const first = this.value(0) as ast.Expr;
    const [only, ...more] = forms;
    if (more.length === 0) return this.taken(only as FormOf<'plain'>, undefined);
    const e = x.lower(first, frame);
    const fits = forms.find(({ takes: [to] }) => (to?.t === 'list' ? isList(e.t) : to?.t === e.t));
    if (fits) return this.taken(fits, e);
    const last = forms.at(-1) as FormOf<'plain'>;
    if (builtin.mismatch === undefined) return this.taken(last, e);
    if (e.t !== 'nothing') x.sheet.error(first, `${this.name} ${builtin.mismatch}, and this is ${article(e.t)}.`);
    return x.hole(this.node, last.gives as Type);
  }

  /** @param first the first argument, where it is compiled already */
  private taken({ f, takes, gives }: FormOf<'plain'>, first: Expr | undefined): Expr {
    const { x, frame } = this;
    const args = takes.map(({ t, what }, i) => {
      const node = this.value(i) as ast.Expr;
      if (i === 0 && first) return t === 'list' ? first : x.fit(first, t, node, what);
      return t === 'list' ? x.list(node, frame, what) : x.want(node, frame, t, what);
    });
    const of = args[0]?.t ?? 'nothing';
    return this.fn(f, gives === 'item' ? itemOf(of) : gives === 'list' ? of : gives, args);
  }

  private special(form: Exclude<Form, FormOf<'plain'>>): Expr | undefined {
    const { x, frame, at, name } = this;
    const first = this.value(0) as ast.Expr;
    const second = this.args[1] as ast.Arg;
    switch (form.k) {
      case 'fold': {
        const neighbours = pairsOf(first);
        const of = neighbours ? x.list(neighbours, frame, `The list of ${name}`) : this.listOrWays(first);
        const by = x.lambda(second, frame, itemOf(of.t), form.by, neighbours ? 2 : 1);
        return { k: 'fold', t: form.by === 'flag' && form.f !== 'count' ? 'flag' : 'int', at, f: form.f, of, by };
      }
      case 'extreme': {
        const of = this.listOrWays(first);
        const by = keyed(x, second, frame, itemOf(of.t));
        return { k: 'fold', t: by.body.t, at, f: form.f, of, by };
      }
      case 'extremeItself':
        return this.ofItems(form.f, x.list(first, frame, `What ${name} looks at`));
      case 'extremeOfTwo':
        return this.ofTwo(form.f, first, second as ast.Expr);
      case 'ways':
        x.sheet.error(
          this.node,
          'choose gives its ways one by one and stands inside any, all, none, count, sum, max, min, best, least or find: say what you want of them.',
        );
        return x.hole(this.node, 'list:list:card');
      case 'arranged':
        return this.arranged(first, second);
      case 'choose': {
        const of = this.listOrWays(first);
        const item = itemOf(of.t);
        const by = form.by === 'flag' ? x.lambda(second, frame, item, 'flag') : keyed(x, second, frame, item);
        return { k: 'choose', t: item, at, f: form.f, of, by };
      }
      case 'sift': {
        const of = x.list(first, frame, `The list of ${name}`);
        const item = itemOf(of.t);
        const by =
          form.by === 'key' || form.by === 'sameness'
            ? keyed(x, second, frame, item, form.by === 'sameness')
            : x.lambda(second, frame, item, form.by === 'flag' ? 'flag' : undefined);
        const t = form.f === 'map' ? listOf(by.body.t) : form.f === 'groups' ? listOf(of.t) : of.t;
        return { k: 'sift', t, at, f: form.f, of, by };
      }
      case 'siftItself': {
        const of = x.list(first, frame, `The list of ${name}`);
        const item = itemOf(of.t);
        if (form.f === 'sorted' && !isComparable(item)) return undefined;
        const local = frame.add('', item, true);
        const by: Lambda = { params: [local], body: { k: 'local', t: item, at, i: local } };
        return { k: 'sift', t: of.t, at, f: form.f, of, by };
      }
      case 'sumItself': {
        const of = x.list(first, frame, `The list of ${name}`);
        return this.fn('listSum', 'int', [x.fit(of, 'list:int', first, 'What is added up')]);
      }
      case 'hand': {
        if (first.$type === 'Text') return writtenHand(x.sheet, first, form.kind, at);
        const of = x.want(first, frame, 'list:card', form.what);
        return { k: 'hand', t: form.kind === 'high' ? 'poker' : 'low', at, kind: form.kind, of };
      }
      case 'bestFive':
        return { k: 'bestFive', t: 'list:card', at, kind: 'high', of: x.want(first, frame, 'list:card', form.what) };
      case 'nextWhere':
      case 'previousWhere':
        return this.seatWhere(first, second, form.k === 'previousWhere');
      case 'without':
        return this.without(first, second as ast.Expr);
      case 'largest': {
        const of = x.want(second as ast.Expr, frame, 'list:card', 'What largest looks through');
        const shapes = first.$type === 'Ref' ? x.sheet.shapesNamed(first, [first.name]) : [];
        return { k: 'largest', t: 'list:card', at, of, shapes };
      }
      case 'plural':
        return this.fn('plural', 'text', [
          x.want(first, frame, 'int', 'The number of plural'),
          x.lower(second as ast.Expr, frame),
        ]);
    }
  }

  /** A list, or ways to choose among one, which are gone through one by one. */
  private listOrWays(node: ast.Expr): Expr {
    const { x, frame, name } = this;
    const isWays = node.$type === 'Call' && node.callee?.$type === 'Ref' && node.callee.name === 'choose';
    if (!isWays || node.args.length !== 2) return x.list(node, frame, `The list of ${name}`);
    const at = x.sheet.at(node);
    const [list, how] = node.args as [ast.Arg, ast.Arg];
    if (list.$type === 'Lambda' || list.$type === 'ShapeList' || how.$type === 'Lambda') {
      x.sheet.error(node, `"choose" is used like this: ${FUNCTIONS.choose?.usage}.`);
      return x.hole(node, 'list:list:card');
    }
    const shapes = this.shapesIn(how);
    if (shapes) {
      const of = x.want(list, frame, 'list:card', 'What is chosen from');
      return { k: 'ways', t: 'list:list:card', at, of, sizes: null, shapes };
    }
    const of = x.list(list, frame, 'What is chosen from');
    const many = x.lower(how as ast.Expr, frame);
    const sizes: Expr =
      many.t === 'int'
        ? { k: 'list', t: 'list:int', at, items: [many] }
        : x.fit(many, 'list:int', how, 'How many are chosen');
    return { k: 'ways', t: listOf(of.t), at, of, sizes, shapes: [] };
  }

  /** The shapes that an argument names; nothing where it names none. */
  private shapesIn(arg: ast.Arg): readonly number[] | undefined {
    const { x } = this;
    if (arg.$type === 'ShapeList') return x.sheet.shapesNamed(arg, arg.names);
    const isShape = arg.$type === 'Ref' && x.sheet.shapes.some((shape) => shape.name === arg.name);
    return isShape ? x.sheet.shapesNamed(arg, [arg.name]) : undefined;
  }

  /** The greatest or the least of items themselves. */
  private ofItems(f: 'min' | 'max', of: Expr): Expr | undefined {
    const { x, frame, at } = this;
    const item = itemOf(of.t);
    if (!isOrdered(item)) {
      if (item !== 'nothing')
        x.sheet.error(this.node, `${article(item, true)} is neither more nor less than another: say by what.`);
      return x.hole(this.node);
    }
    const local = frame.add('', item, true);
    const by: Lambda = { params: [local], body: { k: 'local', t: item, at, i: local } };
    if (item === 'int') return this.fn(f === 'min' ? 'listMin' : 'listMax', 'int', [of]);
    return { k: 'fold', t: item, at, f, of, by };
  }

  /** The greater or the lesser of two values. */
  private ofTwo(f: 'min' | 'max', first: ast.Expr, second: ast.Expr): Expr | undefined {
    const { x, frame, at, name } = this;
    const a = x.lower(first, frame);
    if (a.t === 'int' || a.t === 'nothing' || !isOrdered(a.t)) {
      const left = x.fit(a, 'int', first, `The first value of ${name}`);
      const right = x.want(second, frame, 'int', `The second value of ${name}`);
      return this.fn(f === 'min' ? 'min2' : 'max2', 'int', [left, right]);
    }
    const b = x.want(second, frame, a.t, `The second value of ${name}`);
    return this.ofItems(f, { k: 'list', t: listOf(a.t), at, items: [a, b] });
  }

  private arranged(list: ast.Expr, how: ast.Arg): Expr {
    const { x, frame, at } = this;
    const of = x.want(list, frame, 'list:card', 'What is arranged');
    const shapes = this.shapesIn(how);
    if (!shapes) {
      x.sheet.error(how, 'Shapes should stand here, such as set | run: arranged(cards, set | run).');
      return x.hole(this.node, 'list:list:card');
    }
    for (const i of shapes)
      if ((x.sheet.shapes[i]?.least ?? 2) < 2)
        x.sheet.error(how, `Every card would be a group: "${x.sheet.shapes[i]?.name}" may be a single card.`);
    const by = this.args[2];
    const weights: Expr | null = by
      ? { k: 'sift', t: 'list:int', at, f: 'map', of, by: x.lambda(by, frame, 'card', 'int') }
      : null;
    return { k: 'arranged', t: 'list:list:card', at, of, shapes, weights };
  }

  private without(list: ast.Expr, value: ast.Expr): Expr {
    const { x, frame, at } = this;
    const of = x.list(list, frame, 'What something is left out of');
    const left = x.lower(value, frame, itemOf(of.t));
    if (left.t === of.t || left.t === 'pile' || (left.k === 'list' && left.items.length === 0))
      return this.fn('withoutItems', of.t, [of, x.fit(left, of.t, value, 'What is left out')]);
    if (left.t === listOf(of.t)) return this.fn('withoutLists', of.t, [of, left]);
    const item = x.fit(left, itemOf(of.t), value, 'What is left out');
    const local = frame.add('', itemOf(of.t), true);
    const here: Expr = { k: 'local', t: itemOf(of.t), at, i: local };
    const body: Expr = { k: 'op', t: 'flag', at, op: '!=', a: here, b: item };
    return { k: 'sift', t: of.t, at, f: 'only', of, by: { params: [local], body } };
  }

  /** The next seat round the table for which something holds; the seat itself comes last. */
  private seatWhere(from: ast.Expr, condition: ast.Arg, backwards: boolean): Expr {
    const { x, frame, at } = this;
    const seat = x.want(from, frame, 'seat', 'What it starts from');
    // Backwards: from the seat on round the table, turned about, ends with the seat itself.
    const of = backwards
      ? this.fn('reversed', 'list:seat', [this.fn('seatsFrom', 'list:seat', [seat])])
      : this.fn('seatsFrom', 'list:seat', [this.fn('nextSeat', 'seat', [seat])]);
    return { k: 'choose', t: 'seat', at, f: 'find', of, by: x.lambda(condition, frame, 'seat', 'flag') };
  }
}

/** The list whose neighbours `pairs(list)` stands for. */
function pairsOf(node: ast.Expr): ast.Expr | undefined {
  if (node.$type !== 'Call' || node.callee?.$type !== 'Ref' || node.callee.name !== 'pairs') return undefined;
  const [list] = node.args;
  return node.args.length === 1 && list && list.$type !== 'Lambda' && list.$type !== 'ShapeList' ? list : undefined;
}

function isFunction(x: ExprContext, arg: ast.Arg | undefined): boolean {
  return (
    arg?.$type === 'Lambda' ||
    (arg?.$type === 'Ref' &&
      x.sheet.names.get(arg.name)?.k === 'def' &&
      x.sheet.defs[(x.sheet.names.get(arg.name) as { i: number }).i]?.params.length === 1)
  );
}

/** Whether values of a type are put in order: those that compare, and keys of them. */
const isOrdered = (t: Type): boolean =>
  isComparable(t) || t === 'key' || t === 'list:int' || t === 'list:rank' || t === 'list:flag';

/**
 * A short function, or a def, that gives a key; where items are only told apart, seats and cards
 * will do too.
 */
export function keyed(x: ExprContext, node: ast.Arg, frame: Frame, item: Type, alike = false): Lambda {
  const literal = node.$type === 'Lambda' && node.body.$type === 'ListLit';
  const lambda = x.lambda(node, frame, item, literal ? 'key' : undefined);
  const { t } = lambda.body;
  const many = t === 'key' || t === 'list:int' || t === 'list:rank' || t === 'list:flag';
  const single =
    isComparable(t) || (alike && (t === 'seat' || t === 'card' || t === 'color' || t === 'team' || t === 'pile'));
  if (!many && !single && t !== 'nothing')
    x.sheet.error(node, `The key must be a number, a rank or a flag, and this is ${article(t)}.`);
  return lambda;
}

const defNames = (x: ExprContext): string[] =>
  [...x.sheet.names].filter(([, m]) => m.k === 'def').map(([name]) => name);
