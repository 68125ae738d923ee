import type { Expr } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { sourceOf } from '../grammar/places.js';
import { isList, itemOf } from '../symbols/builtins.js';
import type { Frame, Meaning, Sheet } from '../symbols/scope.js';
import { article, counted, ordinal } from '../symbols/wording.js';
import type { ExprContext } from './context.js';
import { keyType, keyWords } from './members.js';

/** A variable that a name means, where it means one. */
function variableOf(sheet: Sheet, of: ast.Expr, frame: Frame): Extract<Meaning, { k: 'var' }> | undefined {
  const meaning = of.$type === 'Ref' && frame.find(of.name) === undefined ? sheet.names.get(of.name) : undefined;
  return meaning?.k === 'var' ? meaning : undefined;
}

/** One value of a variable that is kept for pairs. */
function ofPair(x: ExprContext, node: ast.Index, frame: Frame): Expr | undefined {
  const { of, index } = node;
  const { sheet } = x;
  const meaning = variableOf(sheet, of, frame);
  const variable = meaning && sheet.vars[meaning.i];
  if (of.$type !== 'Ref' || !meaning || variable?.of.k !== 'pair') return undefined;
  sheet.use(of.name);
  const at = sheet.at(node);
  if (index.length !== 2) {
    sheet.error(node, `"${of.name}" is kept for each ${keyWords(sheet, variable.of)}: two keys go in these brackets.`);
    return x.hole(node, variable.t);
  }
  const [owner, second] = variable.of.keys.map((key, i) =>
    x.want(index[i] as ast.Expr, frame, keyType(sheet, key) ?? 'int', `The ${ordinal(i)} key of ${of.name}`),
  ) as [Expr, Expr];
  return { k: 'var', t: variable.t, at, i: meaning.i, owner, second };
}

/** A variable that is kept for each of something is read with a point: brackets mean the same here, and are written so often. */
function ofOne(x: ExprContext, node: ast.Index, frame: Frame): Expr | undefined {
  const { of, index } = node;
  const { sheet } = x;
  const meaning = variableOf(sheet, of, frame);
  const variable = meaning && sheet.vars[meaning.i];
  const key = variable && keyType(sheet, variable.of);
  const [first] = index;
  if (of.$type !== 'Ref' || !variable || key === undefined || !first) return undefined;
  sheet.use(of.name);
  x.want(first, frame, key, 'What stands in brackets');
  const owner = sourceOf(first);
  const words = /^\w+(\.\w+)*$/.test(owner) ? `${owner}.${of.name}` : `(${owner}).${of.name}`;
  sheet.error(node, `"${of.name}" is kept for each ${keyWords(sheet, variable.of)}: write ${words}.`, words);
  return x.hole(node, variable.t);
}

/** Compiles `of[…]`: an item of a list, a pile of a family, or a variable of pairs. */
export function lowerIndex(x: ExprContext, node: ast.Index, frame: Frame): Expr {
  const { sheet } = x;
  const kept = ofPair(x, node, frame) ?? ofOne(x, node, frame);
  if (kept) return kept;
  const of = x.lower(node.of, frame);
  const place = sheet.at(node);
  const [first, ...more] = node.index;
  if (!first) return x.hole(node);
  if (of.k === 'family') {
    const pile = sheet.piles[of.i];
    const wanted = pile?.cells?.names.length ?? 1;
    if (wanted !== node.index.length)
      sheet.error(node, `"${pile?.name}" takes ${counted(wanted, 'number')} in brackets.`);
    if (pile?.cells) {
      const index = node.index.map((n) => x.want(n, frame, 'int', 'What stands in brackets'));
      return { k: 'cell', t: 'pile', at: place, i: of.i, index };
    }
    if (pile?.perSeat && of.owner === null) {
      if (pile.many !== null) sheet.error(node, `"${pile.name}" is kept for each seat: write s.${pile.name}[…].`);
      const owner = x.want(first, frame, 'seat', 'What stands in brackets');
      return { k: 'pile', t: 'pile', at: place, i: of.i, owner, index: null };
    }
    const index = x.want(first, frame, pile?.by ?? 'int', 'What stands in brackets');
    return { k: 'pile', t: 'pile', at: place, i: of.i, owner: of.owner, index };
  }
  if (more.length > 0) sheet.error(node, 'One number goes in these brackets.');
  const n = x.want(first, frame, 'int', 'What stands in brackets');
  if (of.t === 'pile') return { k: 'item', t: 'card', at: place, of: { k: 'cards', t: 'list:card', at: of.at, of }, n };
  if (isList(of.t)) return { k: 'item', t: itemOf(of.t), at: place, of, n };
  if (of.t !== 'nothing')
    sheet.error(node, `${article(of.t, true)} has no places to count: brackets go after a list or a pile.`);
  return x.hole(node);
}
