import { type Domain, type Expr, type Param, sameExpr, type Type } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { CONSTANTS, itemOf } from '../symbols/builtins.js';
import type { Sheet } from '../symbols/scope.js';
import { article } from '../symbols/wording.js';
import type { StmtContext } from './context.js';
import { suitsOf } from './members.js';
import { labelText } from './texts.js';

/** Compiles a parameter of an option, and declares it. */
export function lowerParam(st: StmtContext, node: ast.OptionParam): Param {
  const { frame } = st;
  const { domain } = node;
  const declared = (t: Type, of: Domain): Param => ({ name: node.name, local: frame.add(node.name, t), t, domain: of });
  switch (domain.$type) {
    case 'RangeDomain':
      return declared('int', range(st, domain));
    case 'SetDomain':
      return severalCards(st, node.name, domain);
    case 'TailDomain': {
      const at = st.sheet.at(domain);
      const piles = st.x.want(domain.list, frame, 'list:pile', 'What a tail is taken from');
      const list: Expr = { k: 'fn', t: 'list:card', at, f: 'cardsOf', args: [piles] };
      const param = declared('card', { k: 'values', t: 'card', list });
      frame.tails.add(param.local);
      return param;
    }
    case 'ListedDomain':
      return writtenOut(st, node.name, domain, domain.items);
    case 'ValueDomain':
      return isWrittenOut(st, domain)
        ? writtenOut(st, node.name, domain, wordsOf(domain))
        : values(st, node.name, domain);
  }
}

function range({ x, frame, sheet }: StmtContext, node: ast.RangeDomain): Domain {
  const from = x.want(node.from, frame, 'int', 'The lower end');
  const to = x.want(node.to, frame, 'int', 'The upper end');
  const by = node.by ? x.want(node.by, frame, 'int', 'The step') : null;
  if (by?.k === 'lit' && by.v < 1) sheet.error(node, 'A step is one or more.');
  if (from.k === 'lit' && to.k === 'lit' && from.v > to.v)
    sheet.error(node, 'This range is empty, so the option can never be chosen.');
  const landmarks = node.marks.map((mark) => ({
    e: x.want(mark.value, frame, 'int', 'A landmark'),
    label: mark.label ? labelText(sheet, mark.label) : null,
  }));
  return { k: 'range', from, to, by, landmarks };
}

/** Several cards at once: `2..3 cards in s.hand while …`. */
function severalCards({ x, frame, sheet }: StmtContext, name: string, node: ast.SetDomain): Param {
  const list = x.want(node.list, frame, 'list:card', 'What is chosen from');
  const least = x.want(node.least, frame, 'int', 'The fewest cards');
  const most = node.most ? x.want(node.most, frame, 'int', 'The most cards') : node.open ? null : least;
  if (least.k === 'lit' && most?.k === 'lit' && most.v < least.v)
    sheet.error(node, 'This range is empty, so the option can never be chosen.');
  const local = frame.add(name, 'list:card');
  const grow = node.grow ? x.want(node.grow, frame, 'flag', 'The condition') : null;
  return { name, local, t: 'list:card', domain: { k: 'cards', list, least, most, grow, shapes: null } };
}

