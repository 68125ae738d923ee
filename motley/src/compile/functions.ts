import type { Expr, Fold, Lambda, Pick, Plain, Sift, Type } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { CONSTANTS, FUNCTIONS, isComparable, isList, itemOf, listOf } from '../symbols/builtins.js';
import type { Frame } from '../symbols/scope.js';
import { article } from '../symbols/wording.js';
import type { Expressions } from './expressions.js';

const FOLDS: ReadonlySet<string> = new Set(['any', 'all', 'none', 'count', 'sum']);
const PICKS: ReadonlySet<string> = new Set(['best', 'least', 'find']);
const SIFTS: ReadonlySet<string> = new Set(['only', 'map', 'leaders', 'sorted', 'groups', 'distinct']);
/** Sifts that compare or match by a key. */
const KEYED: ReadonlySet<string> = new Set(['leaders', 'sorted', 'groups', 'distinct']);

/** Compiles a call of one of the language's own functions. */
export function lowerFunction(
  x: Expressions,
  node: ast.Call,
  name: string,
  frame: Frame,
  want: Type | undefined,
): Expr {
  const { sheet } = x;
  const at = sheet.at(node);
  const { args } = node;
  const usage = FUNCTIONS[name];
  if (!usage) {
    if (name === 'pairs')
      sheet.error(node, 'pairs(list) goes with a short function of two values: all(pairs(run), (below, above) => …).');
    else if (frame.find(name) !== undefined || CONSTANTS[name]) sheet.error(node, `"${name}" is not a function.`);
    else sheet.unknown(node.callee ?? node, name, [...Object.keys(FUNCTIONS), ...defNames(x)], 'function');
    for (const arg of args) if (arg.$type !== 'Lambda') x.lower(arg, frame);
    return x.hole(node, want);
  }
  const wrong = (): Expr => {
    sheet.error(node, `"${name}" is used like this: ${usage}.`);
    return x.hole(node, want);
  };
  const value = (i: number): ast.Expr | undefined => {
    const arg = args[i];
    return arg && arg.$type !== 'Lambda' ? arg : undefined;
  };
  const plain = (f: Plain, t: Type, given: Expr[]): Expr => ({ k: 'fn', t, at, f, args: given });
  const first = value(0);

  if (FOLDS.has(name) || ((name === 'min' || name === 'max') && args.length === 2 && isFunction(x, args[1]))) {
    const by = args[1];
    if (!first || args.length > 2) return wrong();
    const neighbours = pairsOf(first);
    const of = x.list(neighbours ?? first, frame, `The list of ${name}`);
    const logical = name === 'any' || name === 'all' || name === 'none' || name === 'count';
    if (!by) {
      if (name !== 'sum') return wrong();
      return plain('listSum', 'int', [x.fit(of, 'list:int', first, 'What is added up')]);
    }
    const lambda = x.lambda(by, frame, itemOf(of.t), logical ? 'flag' : 'int', neighbours ? 2 : 1);
    const t: Type = logical && name !== 'count' ? 'flag' : 'int';
    return { k: 'fold', t, at, f: name as Fold, of, by: lambda };
  }
  if (PICKS.has(name)) {
    if (!first || !args[1] || args.length > 2) return wrong();
    const of = x.list(first, frame, `The list of ${name}`);
    const by =
      name === 'find' ? x.lambda(args[1], frame, itemOf(of.t), 'flag') : keyed(x, args[1], frame, itemOf(of.t));
    return { k: 'choose', t: itemOf(of.t), at, f: name as Pick, of, by };
  }
  if (SIFTS.has(name)) {
    // Without a key, items are put in order or told apart by themselves.
    const itself = (name === 'sorted' || name === 'distinct') && args.length === 1;
    if (!first || (!args[1] && !itself) || args.length > 2) return wrong();
    const of = x.list(first, frame, `The list of ${name}`);
    const item = itemOf(of.t);
    let by: Lambda;
    if (!args[1]) {
      if (name === 'sorted' && !isComparable(item)) return wrong();
      const local = frame.add('', item, true);
      by = { params: [local], body: { k: 'local', t: item, at, i: local } };
    } else if (KEYED.has(name)) by = keyed(x, args[1], frame, item, name === 'groups' || name === 'distinct');
    else by = x.lambda(args[1], frame, item, name === 'only' ? 'flag' : undefined);
    const t = name === 'map' ? listOf(by.body.t) : name === 'groups' ? listOf(of.t) : of.t;
    return { k: 'sift', t, at, f: name as Sift, of, by };
  }
  switch (name) {
    case 'size':
    case 'empty': {
      if (!first || args.length !== 1) return wrong();
      const e = x.lower(first, frame);
      const t: Type = name === 'size' ? 'int' : 'flag';
      if (e.t === 'pile') return plain(name === 'size' ? 'sizeOfPile' : 'emptyPile', t, [e]);
      if (isList(e.t)) return plain(name, t, [e]);
      if (e.t !== 'nothing')
        sheet.error(first, `${name} counts the cards of a pile or the items of a list, and this is ${article(e.t)}.`);
      return x.hole(node, t);
    }
    case 'min':
    case 'max': {
      if (!first || args.length > 2) return wrong();
      if (args.length === 1)
        return plain(name === 'min' ? 'listMin' : 'listMax', 'int', [
          x.want(first, frame, 'list:int', `What ${name} looks at`),
        ]);
      const second = value(1);
      if (!second) return wrong();
      const a = x.want(first, frame, 'int', `The first value of ${name}`);
      const b = x.want(second, frame, 'int', `The second value of ${name}`);
      return plain(name === 'min' ? 'min2' : 'max2', 'int', [a, b]);
    }
    case 'top':
      if (!first || args.length !== 1) return wrong();
      return plain('top', 'card', [x.want(first, frame, 'pile', 'What top looks at')]);
    case 'tops':
      if (!first || args.length !== 1) return wrong();
      return plain('tops', 'list:card', [x.want(first, frame, 'list:pile', 'What tops looks at')]);
    case 'first': {
      if (!first || args.length > 2) return wrong();
      const of = x.list(first, frame, 'What first looks at');
      const second = value(1);
      if (second) return plain('firstOf', of.t, [of, x.want(second, frame, 'int', 'How many first takes')]);
      return args.length === 1 ? plain('first', itemOf(of.t), [of]) : wrong();
    }
    case 'reversed': {
      if (!first || args.length !== 1) return wrong();
      const of = x.list(first, frame, 'What is reversed');
      return plain('reversed', of.t, [of]);
    }
    case 'last': {
      const second = value(1);
      if (!first || !second || args.length !== 2) return wrong();
      const of = x.list(first, frame, 'What last looks at');
      return plain('last', of.t, [of, x.want(second, frame, 'int', 'How many last takes')]);
    }
    case 'without': {
      const second = value(1);
      if (!first || !second || args.length !== 2) return wrong();
      const of = x.list(first, frame, 'What something is left out of');
      const item = sheet.names ? x.want(second, frame, itemOf(of.t), 'What is left out') : x.hole(node);
      const local = frame.add('', itemOf(of.t), true);
      const here: Expr = { k: 'local', t: itemOf(of.t), at, i: local };
      return {
        k: 'sift',
        t: of.t,
        at,
        f: 'only',
        of,
        by: { params: [local], body: { k: 'op', t: 'flag', at, op: '!=', a: here, b: item } },
      };
    }
    case 'abs':
      if (!first || args.length !== 1) return wrong();
      return plain('abs', 'int', [x.want(first, frame, 'int', 'What abs takes')]);
    case 'faceUp':
      if (!first || args.length !== 1) return wrong();
      return plain('faceUp', 'flag', [x.want(first, frame, 'card', 'What faceUp looks at')]);
    case 'next': {
      if (!first || args.length > 2) return wrong();
      if (args[1]) return nextWhere(x, first, args[1], frame, at, false);
      const e = x.lower(first, frame);
      if (e.t === 'rank') return plain('nextRank', 'rank', [e]);
      if (e.t === 'team') return plain('nextTeam', 'team', [e]);
      return plain('nextSeat', 'seat', [x.fit(e, 'seat', first, 'What next looks at')]);
    }
    case 'previous': {
      if (!first || args.length > 2) return wrong();
      if (args[1]) return nextWhere(x, first, args[1], frame, at, true);
      return plain('previousSeat', 'seat', [x.want(first, frame, 'seat', 'What previous looks at')]);
    }
    case 'seatsFrom':
    case 'others':
      if (!first || args.length !== 1) return wrong();
      return plain(name, 'list:seat', [x.want(first, frame, 'seat', `What ${name} looks at`)]);
    case 'pokerHigh':
    case 'aceToFive':
    case 'deuceToSeven':
    case 'bestFive': {
      if (!first || args.length !== 1) return wrong();
      const of = x.want(first, frame, 'list:card', `What ${name} looks at`);
      if (name === 'bestFive') return { k: 'bestFive', t: 'list:card', at, kind: 'high', of };
      return name === 'pokerHigh'
        ? { k: 'hand', t: 'poker', at, kind: 'high', of }
        : { k: 'hand', t: 'low', at, kind: name, of };
    }
    case 'largest': {
      const second = value(1);
      if (first?.$type !== 'Ref' || !second || args.length !== 2) return wrong();
      const of = x.want(second, frame, 'list:card', 'What largest looks through');
      return { k: 'largest', t: 'list:card', at, of, shapes: sheet.shapesNamed(first, [first.name]) };
    }
    case 'seen':
      if (!first || args.length !== 1) return wrong();
      return plain('seen', 'flag', [x.want(first, frame, 'card', 'What seen looks at')]);
    case 'plural': {
      const second = value(1);
      if (!first || second?.$type !== 'Text' || args.length !== 2) return wrong();
      return plain('plural', 'text', [x.want(first, frame, 'int', 'The number of plural'), x.lower(second, frame)]);
    }
    default: {
      // chance
      const second = value(1);
      if (!first || !second || args.length !== 2) return wrong();
      if (frame.what !== 'bot')
        sheet.error(node, "Only bots toss for themselves: a sheet's own chance is shuffle and pick.");
      return plain('chance', 'flag', [
        x.want(first, frame, 'int', 'How often chance comes true'),
        x.want(second, frame, 'int', 'Out of how many'),
      ]);
    }
  }
}

