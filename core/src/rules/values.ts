import { FaceError, faceText, parseFace, RANKS, SUITS } from '../cards/face.js';
import { handName, lowName } from '../hands/naming.js';
import type { Arg } from '../machine/code.js';
import type { Type } from '../program/types.js';
import type { Rules } from './rules.js';

/** A value as it travels: numbers, flags, and words for everything that has a name. */
export type Value = number | boolean | string | null;
/** The value of a choice's parameter: several cards are a list of their handles. */
export type ArgValue = Value | readonly string[];

/** The cards of one state as somebody names them. */
export interface Naming {
  /** The handle of a card: `pile/index#place`, places counted from 1. */
  handleOf(card: number): string;
  /** The card at a handle, or −1. */
  cardAt(handle: string): number;
  /** Whether a card may be named by its face. */
  isNamed(card: number): boolean;
  /** Whether the handle of a card says nothing of where in its pile it lies. */
  isBlind(card: number): boolean;
}

/** A parameter's value as clients and records write it. */
export function writeArg(rules: Rules, naming: Naming, t: Type, v: Arg): ArgValue {
  return typeof v === 'number' ? writeValue(rules, naming, t, v) : v.map((card) => naming.handleOf(card));
}

/** Reads a parameter's value; several cards are a list, and a single one may stand alone. */
export function readArg(
  rules: Rules,
  naming: Naming,
  t: Type,
  value: unknown,
  candidates: readonly number[] | null,
): Arg | string {
  if (t !== 'list:card') return readValue(rules, naming, t, value, candidates);
  const items: readonly unknown[] = Array.isArray(value) ? value : [value];
  const cards: number[] = [];
  for (const item of items) {
    const card = readValue(
      rules,
      naming,
      'card',
      item,
      (candidates ?? []).filter((c) => !cards.includes(c)),
    );
    if (typeof card === 'string') return card;
    cards.push(card);
  }
  return cards;
}

/** A value as clients and records write it. */
export function writeValue(rules: Rules, naming: Naming, t: Type, v: number): Value {
  if (v < 0 && t !== 'int') return null;
  switch (t) {
    case 'int':
      return v;
    case 'flag':
      return v !== 0;
    case 'seat':
      return v + 1;
    case 'card':
      return naming.handleOf(v);
    case 'pile':
      return rules.layout.piles[v]?.path ?? null;
    case 'rank':
      return RANKS[v] ?? null;
    case 'suit':
      return SUITS[v] ?? null;
    case 'team':
      return v + 1;
    case 'poker':
      return handName(v);
    case 'low':
      return lowName(v);
    case 'color':
      return v === 0 ? 'black' : 'red';
    default: {
      const kind = rules.program.kinds.find((k) => `kind:${k.name}` === t);
      return kind?.members[v]?.name ?? v;
    }
  }
}

/**
 * Reads a value that a client sent. Cards may be named by handle, or by face among the candidates that whoever names them
 * sees: a face that lies hidden is refused in the words of one that is not there.
 * @returns the number, or a sentence that says what would do
 */
export function readValue(
  rules: Rules,
  naming: Naming,
  t: Type,
  value: unknown,
  candidates: readonly number[] | null,
): number | string {
  const shown = JSON.stringify(value) ?? 'nothing';
  switch (t) {
    case 'int':
      return typeof value === 'number' && Number.isSafeInteger(value)
        ? value
        : `a whole number is needed, not ${shown}`;
    case 'flag':
      return value === true || value === 'yes'
        ? 1
        : value === false || value === 'no'
          ? 0
          : `yes or no is needed, not ${shown}`;
    case 'seat': {
      if (typeof value === 'number' && rules.layout.seats[value - 1] !== undefined) return value - 1;
      const named = rules.layout.seats.indexOf(String(value));
      return named >= 0
        ? named
        : `a seat is needed (${rules.layout.seats.map((name, i) => `${i + 1} is ${name}`).join(', ')}), not ${shown}`;
    }
    case 'card': {
      if (typeof value !== 'string') return `a card is needed, such as "hand/1#2", not ${shown}`;
      const card = naming.cardAt(value);
      if (card >= 0) return card;
      if (value.includes('#')) return `there is no card at ${shown} now`;
      return cardByFace(
        rules,
        value,
        (candidates ?? []).filter((c) => naming.isNamed(c)),
      );
    }
    case 'pile': {
      const pile = rules.layout.piles.findIndex((p) => p.path === value);
      return pile >= 0 ? pile : `a pile is needed, not ${shown}`;
    }
    case 'rank': {
      const rank = (RANKS as readonly string[]).indexOf(String(value), 1);
      return rank > 0 ? rank : `a rank is needed, not ${shown}`;
    }
    case 'suit': {
      const suit = (SUITS as readonly string[]).indexOf(String(value));
      return suit >= 0 ? suit : `a suit is needed (${SUITS.join(', ')}), not ${shown}`;
    }
    default: {
      const members = rules.program.kinds.find((k) => `kind:${k.name}` === t)?.members ?? [];
      const member = members.findIndex((m) => m.name === value);
      return member >= 0 ? member : `one of ${members.map((m) => m.name).join(', ')} is needed, not ${shown}`;
    }
  }
}

function cardByFace(rules: Rules, text: string, candidates: readonly number[]): number | string {
  try {
    const face = parseFace(text);
    const found = candidates.find((c) => rules.layout.faces[c] === face);
    return found ?? `${faceText(face)} is not among the cards to choose from`;
  } catch (error) {
    if (error instanceof FaceError) return error.message;
    throw error;
  }
}
