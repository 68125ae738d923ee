import type { Expr } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { Frame } from '../symbols/scope.js';
import type { ExprContext } from './context.js';
import { keyed } from './functions.js';

/** A pile that is drawn in an order of the sheet's own: by a def of a card that gives a key. */
export function setOrder(x: ExprContext, node: ast.PileDecl, i: number): void {
  const { sheet } = x;
  const pile = sheet.piles[i];
  if (!node.key || !pile) return;
  const meaning = sheet.names.get(node.key.name);
  const def = meaning?.k === 'def' ? sheet.defs[meaning.i] : undefined;
  if (!def) {
    sheet.unknown(node.key, node.key.name, ['rank', 'suit', ...sheet.defs.map(({ name }) => name)], 'order of cards');
    return;
  }
  if (def.params.length !== 1 || def.params[0]?.t !== 'card') {
    sheet.error(
      node.key,
      `A pile is sorted by what is said of each card: "${def.name}" should take one card and give a key, as in def ${def.name}(c: card) = [c.suit, c.rank].`,
    );
    return;
  }
  const frame = new Frame('top', false);
  const local = frame.add('', 'list:card', true);
  const at = sheet.at(node.key);
  const of: Expr = { k: 'local', t: 'list:card', at, i: local };
  const e: Expr = { k: 'sift', t: 'list:card', at, f: 'sorted', of, by: keyed(x, node.key, frame, 'card') };
  sheet.piles[i] = { ...pile, ownOrder: { local, e } };
}
