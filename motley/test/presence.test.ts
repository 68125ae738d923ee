import { Fault, Game, meaningOf, quickChance } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { choose, openTable, programOf, said, script } from './support.js';

const SEATS = ['Wren', 'Otter', 'Heron'];
const faultOf = (open: () => unknown): Fault => {
  try {
    open();
  } catch (error) {
    if (error instanceof Fault) return error;
    throw error;
  }
  throw new Error('there was no fault');
};
/** Routines that wait, with a seat each; what calls them differs from test to test. */
const ROUTINES = `
  def rich(x: seat) = x.purse > 3
  var purse of each seat: int = 2
  routine outer(a: seat) { inner(a) }
  routine inner(b: seat) { b.purse += 1 ask b { option go { say "{b} has {b.purse}." } } }`;
const sheet = (calls: string, more = ''): string =>
  script(`${calls} finish`, ROUTINES).replace('play {', `${more}\n  play {`);

describe('a seat that a routine is given', () => {
  it('needs no check where every call gives one that is there', () => {
    const table = openTable(sheet('for each s in seats { outer(s) }'), { seats: SEATS });
    for (const seat of [0, 1, 2]) {
      expect(table.asked).toEqual([seat]);
      choose(table, seat, 'go');
    }
    expect(table.isOver).toBe(true);
    const { source } = table.game.parts;
    expect(source).not.toMatch(/\bok\(\(s\.f\[\d+\]\|0\)/);
  });

  it.each([
    ['alone', 'inner(find(seats, rich))'],
    ['through another routine', 'outer(find(seats, rich))'],
    ['after a call with one that is there', 'for each s in seats { outer(s) } outer(find(seats, rich))'],
  ])('may be nothing, and is a fault where it is used: %s', (_, calls) => {
    const open = () => {
      const table = openTable(sheet(calls), { seats: SEATS });
      for (const seat of table.asked) choose(table, seat, 'go');
      for (let i = 0; i < 3 && !table.isOver; i++) choose(table, table.asked[0] as number, 'go');
    };
    const fault = faultOf(open);
    expect(fault.message).toMatch(/nothing/);
    expect(fault.line).toBe(programLine(sheet(calls), 'b.purse += 1'));
  });

  it('may be nothing for a routine of its own, whatever others are given', () => {
    const other = 'routine apart(c: seat) { if c == nothing { say "nobody" } pause 1s }';
    const table = openTable(sheet('apart(find(seats, rich)) apart(seats[1]) for each s in seats { outer(s) }', other), {
      seats: SEATS,
    });
    expect(said(table)).toEqual(['nobody']);
  });
});

function programLine(source: string, text: string): number {
  return source.slice(0, source.indexOf(text)).split('\n').length;
}

describe('games that are told to nobody', () => {
  const BUSY = script(
    `shuffle pack  deal 5 each from pack to hand  deal 6 from pack to row
     move all from row to stock  move all from stock to row reversed  turn down row  turn up row
     for each s in seats { move top(s.hand) to row beneath  move first(s.hand, 2) to stock face up }
     gather row, stock to pack  shuffle pack  deal up to 3 each from pack to hand
     for each s in seats { move all from s.hand to row face down when s == seats[1] }
     turn up first(row, 2)  gather all to stock  move all from stock to stock  turn down stock
     finish`,
  );
  it('come to the same states, however cards are moved, turned and gathered', () => {
    const program = programOf(BUSY);
    for (let seed = 0; seed < 20; seed++) {
      const meanings = [true, false].map((quiet) => {
        const game = new Game(program, { seats: SEATS, chance: quickChance(seed), quiet });
        return meaningOf(game, game.open());
      });
      expect(meanings[0]).toBe(meanings[1]);
    }
  });
});
