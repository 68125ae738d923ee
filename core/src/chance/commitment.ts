import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { type Face, faceAscii } from '../cards/face.js';

/** SHA-256 of some bytes. */
export type Sha256 = (bytes: Uint8Array) => Uint8Array;

/** Bytes in a block of SHA-256. */
const BLOCK = 64;
const DIGEST = 32;

/** Writes ASCII into bytes, and gives where it ends. */
function put(bytes: Uint8Array, at: number, text: string): number {
  for (let i = 0; i < text.length; i++) bytes[at + i] = text.charCodeAt(i);
  return at + text.length;
}

/** Makes the hashes of one tree. Its texts are short, and are put together in the same few bytes. */
class Hashing {
  private readonly inner = new Uint8Array(2 * BLOCK);
  private readonly outer = new Uint8Array(BLOCK + DIGEST);
  private readonly leaf = new Uint8Array(2 * BLOCK);
  private readonly pair = new Uint8Array(1 + 2 * DIGEST);

  /** @param key of the salts */
  constructor(
    key: Uint8Array,
    private readonly hash: Sha256,
  ) {
    const block = new Uint8Array(BLOCK);
    block.set(key.length > BLOCK ? hash(key) : key);
    this.inner.set(block.map((byte) => byte ^ 0x36));
    this.outer.set(block.map((byte) => byte ^ 0x5c));
    // Leaves and inner hashes begin with different bytes, so that one can never pass for the other (RFC 6962, 2.1).
    this.pair[0] = 1;
  }

  /** HMAC-SHA-256 (RFC 2104) of the words "salt" and the position. */
  salt(position: number): Uint8Array {
    const end = put(this.inner, BLOCK, `salt ${position}`);
    this.outer.set(this.hash(this.inner.subarray(0, end)), BLOCK);
    return this.hash(this.outer);
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
