import {
  colorOf,
  DeckError,
  deckFaces,
  FaceError,
  faceAscii,
  faceName,
  faceText,
  isJoker,
  isNumbered,
  isSuited,
  joker,
  numbered,
  numberOf,
  parseFace,
  parseFaces,
  rankOf,
  rankRange,
  suited,
  suitOf,
} from '@wily-jester/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

const anyFace = fc.oneof(
  fc.tuple(fc.integer({ min: 1, max: 13 }), fc.integer({ min: 0, max: 3 })).map(([r, s]) => suited(r, s)),
  fc.integer({ min: 1, max: 20 }).map(joker),
  fc.integer({ min: 0, max: 9999 }).map(numbered),
);

describe('a card face', () => {
  it('is read back from both ways of writing it', () => {
    fc.assert(
      fc.property(anyFace, (face) => {
        expect(parseFace(faceText(face))).toBe(face);
        expect(parseFace(faceAscii(face))).toBe(face);
        expect(parseFace(faceAscii(face).toLowerCase())).toBe(face);
      }),
    );
  });

  it('is written rank first, suit after', () => {
    expect(faceText(suited(10, 0))).toBe('10♠');
    expect(faceAscii(suited(10, 0))).toBe('10S');
    expect(faceText(joker(1))).toBe('★');
    expect(faceAscii(joker(2))).toBe('JK2');
    expect(faceText(numbered(57))).toBe('57');
  });

  it('takes T for ten', () => {
    expect(parseFace('TS')).toBe(suited(10, 0));
    expect(parseFace(' t♥ ')).toBe(suited(10, 1));
  });

  it('is said in words', () => {
    expect(faceName(parseFace('10♠'))).toBe('ten of spades');
    expect(faceName(parseFace('QH'))).toBe('queen of hearts');
    expect(faceName(joker(1))).toBe('joker');
    expect(faceName(numbered(7))).toBe('number 7');
  });

  it('knows its rank, suit and colour, or that it has none', () => {
    const queen = parseFace('Q♦');
    expect([rankOf(queen), suitOf(queen), colorOf(queen)]).toEqual([12, 2, 1]);
    expect([rankOf(joker(1)), suitOf(joker(1)), colorOf(joker(1))]).toEqual([-1, -1, -1]);
    expect(numberOf(numbered(31))).toBe(31);
    expect([isSuited(queen), isJoker(joker(3)), isNumbered(numbered(0))]).toEqual([true, true, true]);
  });

  it.each([
    ['1♠', '1'],
    ['11♠', '11'],
    ['Zs', 'Z'],
    ['10X', 'X'],
    ['♠', ''],
    ['ace of spades', 'S'],
    ['', ''],
  ])('names the bad part of "%s"', (text, part) => {
    const error = (() => {
      try {
        parseFace(text);
        return undefined;
      } catch (thrown) {
        return thrown as FaceError;
      }
    })();
    expect(error).toBeInstanceOf(FaceError);
    if (text !== 'ace of spades') expect(error?.part).toBe(part);
    expect(error?.message.length).toBeGreaterThan(20);
  });

  it('is read from a row of cards', () => {
    expect(parseFaces('A♠ KD, 10h').map(faceText)).toEqual(['A♠', 'K♦', '10♥']);
    expect(() => parseFaces('A♠ 1♠')).toThrow(FaceError);
  });
});

describe('a deck', () => {
  const texts = (faces: readonly number[]): string => faces.map(faceText).join(' ');

  it('stands in deck order, for ever: spades hearts diamonds clubs, ace to king', () => {
    const faces = deckFaces([{ form: { kind: 'standard' }, copies: 1, jokers: 0 }]);
    expect(faces).toHaveLength(52);
    expect(texts(faces.slice(0, 14))).toBe('A♠ 2♠ 3♠ 4♠ 5♠ 6♠ 7♠ 8♠ 9♠ 10♠ J♠ Q♠ K♠ A♥');
    expect(texts(faces.slice(-2))).toBe('Q♣ K♣');
  });

  it('puts packs in turn, each with its jokers last', () => {
    const faces = deckFaces([{ form: { kind: 'standard' }, copies: 2, jokers: 2 }]);
    expect(faces).toHaveLength(108);
    expect(texts(faces.slice(52, 55))).toBe('★ ★2 A♠');
  });

  it('may have some ranks and suits only', () => {
    const form = { kind: 'ranks', ranks: rankRange(11, 13), suits: [1, 0] } as const;
    expect(texts(deckFaces([{ form, copies: 1, jokers: 0 }]))).toBe('J♠ Q♠ K♠ J♥ Q♥ K♥');
    expect(rankRange(7, 1)).toEqual([7, 8, 9, 10, 11, 12, 13, 1]);
    expect(rankRange(1, 13)).toHaveLength(13);
    expect(() => rankRange(9, 4)).toThrow(DeckError);
  });

  it('may be numbered, or a list of faces', () => {
    expect(texts(deckFaces([{ form: { kind: 'numbered', from: 1, to: 4 }, copies: 1, jokers: 0 }]))).toBe('1 2 3 4');
    const form = { kind: 'of', faces: parseFaces('J♠ Q♠ K♠') } as const;
    expect(texts(deckFaces([{ form, copies: 2, jokers: 0 }]))).toBe('J♠ Q♠ K♠ J♠ Q♠ K♠');
  });

  it('has one card at least, and 2,000 at most', () => {
    expect(() => deckFaces([])).toThrow(DeckError);
    expect(() => deckFaces([{ form: { kind: 'standard' }, copies: 0, jokers: 0 }])).toThrow(/one copy or more/);
    expect(() => deckFaces([{ form: { kind: 'standard' }, copies: 39, jokers: 0 }])).toThrow(/2000/);
  });
});
