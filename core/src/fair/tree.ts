import { sha256 } from '@noble/hashes/sha2.js';
import { concatBytes } from '@noble/hashes/utils.js';
import type { Sha256 } from '../chance/short-hmac.js';
import { type Hash, message } from './messages.js';

const LEAF = Uint8Array.of(0);
const INNER = Uint8Array.of(1);

/** What a leaf says: at which place of which shuffle of which table a card lies. */
export interface LeafOf {
  /** The hash of the table's opening. */
  readonly opening: Hash;
  readonly shuffle: number;
  readonly cards: number;
  /** From 1, bottom first. */
  readonly place: number;
  readonly face: string;
  readonly salt: Hash;
}

/** The hash of a leaf. Leaves and inner hashes begin with different bytes (RFC 6962, 2.1). */
export const leafHash = ({ opening, shuffle, cards, place, face, salt }: LeafOf): Hash =>
  sha256(concatBytes(LEAF, message('leaf', opening, shuffle, cards, place, face, salt)));

const joined = (left: Hash, right: Hash, hash: Sha256): Hash => hash(concatBytes(INNER, left, right));

/** The largest power of two below a number. */
const splitOf = (n: number): number => 2 ** Math.ceil(Math.log2(n) - 1);

/** The tree over some leaves (RFC 6962, 2.1): the left part of each is the largest full one. It is made once, with all its hashes. */
export class Tree {
  /** From the leaves to the root. What has nothing beside it goes up as it is. */
  private readonly levels: (readonly Hash[])[];

  constructor(leaves: readonly Hash[], hash: Sha256 = sha256) {
    this.levels = [leaves.length > 0 ? leaves : [hash(new Uint8Array(0))]];
    for (let level = this.levels[0] as readonly Hash[]; level.length > 1; ) {
      const above: Hash[] = [];
      for (let i = 0; i < level.length; i += 2) {
        const [left, right] = [level[i] as Hash, level[i + 1]];
        above.push(right ? joined(left, right, hash) : left);
      }
      this.levels.push(above);
      level = above;
    }
  }

  get root(): Hash {
    return this.levels.at(-1)?.[0] as Hash;
  }

  /** The hashes beside the way from a leaf up to the root, the nearest first. @param place from 1 */
  pathTo(place: number): Hash[] {
    return this.levels.flatMap((level, height) => level[((place - 1) >> height) ^ 1] ?? []);
  }
}

/**
 * The root that a leaf and its path lead to. On which side each hash stands follows from the place and from how many cards
 * there are, so that a path fits one place alone.
 * @returns `null` where the path is not as long as that place needs
 */
export function rootFrom(leaf: Hash, place: number, cards: number, path: readonly Hash[]): Hash | null {
  if (cards === 1) return path.length === 0 && place === 1 ? leaf : null;
  const beside = path.at(-1);
  if (!beside || place < 1 || place > cards) return null;
  const split = splitOf(cards);
  const rest = path.slice(0, -1);
  if (place <= split) {
    const left = rootFrom(leaf, place, split, rest);
    return left && joined(left, beside, sha256);
  }
  const right = rootFrom(leaf, place - split, cards - split, rest);
  return right && joined(beside, right, sha256);
}
