import { sha256 } from '@noble/hashes/sha2.js';
import { type Face, faceAscii } from '../cards/face.js';
import { type Sha256, ShortHmac } from '../chance/short-hmac.js';
import { type Hash, message, toHex } from './messages.js';
import { Tree } from './tree.js';

/** Bytes of what differs from leaf to leaf at most: place, face and salt, each with its length. */
const LONGEST = 64;
const LENGTH = 4;
/** The word that a salt's place comes after. */
const SALT = message('salt');

/** Writes a field of fewer than 256 bytes with its length before it, and gives where it ends. */
function put(bytes: Uint8Array, at: number, field: Uint8Array | string): number {
  bytes.fill(0, at, at + LENGTH - 1);
  bytes[at + LENGTH - 1] = field.length;
  const from = at + LENGTH;
  if (typeof field === 'string') for (let i = 0; i < field.length; i++) bytes[from + i] = field.charCodeAt(i);
  else bytes.set(field, from);
  return from + field.length;
}

/**
 * The promise of one shuffle's order: the tree over its cards. Its hashes are those of `leafHash`; as there are
 * a thousand of them at times within a step, they are put together in the same few bytes.
 */
export class ShuffledTree {
  private readonly salts: ShortHmac;
  private readonly words = new Uint8Array(SALT.length + LONGEST);
  private readonly tree: Tree;

  /** @param faces bottom first @param key of the salts @param hash where a quicker SHA-256 is at hand */
  constructor(opening: Hash, shuffle: number, faces: readonly Face[], key: Hash, hash: Sha256 = sha256) {
    this.salts = new ShortHmac(key, this.words.length, hash);
    this.words.set(SALT);
    const before = message('leaf', opening, shuffle, faces.length);
    const leaf = new Uint8Array(1 + before.length + LONGEST);
    leaf.set(before, 1);
    this.tree = new Tree(
      faces.map((face, i) => {
        const afterPlace = put(leaf, 1 + before.length, String(i + 1));
        const end = put(leaf, put(leaf, afterPlace, faceAscii(face)), this.saltOf(i + 1));
        return hash(leaf.subarray(0, end));
      }),
      hash,
    );
  }

  get root(): string {
    return toHex(this.tree.root);
  }
  /** The salt of a place, from 1. */
  saltOf(place: number): Hash {
    return this.salts.of(this.words.subarray(0, put(this.words, SALT.length, String(place))));
  }
  pathTo(place: number): string[] {
    return this.tree.pathTo(place).map(toHex);
  }
}
