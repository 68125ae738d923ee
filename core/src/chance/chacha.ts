import { chacha20 } from '@noble/ciphers/chacha.js';
import { hmac } from '@noble/hashes/hmac.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Chance, Generator } from './generator.js';

/** A table's seed: 256 bits, from which every shuffle's own key is derived. */
export type Seed = Uint8Array;

const BLOCK = 512;
const NONCE = new Uint8Array(12);
const ZEROS = new Uint8Array(BLOCK);

/**
 * The seed that a typed word stands for: its SHA-256, or the word itself where it is 64 hexadecimal digits.
 * A word that people type can be guessed, so a table opened with one promises no fairness.
 */
export function seedFrom(word: string): Seed {
  return /^[0-9a-f]{64}$/i.test(word)
    ? hexToBytes(word.toLowerCase())
    : sha256(utf8ToBytes(`wily-jester seed ${word}`));
}

/** A seed as 64 hexadecimal digits. */
export const seedText = (seed: Seed): string => bytesToHex(seed);

/** What is published before the first deal: the seed's fingerprint, from which the seed cannot be found. */
export const seedCommitment = (seed: Seed): string => bytesToHex(hmac(sha256, seed, utf8ToBytes('commitment')));

/** A key derived from the seed for one purpose and count: HMAC-SHA-256 (RFC 2104). */
export function deriveKey(seed: Seed, purpose: string, count: number): Uint8Array {
  return hmac(sha256, seed, utf8ToBytes(`${purpose} ${count}`));
}

/** The key stream of ChaCha20 (RFC 8439) under one derived key, read as little-endian words of 32 bits. */
class ChaChaStream implements Generator {
  private readonly bytes = new Uint8Array(BLOCK);
  private readonly words = new DataView(this.bytes.buffer);
  private at = BLOCK;
  private block = 0;
  constructor(private readonly key: Uint8Array) {}

  next(): number {
    if (this.at === BLOCK) {
      chacha20(this.key, NONCE, ZEROS, this.bytes, this.block);
      this.block += BLOCK / 64;
      this.at = 0;
    }
    const word = this.words.getUint32(this.at, true);
    this.at += 4;
    return word;
  }
}

/** Chance for tables that people play at: one ChaCha20 key for each shuffle, independent of all others. */
export function chachaChance(seed: Seed): Chance {
  return { name: 'chacha20', stream: (purpose, count) => new ChaChaStream(deriveKey(seed, purpose, count)) };
}
