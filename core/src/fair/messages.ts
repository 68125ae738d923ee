import { expand, extract } from '@noble/hashes/hkdf.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, concatBytes, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';

/** A hash or a key: 32 bytes. */
export type Hash = Uint8Array;

const ZERO = new Uint8Array(1);

/** A number of 32 bits, the most significant byte first. */
function length32(n: number): Uint8Array {
  const bytes = new Uint8Array(4);
  new DataView(bytes.buffer).setUint32(0, n);
  return bytes;
}

/**
 * What is hashed: a tag, then each field with its length before it, so that no two lists of fields are the same bytes.
 * Numbers are decimal text, texts are UTF-8.
 */
export function message(tag: string, ...fields: readonly (Uint8Array | string | number)[]): Uint8Array {
  const parts = fields.flatMap((field) => {
    const bytes = typeof field === 'object' ? field : utf8ToBytes(String(field));
    return [length32(bytes.length), bytes];
  });
  return concatBytes(utf8ToBytes(`wily-jester fair/1 ${tag}`), ZERO, ...parts);
}

/** SHA-256 of a message. */
export const hashed = (tag: string, ...fields: readonly (Uint8Array | string | number)[]): Hash =>
  sha256(message(tag, ...fields));

/** HKDF (RFC 5869) with SHA-256: what all keys of a table come from, and one of them. */
export const extracted = (salt: Hash, secret: Uint8Array): Hash => extract(sha256, secret, salt);
export const expanded = (from: Hash, tag: string, ...fields: readonly (string | number)[]): Hash =>
  expand(sha256, from, message(tag, ...fields), 32);

export const toHex = bytesToHex;
/** Bytes of hexadecimal digits; `null` where they are not so many bytes. */
export function fromHex(text: unknown, bytes = 32): Uint8Array | null {
  return typeof text === 'string' && text.length === 2 * bytes && /^[0-9a-f]*$/.test(text) ? hexToBytes(text) : null;
}

/** JSON in one form alone (RFC 8785, for values without fractions): names in order, no blanks. */
export function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join(',')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const entries = Object.entries(value).filter(([, one]) => one !== undefined);
  entries.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
  return `{${entries.map(([name, one]) => `${JSON.stringify(name)}:${canonical(one)}`).join(',')}}`;
}
