import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { type Face, faceAscii } from '../cards/face.js';
import { type Sha256, ShortHmac } from './short-hmac.js';

/** Bytes of a message about one card at most. */
const LONGEST = 128;
const DIGEST = 32;

/** Writes ASCII into bytes, and gives where it ends. */
function put(bytes: Uint8Array, at: number, text: string): number {
  for (let i = 0; i < text.length; i++) bytes[at + i] = text.charCodeAt(i);
  return at + text.length;
}

/** Makes the hashes of one tree. Its texts are short, and are put together in the same few bytes. */
class Hashing {
  private readonly salts: ShortHmac;
  private readonly leaf = new Uint8Array(LONGEST);
  private readonly words = new Uint8Array(LONGEST);
  private readonly pair = new Uint8Array(1 + 2 * DIGEST);

  /** @param key of the salts */
  constructor(
    key: Uint8Array,
    private readonly hash: Sha256,
  ) {
    this.salts = new ShortHmac(key, LONGEST, hash);
    // Leaves and inner hashes begin with different bytes, so that one can never pass for the other (RFC 6962, 2.1).
    this.pair[0] = 1;
  }

  /** Of the words "salt" and the position. */
  salt(position: number): Uint8Array {
    return this.salts.of(this.words.subarray(0, put(this.words, 0, `salt ${position}`)));
  }
  leafOf(position: number, face: string, salt: Uint8Array): Uint8Array {
    const end = put(this.leaf, 1, `${position} ${face} `);
    this.leaf.set(salt, end);
    return this.hash(this.leaf.subarray(0, end + salt.length));
  }
  join(left: Uint8Array, right: Uint8Array): Uint8Array {
    this.pair.set(left, 1);
    this.pair.set(right, 1 + DIGEST);
    return this.hash(this.pair);
  }
}

function rootOf(faces: readonly Face[], key: Uint8Array, hash: Sha256): Uint8Array | undefined {
  const hashing = new Hashing(key, hash);
  let level = faces.map((face, i) => hashing.leafOf(i + 1, faceAscii(face), hashing.salt(i + 1)));
  while (level.length > 1) {
    const above: Uint8Array[] = [];
    for (let i = 0; i < level.length; i += 2) {
      const left = level[i] as Uint8Array;
      const right = level[i + 1];
      above.push(right ? hashing.join(left, right) : left);
    }
    level = above;
  }
  return level[0];
}

/**
 * The commitment to a shuffled pile of a table that promises nothing, or that an earlier release opened: a Merkle root over
 * salted hashes of position and face. No card of it is opened: for that, see `fair/`.
 * @param faces bottom first @param key a secret of this shuffle alone, from which the salts are made
 * @param hash where a quicker SHA-256 is at hand
 */
export function commitToOrder(faces: readonly Face[], key: Uint8Array, hash: Sha256 = sha256): string {
  const top = rootOf(faces, key, hash);
  return top ? bytesToHex(top) : bytesToHex(sha256(new Uint8Array(0)));
}
