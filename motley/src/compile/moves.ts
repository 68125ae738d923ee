import type { Expr, Stmt } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { facingOf } from './clauses.js';
import type { StmtContext } from './context.js';

/** Compiles a deal; `into` is the local that keeps what was dealt. */
export function lowerDeal(st: StmtContext, node: ast.Deal, into: number | null): Stmt {
  const { sheet, x, frame } = st;
  const at = sheet.at(node);
  const from = st.pile(node.source, 'What is dealt from');
  const count = node.count ? x.want(node.count, frame, 'int', 'How many cards are dealt') : null;
  if (count?.k === 'lit' && count.v < 1) sheet.error(node, 'A deal gives one card or more.');
  const facing = node.facing ? facingOf(node.facing) : null;
  const facingWhen = node.facingWhen ? x.want(node.facingWhen, frame, 'flag', 'The condition') : null;
  let to: Extract<Stmt, { s: 'deal' }>['to'];
  if (node.across) to = { k: 'piles', piles: x.want(node.across, frame, 'list:pile', 'Where cards are dealt') };
  else if (node.target) {
    const target = x.lower(node.target, frame);
    if (target.k === 'family' && sheet.piles[target.i]?.perSeat && target.owner === null) {
      const pile = sheet.piles[target.i];
      if (!node.each && node.count)
        sheet.error(node, `"${pile?.name}" is kept for each seat: write "each" after the number, or s.${pile?.name}.`);
      to = {
        k: 'seats',
        family: target.i,
        of: node.seats ? x.want(node.seats, frame, 'list:seat', 'Who is dealt to') : { k: 'seats', t: 'list:seat', at },
        starting: node.starting ? x.want(node.starting, frame, 'seat', 'Who is dealt to first') : null,
      };
    } else {
      if (node.each && target.k !== 'lit')
        sheet.error(node, '"each" deals round the table: the pile must be one that every seat has.');
      if (target.k === 'family') to = { k: 'pile', pile: st.pile(node.target, 'Where cards are dealt') };
      else to = { k: 'pile', pile: x.fit(target, 'pile', node.target, 'Where cards are dealt') };
    }
  } else to = { k: 'pile', pile: x.hole(node, 'pile') };
  return { s: 'deal', at, count, upTo: node.upTo, from, to, facing, facingWhen, into };
}

/** A new pile of a family that grows. */
function freshPile(st: StmtContext, node: ast.Expr): Expr {
  const e = st.x.lower(node, st.frame);
  if (e.k === 'family' && st.sheet.piles[e.i]?.open) return { k: 'fresh', t: 'pile', at: st.sheet.at(node), i: e.i };
  st.sheet.error(node, 'After "to new" stands a family that grows, such as meld for "pile meld[many] …".');
  return st.x.hole(node, 'pile');
}

/** Compiles a move of cards, or of a whole pile. */
export function lowerMove(st: StmtContext, node: ast.Move): Stmt[] {
  const { sheet, x, frame } = st;
  const at = sheet.at(node);
  const facingWhen = node.facingWhen ? x.want(node.facingWhen, frame, 'flag', 'The condition') : null;
  const to = node.fresh ? freshPile(st, node.target) : st.pile(node.target, 'Where cards go');
  const facing = node.facing ? facingOf(node.facing) : null;
  const { reversed, oneByOne, beneath } = node;
  if (node.all && node.source)
    return [
      {
        s: 'move',
        at,
        what: { k: 'all', pile: st.pile(node.source, 'Where cards come from') },
        to,
        reversed,
        oneByOne,
        beneath,
        facing,
        facingWhen,
      },
    ];
  if (!node.cards) return [];
  const cards = st.cards(node.cards, 'What is moved');
  return [{ s: 'move', at, what: { k: 'cards', cards }, to, reversed, oneByOne, beneath, facing, facingWhen }];
}

/** The value of a move is what moved. */
export function lowerLetMove(st: StmtContext, node: ast.Let, move: ast.Move): Stmt[] {
  const at = st.sheet.at(node);
  const [moved] = lowerMove(st, move);
  if (moved?.s !== 'move') return [];
  const e: Expr = moved.what.k === 'all' ? { k: 'cards', t: 'list:card', at, of: moved.what.pile } : moved.what.cards;
  const local = st.newLocal(node, node.name, 'list:card');
  const cards: Expr = { k: 'local', t: 'list:card', at, i: local };
  return [
    { s: 'let', at, local, e },
    { ...moved, what: { k: 'cards', cards } },
  ];
}
