import {
  byName,
  CATEGORIES,
  CATEGORY_NAMES,
  type CardField,
  type Expr,
  type Type,
  type Variable,
} from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { nearest } from '../problems.js';
import { CATEGORY_KIND } from '../symbols/builtins.js';
import type { Frame, Meaning, Sheet } from '../symbols/scope.js';
import { article } from '../symbols/wording.js';
import type { ExprContext } from './context.js';
import { printedOn } from './written.js';

const CARD_FIELDS = byName<Type>({
  rank: 'rank',
  suit: 'suit',
  color: 'color',
  pips: 'int',
  number: 'int',
  place: 'int',
  pile: 'pile',
});

/** Compiles `value.name`. */
export function lowerMember(x: ExprContext, node: ast.Member, frame: Frame): Expr {
  const { sheet } = x;
  const of = x.lower(node.of, frame);
  const at = sheet.at(node);
  const { name } = node;
  if (of.t === 'nothing') return x.hole(node);
  const meaning = sheet.names.get(name);
  const kept = keptVariable(sheet, meaning, of, at);
  if (kept) {
    sheet.use(name);
    return kept;
  }
  switch (of.t) {
    case 'card': {
      const t = CARD_FIELDS[name];
      const printed = t && of.k === 'face' ? printedOn(of.face, name as CardField, t, at) : undefined;
      if (printed) return printed;
      if (t) return { k: 'field', t, at, f: name as CardField, of };
      sheet.unknown(node, name, [...Object.keys(CARD_FIELDS), ...keptOf(sheet, 'card')], 'property of a card named');
      return x.hole(node);
    }
    case 'seat':
      return name === 'place' && !meaning ? placeOf(of, at) : ofSeat(x, node, of);
    case 'suit':
      if (name === 'color') return { k: 'fn', t: 'color', at, f: 'colorOf', args: [of] };
      if (name === 'place') return suitPlace(sheet, of, at);
      sheet.unknown(node, name, [...keptOf(sheet, 'suit'), 'color', 'place'], 'property of a suit named');
      return x.hole(node);
    case 'rank':
      if (name === 'place') return placeOf(of, at);
      sheet.unknown(node, name, [...keptOf(sheet, 'rank'), 'place'], 'property of a rank named');
      return x.hole(node);
    case 'team':
      if (name === 'place') return placeOf(of, at);
      if (name === 'score') return { k: 'fn', t: 'int', at, f: 'teamScore', args: [of] };
      if (name === 'seats') return { k: 'fn', t: 'list:seat', at, f: 'seatsOf', args: [of] };
      if (meaning?.k === 'pile' && sheet.piles[meaning.i]?.by === 'team') {
        sheet.use(name);
        return { k: 'pile', t: 'pile', at, i: meaning.i, owner: null, index: of };
      }
      sheet.unknown(node, name, [...keptOf(sheet, 'team'), 'score', 'seats'], 'variable or pile of a team named');
      return x.hole(node);
    case 'poker':
      if (name === 'category') {
        if (!sheet.kinds.some((kind) => kind.name === CATEGORY_KIND))
          sheet.kinds.push({
            name: CATEGORY_KIND,
            members: CATEGORIES.map((member, i) => ({ name: member, label: CATEGORY_NAMES[i] ?? null })),
          });
        return { k: 'fn', t: `kind:${CATEGORY_KIND}`, at, f: 'category', args: [of] };
      }
      if (name === 'ranks') return { k: 'fn', t: 'list:rank', at, f: 'handRanks', args: [of] };
      if (name === 'name') return { k: 'fn', t: 'text', at, f: 'handName', args: [of] };
      sheet.unknown(node, name, ['category', 'ranks', 'name'], 'property of a hand named');
      return x.hole(node);
    case 'low':
      if (name === 'name') return { k: 'fn', t: 'text', at, f: 'lowName', args: [of] };
      if (name === 'ranks') return { k: 'fn', t: 'list:rank', at, f: 'lowRanks', args: [of] };
      sheet.unknown(node, name, ['ranks', 'name'], 'property of a low hand named');
      return x.hole(node);
    case 'pile':
      return ofPile(x, node, of);
    default:
      if (name === 'place' && of.t.startsWith('kind:')) return placeOf(of, at);
      if (of.k === 'list' && sheet.names.get(name)?.k === 'member') {
        sheet.error(node, `Members stand alone: write ${name}.`, name);
        return x.hole(node);
      }
      sheet.error(node, `There is no "${name}" of ${article(of.t)}.`);
      return x.hole(node);
  }
}

/** The number of a value among all of its type, from 1. */
const placeOf = (of: Expr, at: number): Expr => ({ k: 'fn', t: 'int', at, f: 'placeOf', args: [of] });

