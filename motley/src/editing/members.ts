import type { Type } from '@wily-jester/core';
import { keyType } from '../compile/members.js';
import type { Sheet } from '../symbols/scope.js';
import { wordStart } from './shape.js';

/** The members that each type has by itself, after a point. */
const OWN: Readonly<Record<string, readonly string[]>> = {
  card: ['rank', 'suit', 'color', 'pips', 'number', 'place', 'pile'],
  seat: ['score', 'team', 'place'],
  team: ['score', 'seats', 'place'],
  suit: ['color', 'place'],
  rank: ['place'],
  poker: ['category', 'ranks', 'name'],
  low: ['ranks', 'name'],
  pile: ['seat'],
};
/** Types that are written as they are called. */
const WRITTEN: ReadonlySet<string> = new Set<Type>(['card', 'seat', 'team', 'suit', 'rank', 'pile']);
/** What the lists of the language hold, by their names. */
const HOLD: Readonly<Record<string, Type>> = { seats: 'seat', teams: 'team', suits: 'suit', ranks: 'rank' };
/** So far back a name's type is looked for, in characters: a routine or a def, with its notes. */
const FAR = 4_000;

/** The names that may stand after a point, by the type of the value before it; `undefined` where that cannot be told. */
export function membersAt(sheet: Sheet, text: string, point: number): readonly string[] | undefined {
  const t = typeBefore(sheet, text, point);
  if (t === undefined) return undefined;
  const own = OWN[t] ?? (t.startsWith('kind:') ? ['place'] : []);
  const vars = sheet.vars.filter((v) => keyType(sheet, v.of) === t);
  const piles = sheet.piles.filter((p) => (t === 'seat' && p.perSeat) || (t === 'team' && p.by === 'team'));
  const cells = t === 'pile' ? sheet.piles.flatMap((p) => p.cells?.names ?? []) : [];
  const names = [...[...vars, ...piles].map(({ name }) => name), ...cells, ...own];
  return names.filter((name) => name !== 'team' || sheet.teams > 0);
}

/**
 * The type of the value that ends before a point, as the words around it say: the text is being written there, so that
 * it can seldom be parsed.
 */
function typeBefore(sheet: Sheet, text: string, point: number): Type | undefined {
  const isItem = text[point - 1] === ']';
  const end = isItem ? text.lastIndexOf('[', point) : point;
  const start = wordStart(text, end);
  const name = text.slice(start, end);
  // What follows another point is a member, whose own declaration says its type.
  const isMember = text[start - 1] === '.';
  const declared = declaredType(sheet, name, isItem);
  return declared ?? (isMember || isItem ? undefined : localType(text.slice(Math.max(0, start - FAR), start), name));
}

function declaredType(sheet: Sheet, name: string, isItem: boolean): Type | undefined {
  const pile = sheet.piles.find((p) => p.name === name);
  const isFamily = pile !== undefined && (pile.many !== null || pile.by !== null);
  if (pile) return isItem && !isFamily ? 'card' : isItem || !isFamily ? 'pile' : undefined;
  if (isItem) return HOLD[name];
  if (name === 'me') return 'seat';
  return sheet.vars.find((v) => v.name === name)?.t;
}

/** The type of a name of a block, a def or a routine: as its parameter says, or the loop that it stands for. */
function localType(before: string, name: string): Type | undefined {
  let found: Type | undefined;
  for (const [, word, joint, of = ''] of before.matchAll(/\b(\w+)(: ?| in )(\w+)/g))
    if (word === name) found = joint === ' in ' ? HOLD[of] : WRITTEN.has(of) ? (of as Type) : undefined;
  return found;
}
