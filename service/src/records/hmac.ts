import { hash } from 'node:crypto';
import type { Hmac, Sha256 } from '@wily-jester/core';

/** Bytes in a block of SHA-256. */
const BLOCK = 64;
const DIGEST = 32;

interface Pads {
  readonly inner: Uint8Array;
  readonly outer: Uint8Array;
}
const pads = new WeakMap<Uint8Array, Pads>();

function padsOf(key: Uint8Array): Pads {
  let found = pads.get(key);
  if (!found) {
    const block = new Uint8Array(BLOCK);
    block.set(key.length > BLOCK ? hash('sha256', key, 'buffer') : key);
    found = { inner: block.map((byte) => byte ^ 0x36), outer: block.map((byte) => byte ^ 0x5c) };
    pads.set(key, found);
  }
  return found;
}

/** SHA-256 by the machine's own hash, for commitments. */
export const nativeSha256: Sha256 = (bytes) => hash('sha256', bytes, 'buffer');

let inner = Buffer.alloc(8_192);
const outer = Buffer.alloc(BLOCK + DIGEST);

/**
 * HMAC-SHA-256 (RFC 2104) by the machine's own hash: every choice's digest takes one. The library's HMAC makes an
 * object for each that the garbage collector has to ask about; two plain hashes make none.
 * @param key is not changed as long as it is used
 */
export const nativeHmac: Hmac = (key, text) => {
  const pads = padsOf(key);
  // A text takes three bytes for each of its units at most.
  const most = BLOCK + 3 * text.length;
  if (most > inner.length) inner = Buffer.alloc(2 * most);
  inner.set(pads.inner);
  const length = BLOCK + inner.write(text, BLOCK);
  outer.set(pads.outer);
  outer.write(hash('sha256', inner.subarray(0, length), 'binary'), BLOCK, 'binary');
  return hash('sha256', outer, 'hex');
};
