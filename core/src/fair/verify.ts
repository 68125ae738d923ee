import { parseFace } from '../cards/face.js';
import { fromHex, type Hash, hashed, toHex } from './messages.js';
import {
  factsHash,
  type Gave,
  type Opened,
  type OpeningFacts,
  openingHash,
  Pledge,
  promisedFaces,
  wrongGave,
} from './pledge.js';
import { leafHash, rootFrom } from './tree.js';

/** What somebody was given of a table's shuffles, as it was read: nothing in it is believed. */
export interface Given {
  readonly form: string;
  readonly facts: OpeningFacts;
  readonly table: string;
  readonly commitment: string;
  readonly took?: readonly number[];
  readonly gave?: Gave;
  readonly voids?: readonly number[];
  readonly shuffles: readonly {
    readonly shuffle: number;
    readonly pile: string;
    readonly cards: number;
    readonly root: string;
    readonly number: number;
  }[];
  readonly cards: readonly Opened[];
  readonly seenNotOpened: number;
  readonly whole?: { readonly seed: string; readonly orders: readonly (readonly string[])[] };
}

/** One thing that was checked. */
export interface Check {
  readonly what: string;
  readonly agrees: boolean;
  /** What does not agree, in words. */
  readonly wrong?: string;
}

export interface Verdict {
  readonly agrees: boolean;
  readonly checks: readonly Check[];
  /** Cards that agree, of all that were opened; and those that were seen and could not be opened. */
  readonly cards: { readonly agree: number; readonly opened: number; readonly seenNotOpened: number };
  /** Whether the whole of it could be checked, with the seed. */
  readonly isWhole: boolean;
}

