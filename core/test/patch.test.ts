import { type Json, patchText } from '@wily-jester/core';
import fc from 'fast-check';
import jsonPatch, { type Operation } from 'fast-json-patch';
import { describe, expect, it } from 'vitest';

const patchOf = (before: Json, after: Json): Operation[] => JSON.parse(patchText(before, after)) as Operation[];
const applied = (before: Json, after: Json): unknown =>
  jsonPatch.applyPatch(structuredClone(before), patchOf(before, after), true).newDocument;
/** Values with few names and few leaves, so that two of them share something. */
const values = fc.letrec<{ value: Json }>((tie) => ({
  value: fc.oneof(
    { maxDepth: 4 },
    fc.constantFrom('A♠', '10♥', 'a/b', '"\n\\', 0, 1, -2.5e-7, true, null),
    fc.array(tie('value'), { maxLength: 5 }),
    fc.dictionary(fc.constantFrom('hand', 'row', 'a/b', 'm~n', '"q"\\', '0'), tie('value'), { noNullPrototype: true }),
  ),
})).value;

describe('the patch from one view to another', () => {
  it('leads from the one to the other, whatever they are', () => {
    fc.assert(
      fc.property(values, values, (before, after) => {
        expect(applied(before, after)).toEqual(after);
      }),
      { numRuns: 2000 },
    );
  });

  it('leads there when something was put into a list, or taken out of it', () => {
    const lists = fc.array(fc.constantFrom('A♠', '2♠', '3♠', null), { maxLength: 20 });
    fc.assert(
      fc.property(lists, fc.nat(12), fc.nat(20), lists, (list, at, out, put) => {
        const after = list.toSpliced(at, out, ...put);
        expect(applied({ list }, { list: after })).toEqual({ list: after });
      }),
      { numRuns: 2000 },
    );
  });

  it('is as short as the change', () => {
    const cards = ['A♠', '2♠', '3♠', '4♠'];
    expect(patchOf({ row: cards, n: 1 }, { row: cards, n: 1 })).toEqual([]);
    expect(patchOf({ row: cards }, { row: [...cards, '5♠'] })).toEqual([{ op: 'add', path: '/row/4', value: '5♠' }]);
    expect(patchOf({ row: cards }, { row: cards.slice(1) })).toEqual([{ op: 'remove', path: '/row/0' }]);
    expect(patchOf({ a: { b: 1 } }, { a: {}, c: null })).toEqual([
      { op: 'remove', path: '/a/b' },
      { op: 'add', path: '/c', value: null },
    ]);
    const pile = Array.from({ length: 52 }, (_, i) => `${i}`);
    expect(patchOf({ row: pile }, { row: ['51'] })).toEqual([{ op: 'replace', path: '/row', value: ['51'] }]);
    expect(patchOf({ row: pile }, { row: pile.slice(5) })).toHaveLength(5);
    expect(patchOf([1], { '0': 1 })).toEqual([{ op: 'replace', path: '', value: { '0': 1 } }]);
  });
});
