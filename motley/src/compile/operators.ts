import type { BinaryOp, Expr, Type } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { isComparable, isList, itemOf } from '../symbols/builtins.js';
import type { Frame } from '../symbols/scope.js';
import { article } from '../symbols/wording.js';
import type { ExprContext } from './context.js';
import { faceIn } from './texts.js';
import { demandSameRanking } from './written.js';

/** Compiles an operator with two sides. */
export function lowerBinary(x: ExprContext, node: ast.Binary, frame: Frame, want?: Type): Expr {
  const place = x.sheet.at(node);
  const { op } = node;
  if (op === 'and' || op === 'or') {
    const a = x.want(node.left, frame, 'flag', `What stands before "${op}"`);
    const b = x.want(node.right, frame, 'flag', `What stands after "${op}"`);
    return { k: 'op', t: 'flag', at: place, op, a, b };
  }
  if (op === 'is' && node.right.$type !== 'Text') {
    if (node.right.$type !== 'Ref') {
      x.sheet.error(node.right, 'After "is" stands a face in quotes, such as "Q♠", or a shape.');
      return x.hole(node, 'flag');
    }
    const of = x.want(node.left, frame, 'list:card', 'What stands before "is"');
    const { name } = node.right;
    if (x.sheet.shapes.length === 0) {
      x.sheet.error(
        node.right,
        `This sheet has no shapes, such as "${name}". A face would stand in quotes, such as "Q♠".`,
      );
      return x.hole(node, 'flag');
    }
    return { k: 'fits', t: 'flag', at: place, of, shapes: x.sheet.shapesNamed(node.right, [name, ...node.others]) };
  }
  if (op === 'is') {
    const of = x.want(node.left, frame, 'card', 'What stands before "is"');
    const face = node.right.$type === 'Text' ? faceIn(x.sheet, node.right) : undefined;
    return face === undefined ? x.hole(node, 'flag') : { k: 'is', t: 'flag', at: place, of, face };
  }
  if (op === 'in' && node.right.$type === 'RangeExpr') {
    const within = inRange(x, node, node.right, frame);
    if (within) return within;
  }
  if (op === 'in') {
    const b = x.list(node.right, frame, 'What stands after "in"');
    const a = x.want(node.left, frame, itemOf(b.t), 'What stands before "in"');
    return { k: 'op', t: 'flag', at: place, op, a, b };
  }
  let a = x.lower(node.left, frame, op === '+' ? want : undefined);
  let b = x.lower(node.right, frame, a.t);
  if (op === '+' && (isList(a.t) || isList(b.t) || a.t === 'pile' || b.t === 'pile')) return joined(x, node, a, b);
  const compares = op === '==' || op === '!=' || op === '<' || op === '<=' || op === '>' || op === '>=';
  if (!compares) {
    const ordered = [a, b].find(({ t }) => t === 'rank' || t === 'suit' || t.startsWith('kind:'));
    if (ordered) {
      const next = ordered.t === 'rank' ? ', and the rank after r is ranks[r.place + 1]' : '';
      x.sheet.error(
        node,
        `${article(ordered.t, true)} is no number to count with: which of all it is says .place${next}.`,
      );
      return x.hole(node, want);
    }
    a = x.fit(a, 'int', node.left, `What stands before "${op}"`);
    b = x.fit(b, 'int', node.right, `What stands after "${op}"`);
    if ((op === '/' || op === '%') && b.k === 'lit' && b.v === 0)
      x.sheet.error(node, `Nothing can be divided by zero.`);
    return { k: 'op', t: 'int', at: place, op: op as BinaryOp, a, b };
  }
  if (a.t !== b.t) {
    // A number beside a rank is a rank, and a kind's member may stand on either side.
    if (a.t === 'key' || b.t === 'key') {
      a = x.fit(a, 'key', node.left, `What stands before "${op}"`);
      b = x.fit(b, 'key', node.right, `What stands after "${op}"`);
    } else if (a.t === 'int' && b.t === 'rank') a = x.fit(a, 'rank', node.left, 'A rank');
    else if (a.t === 'nothing' && a.k === 'lit' && b.t.startsWith('kind:')) a = x.lower(node.left, frame, b.t);
    else if (a.t === 'nothing') a = x.fit(a, b.t, node.left, `What stands before "${op}"`);
    else b = x.fit(b, a.t, node.right, `What stands after "${op}"`);
  }
  if (a.t === 'low' && b.t === 'low') demandSameRanking(x.sheet, node, a, b);
  const ordered = op !== '==' && op !== '!=';
  if (ordered && !isComparable(a.t) && a.t !== 'key' && a.t !== 'nothing')
    x.sheet.error(
      node,
      `${article(a.t, true)} is neither more nor less than another: compare a rank, a number or a total.`,
    );
  if (!ordered && a.t === 'text') x.sheet.error(node, 'Texts are said, not compared: compare what they tell of.');
  return { k: 'op', t: 'flag', at: place, op: op as BinaryOp, a, b };
}

/** Whether a number is within a range: two comparisons, where the number is quickly read twice. */
function inRange(x: ExprContext, node: ast.Binary, range: ast.RangeExpr, frame: Frame): Expr | undefined {
  if (node.left.$type !== 'Ref' && node.left.$type !== 'Member') return undefined;
  const at = x.sheet.at(node);
  const n = x.want(node.left, frame, 'int', 'What stands before "in"');
  const from = x.want(range.from, frame, 'int', 'The lower end');
  const to = x.want(range.to, frame, 'int', 'The upper end');
  const a: Expr = { k: 'op', t: 'flag', at, op: '>=', a: n, b: from };
  const b: Expr = { k: 'op', t: 'flag', at, op: '<=', a: n, b: to };
  return { k: 'op', t: 'flag', at, op: 'and', a, b };
}

/** Two lists, or piles taken as their cards, one after the other. */
function joined(x: ExprContext, node: ast.Binary, a: Expr, b: Expr): Expr {
  const known = [a.t, b.t].find((t) => isList(t) && t !== 'list:nothing');
  const t: Type = known ?? 'list:card';
  return {
    k: 'op',
    t,
    at: x.sheet.at(node),
    op: '+',
    a: x.fit(a, t, node.left, 'What stands before "+"'),
    b: x.fit(b, t, node.right, 'What stands after "+"'),
  };
}
