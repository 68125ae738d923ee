import { describe, expect, it } from 'vitest';
import { Seats } from '../src/tables/seats.js';

const three = (): Seats => new Seats([{ held: 'person' }, { held: 'bot', bot: 'steady' }, { held: 'free' }]);

describe('seats', () => {
  it('tell who holds them', () => {
    expect(three().summary(['Wren', 'Otter', 'Heron'])).toEqual([
      { seat: 1, name: 'Wren', bot: null, held: 'person', present: false, away: false },
      { seat: 2, name: 'Otter', bot: 'steady', held: 'bot', present: false, away: false },
      { seat: 3, name: 'Heron', bot: null, held: 'free', present: false, away: true },
    ]);
  });

  it('are present while one connection is left, here or in another process', () => {
    const seats = three();
    expect(seats.connected(0, 1)).toBe(true);
    expect(seats.connected(0, 1)).toBe(false);
    expect(seats.connected(0, -1)).toBe(false);
    expect(seats.isPresent(0)).toBe(true);
    seats.setElsewhere(new Set([0]));
    expect(seats.connected(0, -1)).toBe(true);
    expect(seats.isPresent(0)).toBe(true);
    seats.setElsewhere(new Set());
    expect(seats.isPresent(0)).toBe(false);
  });

  it('are away after two turns in a row that the clock answered, and not before', () => {
    const seats = three();
    seats.answered(0, true);
    seats.answered(0, false);
    seats.answered(0, true);
    expect(seats.isAway(0)).toBe(false);
    seats.answered(0, true);
    expect(seats.isAway(0)).toBe(true);
    expect(seats.returned(0)).toBe(true);
    expect(seats.isAway(0)).toBe(false);
    expect(seats.returned(0)).toBe(false);
  });
});