/** All suits, in the order that the sheet declares. */
export const suitsOf = (sheet: Sheet, at: number): Expr =>
  sheet.suitOrder.length === 0
    ? { k: 'suits', t: 'list:suit', at }
    : { k: 'list', t: 'list:suit', at, items: sheet.suitOrder.map((v): Expr => ({ k: 'lit', t: 'suit', at, v })) };

/** The number of a suit among all, in the order that the sheet declares. */
function suitPlace(sheet: Sheet, of: Expr, at: number): Expr {
  if (sheet.suitOrder.length === 0) return placeOf(of, at);
  const place = (i: number): Expr => ({ k: 'lit', t: 'int', at, v: i + 1 });
  const is = (v: number): Expr => ({ k: 'op', t: 'flag', at, op: '==', a: of, b: { k: 'lit', t: 'suit', at, v } });
  return sheet.suitOrder.reduceRight<Expr>(
    (rest, v, i) => ({ k: 'if', t: 'int', at, c: is(v), a: place(i), b: rest }),
    place(sheet.suitOrder.length),
  );
}

/** A variable that is kept for each value of a type. */
function keptVariable(sheet: Sheet, meaning: Meaning | undefined, of: Expr, at: number): Expr | undefined {
  const variable = meaning?.k === 'var' ? sheet.vars[meaning.i] : undefined;
  return meaning?.k === 'var' && variable && keyType(sheet, variable.of) === of.t
    ? { k: 'var', t: variable.t, at, i: meaning.i, owner: of }
    : undefined;
}

/** The type of what a variable is kept for; `undefined` where it is kept once, or for pairs. */
export function keyType(sheet: Sheet, key: Variable['of']): Type | undefined {
  if (key.k === 'table' || key.k === 'pair') return undefined;
  return key.k === 'kind' ? `kind:${sheet.kinds[key.kind]?.name}` : key.k;
}

/** What a variable is kept for, as its declaration says it. */
export function keyWords(sheet: Sheet, key: Variable['of']): string {
  if (key.k === 'pair') return key.keys.map((each) => keyWords(sheet, each)).join(' and ');
  if (key.k === 'kind') return sheet.kinds[key.kind]?.name ?? '';
  return key.k === 'pile' ? (sheet.piles[key.pile]?.name ?? '') : key.k;
}

const keptOf = (sheet: Sheet, of: string): string[] => sheet.vars.filter((v) => v.of.k === of).map((v) => v.name);

function ofSeat(x: ExprContext, node: ast.Member, of: Expr): Expr {
  const { sheet } = x;
  const at = sheet.at(node);
  const { name } = node;
  if (name === 'score') return { k: 'fn', t: 'int', at, f: 'score', args: [of] };
  if (name === 'team') {
    if (sheet.teams === 0) {
      sheet.error(node, 'This game has no teams: its header would say "for 4 seats in 2 teams".');
      return x.hole(node);
    }
    return { k: 'fn', t: 'team', at, f: 'teamOf', args: [of] };
  }
  const meaning = sheet.names.get(name);
  const pile = meaning?.k === 'pile' ? sheet.piles[meaning.i] : undefined;
  if (meaning?.k === 'pile' && pile?.perSeat) {
    sheet.use(name);
    return pile.many === null
      ? { k: 'pile', t: 'pile', at, i: meaning.i, owner: of, index: null }
      : { k: 'family', t: 'list:pile', at, i: meaning.i, owner: of };
  }
  const known = [...keptOf(sheet, 'seat'), ...sheet.piles.filter((p) => p.perSeat).map((p) => p.name)];
  if (meaning && meaning.k !== 'member')
    sheet.error(node, `"${name}" belongs to the table, not to a seat: write ${name} alone.`);
  else sheet.unknown(node, name, [...known, 'score'], 'variable or pile of a seat named');
  return x.hole(node);
}

function ofPile(x: ExprContext, node: ast.Member, of: Expr): Expr {
  const { sheet } = x;
  const at = sheet.at(node);
  const { name } = node;
  if (name === 'seat') return { k: 'owner', t: 'seat', at, of };
  const numbers = sheet.piles.flatMap((pile) => pile.cells?.names ?? []);
  const n = sheet.piles.find((pile) => pile.cells?.names.includes(name))?.cells?.names.indexOf(name);
  if (n !== undefined) return { k: 'cellKey', t: 'int', at, n, of };
  if (name === 'size' || name === 'length' || name === 'count') {
    sheet.error(node, `A pile has no "${name}": write size(…).`);
    return x.hole(node);
  }
  const near = nearest(name, [...keptOf(sheet, 'pile'), ...numbers, 'seat']);
  sheet.error(
    node,
    `A pile has no "${name}".${near ? ` Did you mean "${near}"?` : ' Its cards have: write top(p).rank, or size(p).'}`,
    near,
  );
  return x.hole(node);
}
