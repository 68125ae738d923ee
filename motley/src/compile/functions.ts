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
  for (const arg of node.args) if (arg.$type !== 'Lambda') x.lower(arg, frame);
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
    return arg && arg.$type !== 'Lambda' ? arg : undefined;
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
    if (!first || first.$type === 'Lambda') return false;
    const count = this.args.length;
    switch (form.k) {
      case 'plain':
        return count === form.takes.length && this.args.every((_, i) => this.value(i) !== undefined);
      case 'fold':
        // Two numbers, or a list and what is looked at of its items.
        return count === 2 && ((form.f !== 'min' && form.f !== 'max') || isFunction(this.x, second));
      case 'choose':
      case 'sift':
        return count === 2;
      case 'nextWhere':
      case 'previousWhere':
        return count === 2;
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
        const of = x.list(neighbours ?? first, frame, `The list of ${name}`);
        const by = x.lambda(second, frame, itemOf(of.t), form.by, neighbours ? 2 : 1);
        return { k: 'fold', t: form.by === 'flag' && form.f !== 'count' ? 'flag' : 'int', at, f: form.f, of, by };
      }
      case 'choose': {
        const of = x.list(first, frame, `The list of ${name}`);
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

  private without(list: ast.Expr, value: ast.Expr): Expr {
    const { x, frame, at } = this;
    const of = x.list(list, frame, 'What something is left out of');
    const item = x.want(value, frame, itemOf(of.t), 'What is left out');
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
  return node.args.length === 1 && list && list.$type !== 'Lambda' ? list : undefined;
}

function isFunction(x: ExprContext, arg: ast.Arg | undefined): boolean {
  return (
    arg?.$type === 'Lambda' ||
    (arg?.$type === 'Ref' &&
      x.sheet.names.get(arg.name)?.k === 'def' &&
      x.sheet.defs[(x.sheet.names.get(arg.name) as { i: number }).i]?.params.length === 1)
  );
}

/** A short function that gives a key; where items are only told apart, seats and cards will do too. */
function keyed(x: ExprContext, node: ast.Arg, frame: Frame, item: Type, alike = false): Lambda {
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
