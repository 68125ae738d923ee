import { hmac } from '@noble/hashes/hmac.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { canonical, message, toHex } from '../src/fair/messages.js';
import { ShuffledTree } from '../src/fair/shuffled.js';
import { type LeafOf, leafHash, rootFrom, Tree } from '../src/fair/tree.js';
import { parseFaces } from '../src/index.js';

const bytes = (text: string): Uint8Array => sha256(utf8ToBytes(text));
const leafAt = (place: number, cards: number, face = `${place}`): LeafOf => ({
  opening: bytes('opening'),
  shuffle: 1,
  cards,
  place,
  face,
  salt: bytes(`salt ${place}`),
});
const leaves = (n: number): Uint8Array[] => Array.from({ length: n }, (_, i) => leafHash(leafAt(i + 1, n)));

describe('the tree of a shuffle', () => {
  it('leads from each card to its root, and by no other place', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 1, max: 60 }), (n, other) => {
        const all = leaves(n);
        const tree = new Tree(all);
        const root = toHex(tree.root);
        for (let place = 1; place <= n; place++) {
          const path = tree.pathTo(place);
          const leaf = all[place - 1] as Uint8Array;
          expect(toHex(rootFrom(leaf, place, n, path) ?? new Uint8Array())).toBe(root);
          // The same leaf and path open no other place: not even one whose path is as long.
          if (other !== place && other <= n) {
            const there = rootFrom(leaf, other, n, path);
            expect(there === null || toHex(there) !== root).toBe(true);
          }
        }
      }),
      { numRuns: 60 },
    );
  });

  it('binds a card to its place even in a tree whose maker put two cards there', () => {
    // Two leaves that both say "place 1": only the one that lies there can be opened.
    const forged = [leafHash(leafAt(1, 2, 'AS')), leafHash(leafAt(1, 2, '2C'))];
    const tree = new Tree(forged);
    const root = toHex(tree.root);
    const opens = (face: string, at: number): boolean => {
      const from = rootFrom(leafHash(leafAt(1, 2, face)), 1, 2, tree.pathTo(at));
      return from !== null && toHex(from) === root;
    };
    expect(opens('AS', 1)).toBe(true);
    expect(opens('2C', 2)).toBe(false);
    expect(opens('2C', 1)).toBe(false);
  });

  it('has the hashes of its leaves, each made once', () => {
    const faces = parseFaces(`${'AS KH 10D 2C JK '.repeat(208)}AS`);
    let hashes = 0;
    const counted = (one: Uint8Array): Uint8Array => {
      hashes++;
      return sha256(one);
    };
    const tree = new ShuffledTree(bytes('opening'), 3, faces, bytes('key'), counted);
    for (const place of [1, 512, 1041]) {
      const salt = tree.saltOf(place);
      const face = ['AS', 'KH', '10D', '2C', 'JK'][(place - 1) % 5] as string;
      const leaf = leafHash({ opening: bytes('opening'), shuffle: 3, cards: 1041, place, face, salt });
      const path = tree
        .pathTo(place)
        .map((text) => Uint8Array.from(text.match(/../g) ?? [], (pair) => parseInt(pair, 16)));
      expect(toHex(rootFrom(leaf, place, 1041, path) ?? new Uint8Array())).toBe(tree.root);
      expect(toHex(salt)).toBe(toHex(hmac(sha256, bytes('key'), message('salt', place))));
    }
    // Two for each salt, one for each leaf and for each of the hashes above them: opening a card makes none.
    expect(hashes).toBeLessThan(4.1 * 1041);
  });

  it('binds table, shuffle, size, place, face and salt', () => {
    const leaf = toHex(leafHash(leafAt(3, 5)));
    for (const other of [
      { opening: bytes('another') },
      { shuffle: 2 },
      { cards: 6 },
      { place: 4 },
      { face: '4' },
      { salt: bytes('x') },
    ])
      expect(toHex(leafHash({ ...leafAt(3, 5), ...other }))).not.toBe(leaf);
  });
});

describe('what is hashed', () => {
  it('is other bytes for other fields, wherever they are cut', () => {
    const texts = fc.array(fc.string({ maxLength: 6 }), { maxLength: 4 });
    fc.assert(
      fc.property(texts, texts, (a, b) => {
        expect(toHex(message('t', ...a)) === toHex(message('t', ...b))).toBe(JSON.stringify(a) === JSON.stringify(b));
      }),
    );
    expect(toHex(message('a', 'b'))).not.toBe(toHex(message('b', 'a')));
  });

  it('is JSON in one form alone', () => {
    expect(canonical({ b: [1, 'é"'], a: { z: null, y: true }, c: undefined })).toBe(
      '{"a":{"y":true,"z":null},"b":[1,"é\\""]}',
    );
  });
});