/** How often each of some texts is there. */
function countsOf(texts: readonly string[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  return counts;
}

/** The opening's hash that an honest service would have come to. */
function openingOf({ facts, commitment, gave }: Given): Hash | null {
  const promised = fromHex(commitment);
  return promised && openingHash(factsHash(facts), promised, facts.seats.length, gave);
}

/** Why what seats gave does not agree; `null` where it does, or nobody gave anything. */
function wrongSeats({ facts, commitment, gave, took = [] }: Given): string | null {
  const promised = fromHex(commitment);
  const shown = (gave?.shown ?? []).flatMap((text, i) => (text === '' ? [] : [i + 1]));
  if (took.join() !== shown.join()) return 'other seats are named than those that showed something';
  return gave && promised ? wrongGave(factsHash(facts), promised, facts.seats.length, gave) : null;
}

/** Why an opened card does not agree; `null` where it does. */
function wrongCard(given: Given, opening: Hash, card: Opened): string | null {
  const shuffle = given.shuffles.find((one) => one.shuffle === card.shuffle);
  const name = `${card.face} at place ${card.place} of shuffle ${card.shuffle}`;
  if (!shuffle) return `${name}: there is no such shuffle`;
  const salt = fromHex(card.salt);
  const path = card.path.map((text) => fromHex(text));
  if (!salt || path.some((hash) => hash === null)) return `${name}: its hashes cannot be read`;
  const leaf = leafHash({
    opening,
    shuffle: card.shuffle,
    cards: shuffle.cards,
    place: card.place,
    face: card.face,
    salt,
  });
  const root = rootFrom(leaf, card.place, shuffle.cards, path as Hash[]);
  if (!root) return `${name}: its path is not that of this place`;
  return toHex(root) === shuffle.root ? null : `${name} was not promised`;
}

/** Whether no card was opened at two places, or twice otherwise, and no face oftener than the deck has it. */
function doubled({ cards, facts }: Given): string | null {
  const deck = countsOf(facts.deck);
  const places = new Map<string, string>();
  const faces = new Map<string, Set<number>>();
  for (const { shuffle, place, face } of cards) {
    const known = places.get(`${shuffle} ${place}`);
    if (known !== undefined && known !== face)
      return `place ${place} of shuffle ${shuffle} was opened as ${known} and as ${face}`;
    places.set(`${shuffle} ${place}`, face);
    const at = faces.get(`${shuffle} ${face}`) ?? new Set<number>();
    faces.set(`${shuffle} ${face}`, at.add(place));
    if (at.size > (deck.get(face) ?? 0))
      return `${face} was opened ${at.size} times in shuffle ${shuffle}, and the deck has ${deck.get(face) ?? 0}`;
  }
  return null;
}

/** Checks all orders with the seed: each is the one that the seed gives, and the one that was promised. */
function wrongWhole(given: Given): string | null {
  const seed = fromHex(given.whole?.seed);
  if (!seed || !given.whole) return 'the seed cannot be read';
  const pledge = new Pledge(given.facts, seed, given.gave);
  if (toHex(pledge.commitment) !== given.commitment) return 'the seed is not the one that was promised';
  for (const [i, { shuffle, pile, cards, root }] of given.shuffles.entries()) {
    const order = given.whole.orders[i];
    if (!order || order.length !== cards) return `shuffle ${shuffle} has no order, or one of another size`;
    const made = promisedFaces(pledge, { shuffle, pile, cards }, order, given.facts.deck);
    if (!made) return `shuffle ${shuffle} holds cards that the deck has not`;
    if (made.join(' ') !== order.join(' ')) return `shuffle ${shuffle} is not the one that the seed gives`;
    if (pledge.rootOf(shuffle, order.map(parseFace)) !== root)
      return `shuffle ${shuffle} is not the one that was promised`;
  }
  return null;
}

/**
 * Checks everything that a seat was given of a table's shuffles, without the service. It never throws for what was
 * tampered with: what does not agree is said.
 */
export function verifyFairness(given: Given): Verdict {
  const checks: Check[] = [];
  const check = (what: string, wrong: string | null): void => {
    checks.push(wrong === null ? { what, agrees: true } : { what, agrees: false, wrong });
  };
  const facts = toHex(factsHash(given.facts));
  check(
    'the table, its sheet, settings, seats and deck',
    facts === given.table ? null : 'they are not those that the promises are about',
  );
  const opening = openingOf(given);
  check('the service’s promise of its seed', opening ? null : 'it cannot be read');
  const took = given.took?.length ?? 0;
  check(
    took === 0 ? 'the service alone chose' : `what ${took} of ${given.facts.seats.length} seats gave`,
    wrongSeats(given),
  );
  const order = given.shuffles.findIndex(({ shuffle }, i) => shuffle !== i + 1);
  check('every shuffle was promised', order < 0 ? null : `shuffle ${order + 1} is missing`);
  const readable = given.shuffles.find(({ root }) => fromHex(root) === null);
  if (readable) check(`shuffle ${readable.shuffle}`, 'its promise cannot be read');
  let agree = 0;
  for (const card of opening ? given.cards : []) {
    const wrong = wrongCard(given, opening as Hash, card);
    if (wrong === null) agree++;
    else check('a card', wrong);
  }
  check('no card is there twice', doubled(given));
  if (given.whole) check('the seed, and every order from it', wrongWhole(given));
  return {
    agrees: checks.every(({ agrees }) => agrees),
    checks,
    cards: { agree, opened: given.cards.length, seenNotOpened: given.seenNotOpened },
    isWhole: given.whole !== undefined,
  };
}

/** A short fingerprint of all promises of a table, for seats to compare: who has the same was promised the same. */
export function headOf({ table, commitment, shuffles }: Pick<Given, 'table' | 'commitment' | 'shuffles'>): string {
  const bytes = hashed('head', table, commitment, ...shuffles.map(({ root }) => root));
  const LETTERS = 'abcdefghijklmnopqrstuvwxyz234567';
  let bits = 0n;
  for (const byte of bytes.subarray(0, 17)) bits = (bits << 8n) | BigInt(byte);
  return Array.from({ length: 26 }, (_, i) => LETTERS[Number((bits >> BigInt(131 - 5 * i)) & 31n)]).join('');
}
