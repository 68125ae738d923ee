/** SHA-256 of some bytes. */
export type Sha256 = (bytes: Uint8Array) => Uint8Array;

/** Bytes in a block of SHA-256. */
const BLOCK = 64;
const DIGEST = 32;

/** HMAC-SHA-256 (RFC 2104) of many short messages under one key: each costs two plain hashes. */
export class ShortHmac {
  private readonly inner: Uint8Array;
  private readonly outer = new Uint8Array(BLOCK + DIGEST);

  /** @param longest of the messages, in bytes */
  constructor(
    key: Uint8Array,
    longest: number,
    private readonly hash: Sha256,
  ) {
    const block = new Uint8Array(BLOCK);
    block.set(key.length > BLOCK ? hash(key) : key);
    this.inner = new Uint8Array(BLOCK + longest);
    this.inner.set(block.map((byte) => byte ^ 0x36));
    this.outer.set(block.map((byte) => byte ^ 0x5c));
  }

  of(message: Uint8Array): Uint8Array {
    this.inner.set(message, BLOCK);
    this.outer.set(this.hash(this.inner.subarray(0, BLOCK + message.length)), BLOCK);
    return this.hash(this.outer);
  }
}
