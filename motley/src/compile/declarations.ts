import {
  type DeckDecl,
  DeckError,
  type DeckForm,
  type Expr,
  type PileShape,
  type Program,
  rankRange,
  type Setting,
  type Type,
} from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { CONSTANTS } from './builtins.js';
import { facingOf } from './clauses.js';
import type { Expressions } from './expressions.js';
import { Frame, type Sheet } from './scope.js';
import { faceIn, plainText } from './texts.js';
import { counted } from './wording.js';

/** Greatest number of seats at a table. */
const MOST_SEATS = 12;

/** The seat counts that a header allows, from low to high. */
export function seatCounts(sheet: Sheet, node: ast.SeatCounts): number[] {
  if (node.teams !== undefined) sheet.notYet(node, 'teams');
  const counts: number[] = [];
  const to = node.to ?? node.from;
  if (to < node.from) sheet.error(node, 'The seats go from the fewest to the most.');
  if (to > MOST_SEATS || node.others.some((n) => n > MOST_SEATS)) {
    sheet.error(node, `A table has at most ${MOST_SEATS} seats.`);
    return [1];
  }
  for (let n = node.from; n <= to; n++) counts.push(n);
  counts.push(...node.others);
  if (counts.some((n) => n < 1)) sheet.error(node, 'A table has one seat or more.');
  return counts.sort((a, b) => a - b);
}

export function lowerSetting(sheet: Sheet, node: ast.Setting): Setting {
  const help = node.help ? plainText(sheet, node.help) : '';
  const place = sheet.at(node);
  const number = (e: ast.Expr): number => {
    if (e.$type === 'Int') return e.value;
    if (e.$type === 'Negative' && e.value.$type === 'Int') return -e.value.value;
    sheet.notYet(e, 'a setting whose limits are not plain numbers');
    return 0;
  };
  const standard = (read: () => number): number => read();
  if (node.to) {
    const from = number(node.first);
    const to = number(node.to);
    const value = number(node.standard);
    if (from > to) sheet.error(node, 'The range of this setting is empty.');
    else if (value < from || value > to)
      sheet.error(
        node.standard,
        `The standard value of "${node.name}" is ${value}, which is not from ${from} to ${to}.`,
      );
    return { name: node.name, t: 'int', domain: { k: 'range', from, to }, standard: value, help, at: place };
  }
  if (node.first.$type === 'Ref' && node.first.name === 'flag' && node.others.length === 0) {
    const word = node.standard.$type === 'Ref' ? node.standard.name : '';
    if (word !== 'yes' && word !== 'no') sheet.error(node.standard, `A flag is "yes" or "no".`);
    return { name: node.name, t: 'flag', domain: { k: 'flag' }, standard: word === 'yes' ? 1 : 0, help, at: place };
  }
  const all = [node.first, ...node.others];
  if (all.every((e) => e.$type === 'Ref')) {
    const words = all.map((e) => (e.$type === 'Ref' ? e.name : ''));
    const word = node.standard.$type === 'Ref' ? node.standard.name : '';
    const kind = `${node.name} setting`;
    sheet.kinds.push({ name: kind, members: words.map((name) => ({ name, label: null })) });
    for (const [v, name] of words.entries()) declareMember(sheet, node, name, kind, v);
    const value = words.indexOf(word);
    if (value < 0) sheet.error(node.standard, `The standard value of "${node.name}" is one of ${sheet.listed(words)}.`);
    return {
      name: node.name,
      t: `kind:${kind}`,
      domain: { k: 'words', words },
      standard: standard(() => Math.max(0, value)),
      help,
      at: place,
    };
  }
  const values = all.map(number);
  const value = number(node.standard);
  if (!values.includes(value))
    sheet.error(node.standard, `The standard value of "${node.name}" is one of ${sheet.listed(values.map(String))}.`);
  return { name: node.name, t: 'int', domain: { k: 'numbers', values }, standard: value, help, at: place };
}

export function declareMember(
  sheet: Sheet,
  node: ast.KindMember | ast.Setting,
  name: string,
  kind: string,
  v: number,
): void {
  const known = sheet.names.get(name);
  if (known?.k === 'member') known.kinds.push({ kind, v });
  else sheet.declare(name, node, 'member of a kind', { k: 'member', kinds: [{ kind, v }] });
}

const SHAPES: Readonly<Record<string, PileShape>> = { stack: 'stack', fan: 'fan', cascade: 'cascade' };

