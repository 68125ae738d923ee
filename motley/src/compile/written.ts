import {
  aceToFive,
  type CardField,
  colorOf,
  deuceToSeven,
  type Expr,
  eachExprIn,
  type Face,
  FaceError,
  type HandKind,
  numberOf,
  parseFaces,
  pokerHigh,
  rankOf,
  suitOf,
  type Type,
} from '@wily-jester/core';
import type { AstNode } from '#langium';
import type * as ast from '../grammar/generated/ast.js';
import type { Sheet } from '../symbols/scope.js';
import { plainText } from './texts.js';

// What is written in a sheet is nobody's secret: it is worked out when the sheet is checked.

const MOST_WRITTEN = 7;
const RANKED = { high: pokerHigh, aceToFive, deuceToSeven } as const;

/** The worth of a hand that is written as a text of faces, which need not be cards of the deck. */
export function writtenHand(sheet: Sheet, text: ast.Text, kind: HandKind, at: number): Expr {
  const t = kind === 'high' ? 'poker' : 'low';
  const faces = facesIn(sheet, text);
  if (faces.length > MOST_WRITTEN)
    sheet.error(text, `A written hand has at most ${MOST_WRITTEN} cards, not ${faces.length}.`);
  const strange = faces.find((face) => rankOf(face) < 0);
  if (strange !== undefined)
    sheet.error(text, 'A hand is ranked by ranks and suits: no other card may be written here.');
  const isSound = faces.length > 0 && faces.length <= MOST_WRITTEN && strange === undefined;
  const written: Expr = { k: 'lit', t, at, v: isSound ? RANKED[kind](faces) : 0 };
  kinds.set(written, kind);
  return written;
}

/** How each hand that is written was ranked, which its number does not tell. */
const kinds = new WeakMap<Expr, HandKind>();

/** The functions that rank the hands which an expression reads. */
function kindsIn(sheet: Sheet, e: Expr, found = new Set<HandKind>()): Set<HandKind> {
  eachExprIn([e], (inner) => {
    const kind = inner.k === 'hand' ? inner.kind : kinds.get(inner);
    if (kind) found.add(kind);
    const body = inner.k === 'call' ? sheet.defs[inner.def]?.body : undefined;
    if (body && inner.t === 'low') kindsIn(sheet, body, found);
  });
  return found;
}

/** Insists that two low hands are ranked by the same function, as far as that can be seen. */
export function demandSameRanking(sheet: Sheet, node: AstNode, a: Expr, b: Expr): void {
  const [[first, ...more], [second, ...others]] = [[...kindsIn(sheet, a)], [...kindsIn(sheet, b)]];
  if (first && second && first !== second && more.length === 0 && others.length === 0)
    sheet.error(node, `${first} and ${second} rank cards otherwise: their hands do not compare.`);
}

function facesIn(sheet: Sheet, text: ast.Text): readonly Face[] {
  try {
    const faces = parseFaces(plainText(sheet, text));
    if (faces.length === 0) sheet.error(text, 'Write the faces of the hand here, such as "8♠ 7♦ 6♣ 5♥ 4♠".');
    return faces;
  } catch (error) {
    if (!(error instanceof FaceError)) throw error;
    sheet.error(text, error.message);
    return [];
  }
}

const PRINTED: Readonly<Partial<Record<CardField, (face: Face) => number>>> = {
  rank: rankOf,
  suit: suitOf,
  color: colorOf,
  pips: (face) => Math.max(0, rankOf(face)),
  number: numberOf,
};

/** What is printed on a card that is written, or nothing where it is about the place of the card. */
export function printedOn(face: Face, field: CardField, t: Type, at: number): Expr | undefined {
  const printed = PRINTED[field];
  return printed && { k: 'lit', t, at, v: printed(face) };
}
