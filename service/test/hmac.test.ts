import { pureHmac } from '@wily-jester/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nativeHmac } from '../src/records/hmac.js';

describe("the machine's own HMAC", () => {
  it('gives the digits that the pure one gives, so that records are the same everywhere', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 100 }), fc.string({ maxLength: 3000, unit: 'binary' }), (key, text) => {
        expect(nativeHmac(key, text)).toBe(pureHmac(key, text));
      }),
    );
    expect(nativeHmac(new TextEncoder().encode('key'), 'The quick brown fox jumps over the lazy dog')).toBe(
      'f7bc83f430538424b13298e6aa6fb143ef4d59a14946175997479dbc2d1a3cd8',
    );
  });
});
