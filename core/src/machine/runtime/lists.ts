import type { Face } from '../../cards/face.js';
import { bestFive, HandError, pokerHigh } from '../../hands/high.js';
import { aceToFive, deuceToSeven, scoreOfLow } from '../../hands/low.js';
import { ACE_HIGH, categoryOf, ranksOf, type Score } from '../../hands/score.js';
import { type CardFacts, fitsShape, largestOfShapes, type Pay } from '../../patterns/shapes.js';
import type { At, HandKind, Shape } from '../../program/types.js';
import { fault } from '../fault.js';
import type { StateLayout } from '../layout.js';

/** Longest list. */
export const LONGEST_LIST = 4096;
/** Most sets looked at for the largest of a shape. */
const MOST_SETS = 20_000;
/** Most cards whose low is looked for: every five of them are ranked. */
const MOST_LOW = 14;
/** Of so many items, going through all of them again is the quickest way to find one. */
export const FEW = 20;
/** The ace, as ranks of cards count it. */
const ACE = 1;

type Key = number | readonly number[];
type List<T = number> = readonly T[];

/** Runtime functions for lists, keys, hands and shapes of cards. */
export function listFunctions(layout: StateLayout, facts: CardFacts, rankPlace: ArrayLike<number>) {
  const { faces, program } = layout;

  // ---- lists
  const join = <T>(a: List<T>, b: List<T>, at: At): T[] =>
    a.length + b.length > LONGEST_LIST ? fault(`A list has at most ${LONGEST_LIST} items.`, at) : [...a, ...b];
  const item = <T>(list: List<T>, i: number, at: At): T =>
    list[i - 1] ?? fault(`There is no item ${i} in a list of ${list.length}.`, at);
  const least = (list: List, at: At): number =>
    list.length === 0 ? fault('An empty list has no least number.', at) : Math.min(...list);
  const most = (list: List, at: At): number =>
    list.length === 0 ? fault('An empty list has no greatest number.', at) : Math.max(...list);
  const sum = (list: List): number => list.reduce((a, b) => a + b, 0);
  const turnedOver = <T>(list: List<T>): T[] => [...list].reverse();
  const holds = <T>(list: List<T>, x: T): boolean => list.includes(x);
  const firstOf = <T>(list: List<T>, count: number): List<T> => list.slice(0, Math.max(0, count));
  const last = <T>(list: List<T>, count: number): List<T> => (count <= 0 ? [] : list.slice(-count));

  // ---- keys: numbers, or lists of them that are compared from the first to the last
  const compareKeys = (a: Key, b: Key): number => {
    if (typeof a === 'number' || typeof b === 'number') return Number(a) - Number(b);
    for (let i = 0; i < a.length && i < b.length; i++) {
      const difference = (a[i] as number) - (b[i] as number);
      if (difference !== 0) return difference;
    }
    return a.length - b.length;
  };
  /** How many numbers keys are made of. */
  const keySize = (keys: List<Key>): number => {
    let size = 0;
    for (const key of keys) size += typeof key === 'number' ? 1 : key.length + 1;
    return size;
  };
  /** A key that compares the other way. */
  const turnedKey = (key: List): number[] => key.map((n) => -n);
  const placesOfRanks = (list: List): number[] => list.map((r) => rankPlace[r] as number);
  const asNumbers = (list: List<boolean>): number[] => list.map(Number);
  const sameList = (a: List, b: List): boolean => a.length === b.length && compareKeys(a, b) === 0;
  /** Items in the order of their keys; equal ones stay as they were. */
  const sortBy = <T>(items: List<T>, keys: List<Key>): T[] => {
    if (items.length > FEW)
      return items
        .map((_, i) => i)
        .sort((a, b) => compareKeys(keys[a] as Key, keys[b] as Key))
        .map((i) => items[i] as T);
    const sorted = items.slice();
    const order = keys.slice();
    for (let i = 1; i < sorted.length; i++) {
      const item = sorted[i] as T;
      const key = order[i] as Key;
      let at = i;
      for (; at > 0 && compareKeys(order[at - 1] as Key, key) > 0; at--) {
        sorted[at] = sorted[at - 1] as T;
        order[at] = order[at - 1] as Key;
      }
      sorted[at] = item;
      order[at] = key;
    }
    return sorted;
  };
  /** Items with equal keys together, in the order in which each key comes first. */
  const groupBy = <T>(items: List<T>, keys: List<Key>): T[][] => {
    const names: (number | string)[] = [];
    const groups: T[][] = [];
    const places = items.length > FEW ? new Map<number | string, number>() : null;
    for (let i = 0; i < items.length; i++) {
      const key = keys[i] as Key;
      const name = typeof key === 'number' ? key : String(key);
      const at = places ? (places.get(name) ?? -1) : names.indexOf(name);
      if (at >= 0) groups[at]?.push(items[i] as T);
      else {
        places?.set(name, groups.length);
        names.push(name);
        groups.push([items[i] as T]);
      }
    }
    return groups;
  };
  /** Where each name stands, for groups that have many. */
  const placesOf = (names: List): Map<number, number> => new Map(names.map((name, i) => [name, i]));
  /** The first item of each key. */
  const distinctBy = <T>(items: List<T>, keys: List<Key>): T[] => groupBy(items, keys).map((group) => group[0] as T);

  // ---- hands and shapes
  const facesOf = (cards: List): Face[] => cards.map((c) => faces[c] as Face);
  const ranked = (cards: List, rank: (faces: readonly Face[]) => Score, at: At): Score => {
    try {
      return rank(facesOf(cards));
    } catch (error) {
      if (error instanceof HandError) return fault(error.message, at);
      throw error;
    }
  };
  const low =
    (rank: (faces: readonly Face[]) => Score) =>
    (cards: List, at: At): Score =>
      cards.length > MOST_LOW
        ? fault(`A low is found among at most ${MOST_LOW} cards, not ${cards.length}.`, at)
        : ranked(cards, rank, at);
  const hands: Readonly<Record<HandKind, (cards: List, at: At) => Score>> = {
    high: (cards, at) => ranked(cards, pokerHigh, at),
    aceToFive: low(aceToFive),
    deuceToSeven: low(deuceToSeven),
  };
  const ways = { high: pokerHigh, aceToFive, deuceToSeven };
  const rankHand = (kind: HandKind, cards: List, at: At): Score => hands[kind](cards, at);
  /** In how many ways five of so many cards can be taken; all that are too many count alike. */
  const fives = (n: number): number => {
    const many = Math.min(n, MOST_LOW);
    return (many * (many - 1) * (many - 2) * (many - 3) * (many - 4)) / 120;
  };
  /** The cards that make the best hand. */
  const fiveOf = (kind: HandKind, cards: List, at: At): number[] => {
    hands[kind](cards, at);
    const left = [...cards];
    return bestFive(facesOf(cards), ways[kind], kind === 'aceToFive').map((face) => {
      const i = left.findIndex((c) => faces[c] === face);
      return left.splice(i, 1)[0] as number;
    });
  };
  const handRanks = (score: Score): number[] => ranksOf(score).map((rank) => (rank === ACE_HIGH ? ACE : rank));
  const lowRanks = (low: Score): number[] => handRanks(scoreOfLow(low));
  const shapeOf = (i: number): Shape => program.shapes[i] as Shape;
  const fits = (shapes: List, cards: List): boolean => shapes.some((i) => fitsShape(shapeOf(i), facts, cards));
  const largest = (shapes: List, cards: List, pay: Pay): List =>
    largestOfShapes(shapes.map(shapeOf), facts, cards, MOST_SETS, pay);

  return {
    facts,
    join,
    item,
    least,
    most,
    sum,
    firstOf,
    last,
    compareKeys,
    turnedKey,
    sameList,
    sortBy,
    groupBy,
    placesOf,
    distinctBy,
    turnedOver,
    holds,
    placesOfRanks,
    asNumbers,
    keySize,
    rankHand,
    fives,
    fiveOf,
    handRanks,
    lowRanks,
    category: categoryOf,
    fits,
    largest,
  };
}