function values(st: StmtContext, name: string, node: ast.ValueDomain): Param {
  const { x, frame, sheet } = st;
  const at = sheet.at(node);
  const declared = (t: Type, domain: Domain): Param => ({ name, local: frame.add(name, t), t, domain });
  if (node.shapes.length > 0 || isShape(sheet, node.type)) {
    const shapes = sheet.shapesNamed(node, [node.type, ...node.shapes.map(String)]);
    if (!node.list) sheet.error(node, `Say what is chosen from: "${node.type} in …".`);
    const list = node.list ? x.want(node.list, frame, 'list:card', 'What is chosen from') : x.hole(node, 'list:card');
    const none: Expr = { k: 'lit', t: 'int', at, v: 0 };
    return declared('list:card', { k: 'cards', list, least: none, most: null, grow: null, shapes });
  }
  const t = sheet.typeNamed(node, node.type);
  if (node.list) {
    const list = x.list(node.list, frame, 'What is chosen from');
    if (list.t !== 'list:nothing' && itemOf(list.t) !== t)
      sheet.error(node, `This is ${article(list.t)}, and a ${node.type} is chosen.`);
    return declared(t, { k: 'values', t, list: node.where ? sifted(st, name, list, node.where) : list });
  }
  const among = (list: Expr): Param =>
    declared(t, { k: 'values', t, list: node.where ? sifted(st, name, list, node.where) : list });
  const all = (count: number): Expr => ({
    k: 'list',
    t: `list:${t}`,
    at,
    items: Array.from({ length: count }, (_, v): Expr => ({ k: 'lit', t, at, v })),
  });
  if (t === 'flag') return among(all(2));
  if (t === 'suit') return among(suitsOf(st.sheet, at));
  if (t === 'rank') return among({ k: 'ranks', t: 'list:rank', at });
  if (t === 'seat') return among({ k: 'seats', t: 'list:seat', at });
  const kind = sheet.kinds.find((k) => `kind:${k.name}` === t);
  if (kind) return among(all(kind.members.length));
  sheet.error(node, `Say what is chosen from: "${node.type} in …".`);
  return declared(t, { k: 'values', t, list: x.hole(node, `list:${t}`) });
}

const isShape = (sheet: Sheet, name: string): boolean => sheet.shapes.some((shape) => shape.name === name);

/** Whether words are values: members of a kind, suits or ranks, and no type or shape. */
function isWrittenOut({ sheet }: StmtContext, node: ast.ValueDomain): boolean {
  if (node.shapes.length === 0 || node.list || isShape(sheet, node.type)) return false;
  const constant = CONSTANTS[node.type]?.t;
  return (
    constant === 'suit' ||
    constant === 'rank' ||
    constant === 'flag' ||
    sheet.kinds.some((kind) => kind.members.some((member) => member.name === node.type))
  );
}

/** The words of a domain as expressions. */
const wordsOf = (node: ast.ValueDomain): ast.Expr[] =>
  [node.type, ...node.shapes].map((word) => {
    const place = { $container: node, $cstNode: node.$cstNode };
    return (
      typeof word === 'number' ? { ...place, $type: 'Int', value: word } : { ...place, $type: 'Ref', name: word }
    ) as ast.Expr;
  });

/** Values that are written one by one, all of one type. */
function writtenOut(st: StmtContext, name: string, node: ast.Domain, words: readonly ast.Expr[]): Param {
  const { x, frame, sheet } = st;
  const at = sheet.at(node);
  const types = words.map((word) => x.lower(word, frame).t);
  // Numbers beside a rank are ranks; otherwise the first value says what the others are.
  const t = types.includes('rank') ? 'rank' : (types[0] ?? 'int');
  const items = words.map((word) => x.want(word, frame, t, 'Each value of the domain'));
  for (const [i, item] of items.entries()) {
    if (item.t !== types[i] && item.t !== 'rank') continue;
    if (item.k !== 'lit' && item.k !== 'setting')
      sheet.error(
        words[i] ?? node,
        `Values that are written out are literals: for others write "${name}: ${t} in [a, b]".`,
      );
    else if (items.findIndex((other) => sameExpr(other, item)) < i)
      sheet.error(words[i] ?? node, 'This value stands here twice.');
  }
  const list: Expr = { k: 'list', t: `list:${t}`, at, items };
  return { name, local: frame.add(name, t), t, domain: { k: 'values', t, list } };
}

/** The part of a list for which a condition on the parameter holds. */
function sifted({ x, frame }: StmtContext, name: string, list: Expr, where: ast.Expr): Expr {
  frame.open();
  const item = frame.add(name, itemOf(list.t), true);
  const body = x.want(where, frame, 'flag', 'The condition');
  frame.close();
  return { k: 'sift', t: list.t, at: list.at, f: 'only', of: list, by: { params: [item], body } };
}