/** The next seat round the table for which something holds; the seat itself comes last. */
function nextWhere(
  x: Expressions,
  from: ast.Expr,
  condition: ast.Arg,
  frame: Frame,
  at: number,
  backwards: boolean,
): Expr {
  const seat = x.want(from, frame, 'seat', 'What it starts from');
  const fn = (f: Plain, t: Type, arg: Expr): Expr => ({ k: 'fn', t, at, f, args: [arg] });
  // Backwards: from the seat on round the table, turned about, ends with the seat itself.
  const of = backwards
    ? fn('reversed', 'list:seat', fn('seatsFrom', 'list:seat', seat))
    : fn('seatsFrom', 'list:seat', fn('nextSeat', 'seat', seat));
  return { k: 'choose', t: 'seat', at, f: 'find', of, by: x.lambda(condition, frame, 'seat', 'flag') };
}

/** The list whose neighbours `pairs(list)` stands for. */
function pairsOf(node: ast.Expr): ast.Expr | undefined {
  if (node.$type !== 'Call' || node.callee?.$type !== 'Ref' || node.callee.name !== 'pairs') return undefined;
  const [list] = node.args;
  return node.args.length === 1 && list && list.$type !== 'Lambda' ? list : undefined;
}

function isFunction(x: Expressions, arg: ast.Arg | undefined): boolean {
  return (
    arg?.$type === 'Lambda' ||
    (arg?.$type === 'Ref' &&
      x.sheet.names.get(arg.name)?.k === 'def' &&
      x.sheet.defs[(x.sheet.names.get(arg.name) as { i: number }).i]?.params.length === 1)
  );
}

/** A short function that gives a key; where items are only told apart, seats and cards will do too. */
function keyed(x: Expressions, node: ast.Arg, frame: Frame, item: Type, alike = false): Lambda {
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

const defNames = (x: Expressions): string[] =>
  [...x.sheet.names].filter(([, m]) => m.k === 'def').map(([name]) => name);
