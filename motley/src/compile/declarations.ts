import {
  byName,
  type DeckDecl,
  DeckError,
  type DeckForm,
  type Expr,
  type Key,
  type PileShape,
  type Program,
  rankRange,
  type Type,
  type Variable,
} from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { CONSTANTS } from '../symbols/builtins.js';
import { Frame, type Sheet } from '../symbols/scope.js';
import { counted } from '../symbols/wording.js';
import { facingOf } from './clauses.js';
import type { ExprContext } from './context.js';
import { faceIn, labelText } from './texts.js';

/** Greatest number of seats at a table. */
const MOST_SEATS = 12;

/** The seat counts that a header allows, from low to high. */
export function seatCounts(sheet: Sheet, node: ast.SeatCounts): number[] {
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
  if (node.teams !== undefined) {
    sheet.teams = node.teams;
    if (node.teams < 2) sheet.error(node, 'There are two teams or more.');
    else if (counts.some((n) => n % (node.teams as number) !== 0))
      sheet.error(
        node,
        `Seats sit alternately in ${node.teams} teams, so their number is a multiple of ${node.teams}.`,
      );
  }
  return counts.sort((a, b) => a - b);
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

const SHAPES = byName<PileShape>({ stack: 'stack', fan: 'fan', cascade: 'cascade', row: 'row' });
/** Piles that a family which grows may have. */
const MOST_GROWN = 40;

export function lowerPile(sheet: Sheet, node: ast.PileDecl): void {
  const i = sheet.piles.length;
  if (node.open && node.each) sheet.error(node, 'A family that grows belongs to the table: leave "of each" out.');
  if (node.each === 'team' && sheet.teams === 0)
    sheet.error(node, 'This game has no teams: its header would say "for 4 seats in 2 teams".');
  const by = node.each === 'suit' || node.each === 'rank' || node.each === 'team' ? node.each : null;
  if (by && (node.size || node.spans.length > 0)) sheet.error(node, `There is one "${node.name}" of each ${by}.`);
  let many: number | null = node.open ? MOST_GROWN : null;
  const cells = node.spans.length > 0 ? cellsOf(sheet, node) : null;
  if (cells) {
    many = cells.keys.length;
    if (node.each) sheet.error(node, 'A family with several numbers belongs to the table: leave "of each" out.');
  }
  if (node.size) {
    many = known(sheet, node.size, new Map());
    if (!(many >= 1 && many <= 64)) sheet.error(node.size, 'A family has 1 to 64 piles.');
  }
  const facing = facingOf(node.facing);
  if (facing === 'private' && node.each !== 'seat')
    sheet.error(node, `Only a pile "of each seat" can be private: say who sees "${node.name}".`);
  const shape = node.shape === undefined ? 'stack' : SHAPES[node.shape];
  if (!shape) sheet.unknown(node, node.shape ?? '', Object.keys(SHAPES), 'form of a pile');
  sheet.declare(node.name, node, 'pile', { k: 'pile', i });
  sheet.piles.push({
    name: node.name,
    label: node.label ? labelText(sheet, node.label) : null,
    perSeat: node.each === 'seat',
    by,
    many,
    open: node.open,
    cells,
    spots: spotsOf(sheet, node, cells),
    sorted: node.sort ?? null,
    facing,
    refill: null,
    shape: shape ?? 'stack',
    alike: node.alike,
    at: sheet.at(node),
  });
}

export function lowerVariable(x: ExprContext, node: ast.VarDecl): void {
  const { sheet } = x;
  const frame = new Frame('top', false);
  const i = sheet.vars.length;
  const [first, second] = [node.each, node.second].map((name) =>
    name === undefined ? null : keyNamed(sheet, node, name),
  );
  const of: Variable['of'] = !first ? { k: 'table' } : second ? { k: 'pair', keys: [first, second] } : first;
  if (node.hidden && first?.k !== 'seat') sheet.error(node, 'Only a variable "of each seat" can be private.');
  if (first?.k === 'card' && second && second.k !== 'seat' && second.k !== 'team')
    sheet.error(node, 'A variable of each card is kept for it alone, or for it and a seat or team.');
  if (node.label && (first?.k === 'card' || second?.k === 'card'))
    sheet.error(node.label, 'What is kept for each card is not drawn: leave the label out.');
  const wanted = node.type ? sheet.typeNamed(node.type, node.type.name) : undefined;
  const start = node.value
    ? wanted
      ? x.want(node.value, frame, wanted, 'The first value')
      : x.lower(node.value, frame)
    : null;
  const t: Type = wanted ?? start?.t ?? 'int';
  if (!wanted && !start) sheet.error(node, `Say what "${node.name}" holds: a type, such as ": int", or a first value.`);
  if (t === 'nothing') sheet.error(node, `Say what "${node.name}" holds: a type, such as ": seat".`);
  sheet.declare(node.name, node, 'variable', { k: 'var', i });
  sheet.vars.push({
    name: node.name,
    t,
    of,
    hidden: node.hidden,
    start,
    label: node.label ? labelText(sheet, node.label) : null,
    at: sheet.at(node),
  });
}

/** What a variable is kept for, by its name. */
function keyNamed(sheet: Sheet, node: ast.VarDecl, name: string): Key | null {
  switch (name) {
    case 'seat':
    case 'suit':
    case 'rank':
    case 'card':
      return { k: name };
    case 'team':
      if (sheet.teams === 0)
        sheet.error(node, 'This game has no teams: its header would say "for 4 seats in 2 teams".');
      return { k: 'team' };
    default: {
      const kind = sheet.kinds.findIndex((other) => other.name === name);
      if (kind >= 0) {
        sheet.use(name);
        return { k: 'kind', kind };
      }
      const pile = sheet.piles.findIndex((p) => p.name === name);
      if (pile >= 0) return { k: 'pile', pile };
      const known = [
        ...sheet.piles.map((p) => p.name),
        ...sheet.kinds.map((k) => k.name),
        'seat',
        'team',
        'suit',
        'rank',
      ];
      sheet.unknown(node, name, known, 'pile, kind or seat');
      return null;
    }
  }
}

/** A number that is known before the game: plain numbers, and names that stand for some. */
function known(sheet: Sheet, node: ast.Expr, names: ReadonlyMap<string, number>): number {
  switch (node.$type) {
    case 'Int':
      return node.value;
    case 'Group':
      return known(sheet, node.value, names);
    case 'Negative':
      return -known(sheet, node.value, names);
    case 'Ref': {
      const value = names.get(node.name);
      if (value === undefined) sheet.unknown(node, node.name, names.keys());
      return value ?? Number.NaN;
    }
    case 'Binary': {
      const a = known(sheet, node.left, names);
      const b = known(sheet, node.right, names);
      if (node.op === '+') return a + b;
      if (node.op === '-') return a - b;
      if (node.op === '*') return a * b;
      break;
    }
    default:
  }
  sheet.error(node, 'Only plain numbers, sums and products can stand here.');
  return 0;
}

/** So many piles a family has at most, where it has numbers of its own. */
const MOST_OF_FAMILY = 256;

/** What the numbers of a family are called, and those of each of its piles, the last number counting fastest. */
function cellsOf(sheet: Sheet, node: ast.PileDecl): { names: string[]; keys: number[][] } {
  const names = node.spans.map((span) => span.name);
  let keys: number[][] = [[]];
  let left = node.spans.length;
  for (const [i, span] of node.spans.entries()) {
    // Each span may make them 64 times as many: past the limit no more are laid out.
    if (keys.length > MOST_OF_FAMILY) break;
    left--;
    keys = keys.flatMap((key) => {
      const bound = new Map(key.map((v, k) => [names[k] as string, v]));
      const from = known(sheet, span.from, bound);
      const to = known(sheet, span.to, bound);
      if (i === 0 && to < from) sheet.error(span, 'This range is empty.');
      return Array.from({ length: Math.max(0, Math.min(64, to - from + 1)) }, (_, n) => [...key, from + n]);
    });
  }
  if (keys.length > MOST_OF_FAMILY)
    sheet.error(
      node,
      `A family has at most ${MOST_OF_FAMILY} piles; this one has ${left > 0 ? 'more than ' : ''}${keys.length}.`,
    );
  for (const other of sheet.piles)
    for (const [n, name] of names.entries())
      if ((other.cells?.names.indexOf(name) ?? n) !== n && other.cells?.names.includes(name))
        sheet.error(node, `"${name}" stands at another place among the numbers of "${other.name}": keep their order.`);
  return { names, keys: keys.slice(0, MOST_OF_FAMILY) };
}

function spotsOf(
  sheet: Sheet,
  node: ast.PileDecl,
  cells: { names: string[]; keys: number[][] } | null,
): [number, number][] | null {
  if (!node.x || !node.y) return null;
  if (node.each === 'seat') sheet.error(node, 'Piles of the seats are drawn beside them: leave "at" out.');
  const { x, y } = node;
  return (cells?.keys ?? [[]]).map((key) => {
    const bound = new Map(key.map((v, i) => [cells?.names[i] as string, v]));
    return [known(sheet, x, bound), known(sheet, y, bound)];
  });
}

/** A pattern of cards with a name. */
export function lowerShape(sheet: Sheet, node: ast.Shape): void {
  const oneRank = node.words.some((word) => word.one === 'rank');
  const oneSuit = node.words.some((word) => word.one === 'suit');
  const inOrder = node.words.some((word) => word.inOrder);
  const most = node.most ?? (node.open ? null : node.least);
  if (most !== null && most < node.least) sheet.error(node, 'The cards go from the fewest to the most.');
  sheet.declare(node.name, node, 'shape', null);
  sheet.shapes.push({ name: node.name, least: node.least, most, oneRank, oneSuit, inOrder });
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

export function lowerDeck(x: ExprContext, node: ast.Deck): DeckDecl {
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
    const isOfAll = params.length === 0 && !note.seat;
    if (!isOfAll && (params.length !== 1 || (params[0]?.t !== wanted && !(params[0]?.t === 'pile' && !note.seat))))
      sheet.error(
        note,
        `"${note.name}" must take ${note.seat ? 'a seat' : 'cards, or nothing,'} to be noted here; it takes ${counted(params.length, 'value')}.`,
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
