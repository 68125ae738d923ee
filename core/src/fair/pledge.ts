import { type Face, parseFace } from '../cards/face.js';
import { chachaStream } from '../chance/chacha.js';
import { type Chance, type Generator, type KeyedChance, shufflePlaces } from '../chance/generator.js';
import type { Sha256 } from '../chance/short-hmac.js';
import { canonical, expanded, extracted, fromHex, type Hash, hashed, toHex } from './messages.js';
import { ShuffledTree } from './shuffled.js';

/** What everybody knows of a table before anything is dealt, and what its promises are about. */
export interface OpeningFacts {
  readonly table: string;
  /** The hash of its sheet. */
  readonly sheet: string;
  readonly semantics: number;
  readonly settings: Readonly<Record<string, number | boolean | string>>;
  readonly seats: readonly string[];
  /** The faces of its deck, in deck order. */
  readonly deck: readonly string[];
}

/** The hash of what everybody knows. */
export const factsHash = (facts: OpeningFacts): Hash => hashed('table', canonical(facts));

/** What the service promises of its seed: it can give no other one afterwards. */
export const serviceCommitment = (facts: Hash, seed: Uint8Array): Hash => hashed('service', facts, seed);

/** What a seat promises of its chance: its number, from 1, is inside, so that nobody can copy another's. */
export const seatPromise = (facts: Hash, commitment: Hash, seat: number, bytes: Uint8Array): Hash =>
  hashed('seat', facts, commitment, seat, bytes);

/** What seats gave to the chance of a table, in their order, as hexadecimal digits: empty for whoever was absent. */
export interface Gave {
  readonly promises: readonly string[];
  readonly shown: readonly string[];
}

const bytesOrNothing = (text: string): Uint8Array | string => (text === '' ? '' : (fromHex(text) ?? ''));

/** The hash of the list of promises, once no more are taken. */
export function frozenHash(facts: Hash, commitment: Hash, seats: number, gave?: Gave): Hash {
  const promises = gave?.promises ?? new Array<string>(seats).fill('');
  return hashed('frozen', facts, commitment, ...promises.map(bytesOrNothing));
}

/** The hash of the opening, with what each seat gave. */
export function openingHash(facts: Hash, commitment: Hash, seats: number, gave?: Gave): Hash {
  const shown = gave?.shown ?? new Array<string>(seats).fill('');
  return hashed('shown', frozenHash(facts, commitment, seats, gave), ...shown.map(bytesOrNothing));
}

/** What does not agree in what seats gave; `null` where each showed what it had promised. */
export function wrongGave(facts: Hash, commitment: Hash, seats: number, { promises, shown }: Gave): string | null {
  if (promises.length !== seats || shown.length !== seats) return 'it is not told of every seat';
  for (const [i, promise] of promises.entries()) {
    const given = shown[i] ?? '';
    if (promise === '' && given === '') continue;
    const bytes = fromHex(given);
    if (!bytes || toHex(seatPromise(facts, commitment, i + 1, bytes)) !== promise)
      return `seat ${i + 1} showed something else than it had promised`;
  }
  return null;
}

/** One shuffle as it is promised: which, of which pile, how many cards. */
export interface ShuffleOf {
  readonly shuffle: number;
  readonly pile: string;
  readonly cards: number;
}

/** A card that is opened: that it lay at a place of a promised shuffle. */
export interface Opened {
  readonly shuffle: number;
  readonly place: number;
  readonly face: string;
  readonly salt: string;
  readonly path: readonly string[];
}

/** All keys of a table whose shuffles are promised. */
export class Pledge {
  private readonly facts: Hash;
  readonly commitment: Hash;
  readonly opening: Hash;
  private readonly root: Hash;

  constructor(facts: OpeningFacts, seed: Uint8Array, gave?: Gave) {
    this.facts = factsHash(facts);
    this.commitment = serviceCommitment(this.facts, seed);
    this.opening = openingHash(this.facts, this.commitment, facts.seats.length, gave);
    this.root = extracted(this.opening, seed);
  }

  /** The key of a purpose. */
  key(purpose: string, count = 0): Hash {
    return expanded(this.root, 'key', purpose, count);
  }

  /** The key under which choices are bound. */
  get choices(): Hash {
    return this.key('choices');
  }

  /** The chance of a shuffle. */
  generator({ shuffle, pile, cards }: ShuffleOf): Generator {
    return chachaStream(expanded(this.root, 'shuffle', shuffle, pile, cards));
  }

  /** The promise of a shuffled pile's order, bottom first. @param hash where a quicker SHA-256 is at hand */
  tree(shuffle: number, faces: readonly Face[], hash?: Sha256): ShuffledTree {
    return new ShuffledTree(this.opening, shuffle, faces, expanded(this.root, 'salts', shuffle), hash);
  }

  /** The chance of a table: shuffles by their number, pile and size; all else by its purpose. */
  get chance(): Chance {
    const keyedChance: KeyedChance = {
      shuffle: (pile, shuffle, cards) => this.generator({ shuffle, pile, cards }),
      pick: (_place, pick) => chachaStream(expanded(this.root, 'pick', pick)),
      player: (seat, chapter) => chachaStream(expanded(this.root, 'player', seat, chapter)),
    };
    return {
      name: 'chacha20/2',
      stream: (purpose, count) => chachaStream(this.key(purpose, count)),
      keyed: keyedChance,
    };
  }
}

/**
 * The order that a promised shuffle gives to some cards, which are laid in the order of their faces first.
 * @param faces which cards, in any order @returns `null` where the deck has them not, or not so often
 */
export function promisedFaces(
  pledge: Pledge,
  of: ShuffleOf,
  faces: readonly string[],
  deck: readonly string[],
): string[] | null {
  const left = new Map<string, number>();
  for (const face of deck) left.set(face, (left.get(face) ?? 0) + 1);
  for (const face of faces) {
    const many = left.get(face) ?? 0;
    if (many === 0) return null;
    left.set(face, many - 1);
  }
  const cards = faces.map((face) => ({ face, value: parseFace(face) })).sort((a, b) => a.value - b.value);
  const order = Uint16Array.from(cards.keys());
  shufflePlaces(order, 0, order.length, pledge.generator(of));
  return [...order].map((i) => cards[i]?.face ?? '');
}
