import { chacha20 } from '@noble/ciphers/chacha.js';
import { type _HMAC, hmac } from '@noble/hashes/hmac.js';
import { type _SHA256, sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Chance, Generator } from './generator.js';

/** A table's seed: 256 bits, from which every shuffle's own key is derived. */
export type Seed = Uint8Array;

/** Bytes in a block of ChaCha20. */
const BLOCK = 64;
/** Blocks that are made at a time: as many as a shuffle of one pack takes, and twice as many where more are drawn. */
const FIRST = 4;
const FURTHER = 8;
const NONCE = new Uint8Array(12);
const ZEROS = new Uint8Array(FURTHER * BLOCK);
const FIRST_ZEROS = ZEROS.subarray(0, FIRST * BLOCK);

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

/**
 * Derives many keys from one seed, each as {@link deriveKey} does. What HMAC does with the seed is done once, and what
 * a purpose is in bytes is remembered.
 */
class KeyDeriver {
  private readonly begun: _HMAC<_SHA256>;
  private readonly scratch: _HMAC<_SHA256>;
  private readonly purposes = new Map<string, Uint8Array>();

  constructor(seed: Seed) {
    this.begun = hmac.create(sha256, seed);
    this.scratch = this.begun.clone();
  }

  derive(purpose: string, count: number): Uint8Array {
    const { scratch } = this;
    this.begun._cloneInto(scratch);
    return scratch.update(this.wordsOf(purpose)).update(asciiOf(count)).digest();
  }

  private wordsOf(purpose: string): Uint8Array {
    let words = this.purposes.get(purpose);
    if (!words) {
      words = utf8ToBytes(`${purpose} `);
      this.purposes.set(purpose, words);
    }
    return words;
  }
}

/** A number as its digits. */
function asciiOf(count: number): Uint8Array {
  const digits = String(count);
  const bytes = new Uint8Array(digits.length);
  for (let i = 0; i < digits.length; i++) bytes[i] = digits.charCodeAt(i);
  return bytes;
}

/** Room for the key stream that is being read. Streams are mostly read one after the other, so all of a table share it. */
class StreamRoom {
  private readonly first = new Uint8Array(FIRST * BLOCK);
  private readonly further = new Uint8Array(FURTHER * BLOCK);
  reader: ChaChaStream | null = null;

  of(blocks: number): Uint8Array {
    return blocks === FIRST ? this.first : this.further;
  }
}

/** The key stream of ChaCha20 (RFC 8439) under one derived key, read as little-endian words of 32 bits. */
class ChaChaStream implements Generator {
  private bytes: Uint8Array = NONCE;
  private at = 0;
  /** The block with which `bytes` begin. */
  private block = 0;
  private blocks = 0;

  constructor(
    private readonly key: Uint8Array,
    private readonly room: StreamRoom,
  ) {}

  next(): number {
    const isAtEnd = this.at === this.blocks * BLOCK;
    if (isAtEnd) this.goOn();
    else if (this.room.reader !== this) this.make();
    const { bytes, at } = this;
    this.at = at + 4;
    return (
      ((bytes[at] as number) |
        ((bytes[at + 1] as number) << 8) |
        ((bytes[at + 2] as number) << 16) |
        ((bytes[at + 3] as number) << 24)) >>>
      0
    );
  }

  private goOn(): void {
    this.block += this.blocks;
    this.blocks = this.block === 0 ? FIRST : FURTHER;
    this.at = 0;
    this.make();
  }

  /** Makes the blocks that are read; anew, where another stream has been read meanwhile. */
  private make(): void {
    this.bytes = this.room.of(this.blocks);
    this.room.reader = this;
    chacha20(this.key, NONCE, this.blocks === FIRST ? FIRST_ZEROS : ZEROS, this.bytes, this.block);
  }
}

/** The stream of a key: the same key gives the same numbers. */
export const chachaStream = (key: Uint8Array): Generator => new ChaChaStream(key, new StreamRoom());

/** Chance for tables that people play at: one ChaCha20 key for each shuffle, independent of all others. */
export function chachaChance(seed: Seed): Chance {
  const keys = new KeyDeriver(seed);
  const room = new StreamRoom();
  return { name: 'chacha20', stream: (purpose, count) => new ChaChaStream(keys.derive(purpose, count), room) };
}
