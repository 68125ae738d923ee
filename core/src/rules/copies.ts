import type { Type } from '../program/types.js';
import type { Rules } from './rules.js';

/** So many ways to take faces' copies are tried for one choice. */
const MOST_TRIED = 64;
/** So many cards are looked at for them: of many copies of one face, most beginnings lead nowhere. */
const MOST_LOOKED = 2_000;

/** Whether a value names a card by its face, not by its place. */
export const isFace = (value: unknown): value is string => typeof value === 'string' && !value.includes('#');

/** The cards among others that have the same face as one of them. */
export const copiesOf = ({ layout }: Pick<Rules, 'layout'>, card: number, among: readonly number[]): number[] =>
  among.filter((other) => layout.faces[other] === layout.faces[card]);

/**
 * What a value may stand for, where it names cards by their faces and several packs hold them: with other copies, the
 * first of each first. Nothing where it names no face.
 * @param read the value as it was read @param among the cards to choose from
 */
export function* otherCopies(
  rules: Pick<Rules, 'layout'>,
  t: Type,
  value: unknown,
  read: number | readonly number[],
  among: readonly number[],
): Generator<number | readonly number[]> {
  if (typeof read === 'number') {
    if (t === 'card' && isFace(value)) yield* copiesOf(rules, read, among);
    return;
  }
  const named: readonly unknown[] = Array.isArray(value) ? value : [value];
  const copies = read.map((card, i) => (isFace(named[i]) ? copiesOf(rules, card, among) : [card]));
  if (copies.every(({ length }) => length <= 1)) return;
  const places = new Map(among.map((card, place) => [card, place]));
  const placeOf = (card: number): number => places.get(card) ?? -1;
  let [tried, looked] = [0, 0];
  function* taking(i: number, taken: readonly number[]): Generator<readonly number[]> {
    if (i === copies.length) {
      tried++;
      yield taken;
      return;
    }
    for (const card of copies[i] ?? []) {
      if (tried >= MOST_TRIED || ++looked > MOST_LOOKED) return;
      // Copies of one face are taken in their order: the other way round is the same set.
      const before = taken.findLast((_, k) => copies[k]?.[0] === copies[i]?.[0]);
      if (before !== undefined && placeOf(card) <= placeOf(before)) continue;
      yield* taking(i + 1, [...taken, card]);
    }
  }
  yield* taking(0, []);
}
