import type { SheetSummary } from '@wily-jester/protocol';
import { describe, expect, it } from 'vitest';
import { stillOf } from '../src/art/still';

type Pile = SheetSummary['look']['piles'][number];
const pile = (name: string, of: Pile['of'], rest: Partial<Pile> = {}): Pile => ({
  name,
  label: name,
  facing: 'up',
  shape: 'fan',
  of,
  many: null,
  open: false,
  spots: null,
  sorted: null,
  ...rest,
});

/** The left and upper edges of cards, rounded. */
const places = (still: ReturnType<typeof stillOf>): string[] =>
  still.cards.map(({ x, y }) => `${x.toFixed(1)} ${y.toFixed(1)}`);

describe('the still life of a game', () => {
  const columns = {
    piles: [
      pile('stock', 'table', { facing: 'down', shape: 'stack' }),
      pile('home', 'suit', { shape: 'stack', many: 4 }),
      pile('column', 'table', { shape: 'cascade', many: 7 }),
    ],
    layout: [['stock', null, 'home'], ['column']],
  };

  it('lays out what the sheet does: backs, empty places and columns', () => {
    const still = stillOf(columns, 1, 0);
    expect(still.cards.filter(({ face }) => face === null)).toHaveLength(1);
    expect(still.cards.filter(({ face }) => face === undefined)).toHaveLength(4);
    const faces = still.cards.filter(({ face }) => typeof face === 'string');
    expect(faces).toHaveLength(21);
    expect(new Set(faces.map(({ y }) => y.toFixed(2))).size).toBe(3);
    expect(new Set(faces.map(({ x }) => x.toFixed(2))).size).toBe(7);
  });

  it('gives each of some seats a hand below, whose cards nobody else sees in play', () => {
    const look = {
      piles: [pile('spent', 'table', { facing: 'down', shape: 'stack' }), pile('hand', 'seat', { facing: 'private' })],
      layout: [['spent']],
    };
    expect(stillOf(look, 1, 0).cards.map(({ face }) => face === null)).toEqual([true, false, false]);
    expect(stillOf(look, 2, 0).cards).toHaveLength(5);
    expect(stillOf(look, 8, 0).cards).toHaveLength(7);
    expect(stillOf({ piles: [pile('stock', 'seat', { facing: 'down' })], layout: [] }, 2, 0).cards).toEqual(
      [0, 0.5, 2.1, 2.6].map((x) => ({ x: expect.closeTo(x), y: 0, face: null })),
    );
  });

  it('puts piles with a spot of their own where the sheet does', () => {
    const look = {
      piles: [
        pile('heap', 'table', {
          many: 3,
          spots: [
            [0, 1],
            [-1, 2],
            [1, 2],
          ],
        }),
        pile('stock', 'table', { facing: 'down', spots: [[-5, 1]] }),
      ],
      layout: [],
    };
    const still = stillOf(look, 1, 0);
    expect(places(still)).toEqual(['2.5 0.0', '2.0 0.3', '3.0 0.3', '0.0 0.0']);
    expect(still.width).toBeCloseTo(4);
    expect(still.height).toBeCloseTo(0.35 + 1.4);
  });

  it('fits its frame, and is the same for the same lot', () => {
    for (const lot of [0, 5, 12_345]) {
      const still = stillOf(columns, 1, lot);
      for (const { x, y } of still.cards) {
        expect(x).toBeGreaterThanOrEqual(0);
        expect(x + 1).toBeLessThanOrEqual(still.width + 1e-9);
        expect(y + 1.4).toBeLessThanOrEqual(still.height + 1e-9);
      }
      expect(stillOf(columns, 1, lot)).toEqual(still);
    }
    expect(stillOf(columns, 1, 1)).not.toEqual(stillOf(columns, 1, 2));
    expect(stillOf({ piles: [], layout: [] }, 1, 0).cards).toEqual([]);
  });
});
