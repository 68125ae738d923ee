import { hmac } from '@noble/hashes/hmac.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, concatBytes, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import { type Face, faceAscii } from '../cards/face.js';

/** What proves that one card lay at one place of a committed shuffle. */
export interface OpenedCard {
  readonly position: number;
  readonly face: string;
  readonly salt: string;
  /** The neighbours' hashes on the way up to the root, each with the side it stands on. */
  readonly path: readonly { readonly side: 'left' | 'right'; readonly hash: string }[];
}

const saltOf = (key: Uint8Array, position: number): Uint8Array => hmac(sha256, key, utf8ToBytes(`salt ${position}`));
const leafOf = (position: number, face: string, salt: Uint8Array): Uint8Array =>
  sha256(concatBytes(Uint8Array.of(0), utf8ToBytes(`${position} ${face} `), salt));
// Leaves and inner hashes begin with different bytes, so that one can never pass for the other (RFC 6962, 2.1).
const joinOf = (left: Uint8Array, right: Uint8Array): Uint8Array => sha256(concatBytes(Uint8Array.of(1), left, right));

function levels(faces: readonly Face[], key: Uint8Array): Uint8Array[][] {
  let level = faces.map((face, i) => leafOf(i + 1, faceAscii(face), saltOf(key, i + 1)));
  const all = [level];
  while (level.length > 1) {
    const above: Uint8Array[] = [];
    for (let i = 0; i < level.length; i += 2) {
      const left = level[i] as Uint8Array;
      const right = level[i + 1];
      above.push(right ? joinOf(left, right) : left);
    }
    all.push(above);
    level = above;
  }
  return all;
}

/**
 * The commitment to a shuffled pile: a Merkle root over salted hashes of position and face, so that single
 * cards can be opened later and nothing else becomes known.
 * @param faces bottom first @param key a secret of this shuffle alone, from which the salts are made
 */
export function commitToOrder(faces: readonly Face[], key: Uint8Array): string {
  const top = levels(faces, key).at(-1)?.[0];
  return top ? bytesToHex(top) : bytesToHex(sha256(new Uint8Array(0)));
}

/** Opens the card at a position (counted from 1, bottom first) of a committed shuffle. */
export function openCard(faces: readonly Face[], key: Uint8Array, position: number): OpenedCard {
  const face = faces[position - 1];
  if (face === undefined) throw new RangeError(`There is no position ${position} among ${faces.length} cards.`);
  const path: { side: 'left' | 'right'; hash: string }[] = [];
  let at = position - 1;
  for (const level of levels(faces, key)) {
    const neighbour = level[at ^ 1];
    if (level.length > 1 && neighbour)
      path.push({ side: at % 2 === 0 ? 'right' : 'left', hash: bytesToHex(neighbour) });
    at >>= 1;
  }
  return { position, face: faceAscii(face), salt: bytesToHex(saltOf(key, position)), path };
}

/** Whether an opened card belongs to a commitment. */
export function verifyCard(root: string, opened: OpenedCard): boolean {
  let hash = leafOf(opened.position, opened.face, hexToBytes(opened.salt));
  for (const step of opened.path) {
    const other = hexToBytes(step.hash);
    hash = step.side === 'left' ? joinOf(other, hash) : joinOf(hash, other);
  }
  return bytesToHex(hash) === root;
}