export function lowerPile(sheet: Sheet, node: ast.PileDecl): void {
  const i = sheet.piles.length;
  if (node.open) sheet.notYet(node, 'a family that grows');
  if (node.spans.length > 0) sheet.notYet(node, 'a family with several numbers');
  if (node.x) sheet.notYet(node, 'a place for each pile');
  if (node.each === 'team' || node.each === 'rank') sheet.notYet(node, `piles of each ${node.each}`);
  let many: number | null = null;
  if (node.size) {
    if (node.size.$type === 'Int') many = node.size.value;
    else sheet.notYet(node.size, 'a family whose size is not a plain number');
    if (many !== null && (many < 1 || many > 64)) sheet.error(node.size, 'A family has 1 to 64 piles.');
  }
  const facing = facingOf(node.facing);
  if (facing === 'private' && node.each !== 'seat')
    sheet.error(node, `Only a pile "of each seat" can be private: say who sees "${node.name}".`);
  const shape = node.shape === undefined ? 'stack' : SHAPES[node.shape];
  if (!shape) sheet.unknown(node, node.shape ?? '', Object.keys(SHAPES), 'form of a pile');
  sheet.declare(node.name, node, 'pile', { k: 'pile', i });
  sheet.piles.push({
    name: node.name,
    label: node.label ? plainText(sheet, node.label) : null,
    perSeat: node.each === 'seat',
    perSuit: node.each === 'suit',
    many,
    facing,
    refill: null,
    shape: shape ?? 'stack',
    alike: node.alike,
    at: sheet.at(node),
  });
}

export function lowerVariable(x: Expressions, node: ast.VarDecl): void {
  const { sheet } = x;
  const frame = new Frame('top', false);
  const i = sheet.vars.length;
  let of: Program['vars'][number]['of'] = { k: 'table' };
  if (node.each === 'seat') of = { k: 'seat' };
  else if (node.each !== undefined) {
    const pile = sheet.piles.findIndex((p) => p.name === node.each);
    if (pile >= 0) of = { k: 'pile', pile };
    else if (['suit', 'team', 'rank', 'card'].includes(node.each)) sheet.notYet(node, `variables of each ${node.each}`);
    else sheet.unknown(node, node.each, [...sheet.piles.map((p) => p.name), 'seat'], 'pile or seat');
  }
  if (node.hidden && of.k !== 'seat') sheet.error(node, 'Only a variable "of each seat" can be private.');
  const wanted = node.type ? sheet.typeNamed(node.type, node.type.name) : undefined;
  const start = node.value
    ? wanted
      ? x.want(node.value, frame, wanted, 'The first value')
      : x.lower(node.value, frame)
    : null;
  const t: Type = wanted ?? start?.t ?? 'int';
  if (!wanted && !start) sheet.error(node, `Say what "${node.name}" holds: a type, such as ": int", or a first value.`);
  if (t === 'text') sheet.notYet(node, 'a variable that holds a text');
  if (t === 'nothing') sheet.error(node, `Say what "${node.name}" holds: a type, such as ": seat".`);
  sheet.declare(node.name, node, 'variable', { k: 'var', i });
  sheet.vars.push({
    name: node.name,
    t,
    of,
    hidden: node.hidden,
    start,
    label: node.label ? plainText(sheet, node.label) : null,
    at: sheet.at(node),
  });
}

const rankWord = (sheet: Sheet, node: ast.RankSpan, word: ast.RankWord): number => {
  const text = String(word);
  const constant = CONSTANTS[text];
  if (constant?.t === 'rank') return constant.v;
  const n = Number(text);
  if (n >= 2 && n <= 10) return n;
  sheet.error(node, `"${text}" is not a rank: ranks are A, 2 to 10, J, Q and K.`);
  return 1;
};

function spans(sheet: Sheet, nodes: readonly ast.RankSpan[]): number[] {
  return nodes.flatMap((span) => {
    const from = rankWord(sheet, span, span.from);
    if (span.to === undefined) return [from];
    try {
      return rankRange(from, rankWord(sheet, span, span.to));
    } catch (error) {
      if (!(error instanceof DeckError)) throw error;
      sheet.error(span, error.message);
      return [from];
    }
  });
}

function suitsNamed(sheet: Sheet, node: ast.RankDeck | ast.Order): number[] {
  return node.suits.flatMap((name) => {
    const constant = CONSTANTS[name];
    if (constant?.t === 'suit') return [constant.v];
    sheet.unknown(node, name, ['spades', 'hearts', 'diamonds', 'clubs'], 'suit');
    return [];
  });
}

export function lowerDeck(x: Expressions, node: ast.Deck): DeckDecl {
  const { sheet } = x;
  const frame = new Frame('top', false);
  const number = (e: ast.Expr, what: string): Expr => x.want(e, frame, 'int', what);
  return {
    form: deckForm(sheet, node.form),
    copies: node.copies ? number(node.copies, 'The number of copies') : null,
    jokers: node.jokers ? number(node.jokers, 'The number of jokers') : null,
    when: node.condition ? x.want(node.condition, frame, 'flag', 'The condition') : null,
  };
}

export function deckForm(sheet: Sheet, node: ast.DeckForm): DeckForm {
  switch (node.$type) {
    case 'StandardDeck':
      return { kind: 'standard' };
    case 'RankDeck': {
      const suits = node.suits.length > 0 ? suitsNamed(sheet, node) : [0, 1, 2, 3];
      return { kind: 'ranks', ranks: [...new Set(spans(sheet, node.ranks))], suits };
    }
    case 'NumberDeck':
      if (node.to < node.from) sheet.error(node, 'A numbered deck goes up, such as 1..60.');
      return { kind: 'numbered', from: node.from, to: node.to };
    case 'FaceDeck':
      return { kind: 'of', faces: node.faces.flatMap((face) => faceIn(sheet, face) ?? []) };
  }
}

/** How a game compares ranks, and suits where it does. */
export function lowerOrders(sheet: Sheet, nodes: readonly ast.Order[]): Pick<Program, 'rankOrder' | 'suitOrder'> {
  let rankOrder = rankRange(2, 1);
  let suitOrder: number[] = [];
  for (const node of nodes) {
    if (node.ranks.length > 0) {
      const ranks = spans(sheet, node.ranks);
      if (new Set(ranks).size !== ranks.length) sheet.error(node, 'A rank stands twice in this order.');
      rankOrder = [...ranks];
    } else suitOrder = suitsNamed(sheet, node);
  }
  return { rankOrder, suitOrder };
}

export function lowerLayout(
  sheet: Sheet,
  node: ast.Layout | undefined,
): Pick<Program, 'layout' | 'notes' | 'counters'> {
  const layout: number[][] = [];
  const notes: Program['notes'][number][] = [];
  const counters: number[] = [];
  const pileNamed = (at: ast.LayoutCell | ast.NoteDecl, name: string): number => {
    const meaning = sheet.names.get(name);
    if (meaning?.k === 'pile') return meaning.i;
    if (name === 'pack') return 0;
    sheet.unknown(
      at,
      name,
      sheet.piles.map((p) => p.name),
      'pile',
    );
    return -1;
  };
  for (const row of node?.rows ?? []) {
    layout.push(row.cells.map((cell) => (cell.name === undefined ? -1 : pileNamed(cell, cell.name))));
    for (const cell of row.cells) {
      const meaning = cell.name === undefined ? undefined : sheet.names.get(cell.name);
      if (meaning?.k === 'pile' && sheet.piles[meaning.i]?.perSeat)
        sheet.error(cell, `"${cell.name}" belongs to the seats and is drawn beside them: leave it out of the layout.`);
    }
  }
  for (const note of node?.notes ?? []) {
    const meaning = sheet.names.get(note.name);
    if (meaning?.k !== 'def') {
      sheet.unknown(
        note,
        note.name,
        [...sheet.names].filter(([, m]) => m.k === 'def').map(([n]) => n),
        'def',
      );
      continue;
    }
    sheet.use(note.name);
    sheet.ensureDef(meaning.i);
    const params = sheet.defs[meaning.i]?.params ?? [];
    const wanted: Type = note.seat ? 'seat' : 'list:card';
    if (params.length !== 1 || (params[0]?.t !== wanted && !(params[0]?.t === 'pile' && !note.seat)))
      sheet.error(
        note,
        `"${note.name}" must take ${note.seat ? 'a seat' : 'cards'} to be noted here; it takes ${counted(params.length, 'value')}.`,
      );
    notes.push({
      name: note.name,
      def: meaning.i,
      beside: note.seat ? 'seat' : note.piles.map((name) => pileNamed(note, name)).filter((i) => i >= 0),
    });
  }
  for (const decl of node?.counters ?? [])
    for (const name of decl.names) {
      const meaning = sheet.names.get(name);
      if (meaning?.k === 'var') {
        counters.push(meaning.i);
        sheet.use(name);
      } else
        sheet.unknown(
          decl,
          name,
          sheet.vars.map((v) => v.name),
          'variable',
        );
    }
  return { layout, notes, counters };
}
