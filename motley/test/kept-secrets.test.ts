import { type Answer, isPlayed, Table } from '@wily-jester/core';
import { revealsOf } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { programOf } from './support.js';

/** A guess at the colour of the card on top, which the sheet keeps in a plain variable. @param keep how it comes to know it */
const guessing = (keep: string): string => `game "Red or Black" for 1 seat {
  deck standard
  pile stock face down
  pile shown face up
  var isRed = no
  play {
    shuffle pack
    move all from pack to stock
    for i in 1..20 {
      ${keep}
      ask seats[1] {
        option red   { if isRed { score seats[1] += 1 } }
        option black { if not isRed { score seats[1] += 1 } }
      }
      deal 1 from stock to shown
    }
    finish
  }
}`;

const WAYS: Readonly<Record<string, string>> = {
  'by what it is set to': 'isRed = top(stock).color == red',
  'by a branch': 'if top(stock).color == red { isRed = yes } else { isRed = no }',
  'by way of another value': 'let colour = top(stock).color  isRed = colour == red',
  'over a pause': 'isRed = top(stock).color == red  pause 1s',
};

/** How many of so many guesses are right where each is the best of what was thought. */
function rightOf(source: string, games: number, undo = false): { right: number; asked: number } {
  const program = programOf(source);
  let [right, asked] = [0, 0];
  for (let i = 0; i < games; i++) {
    const table = new Table(program, { seats: ['Wren'], seed: `guess ${i}` }, { thinking: [0] });
    while (!table.isOver) {
      if (table.isPaused) {
        table.resume();
        continue;
      }
      if (undo && asked % 3 === 1) {
        table.choose(0, { ask: table.openAsk, option: 'red' });
        table.choose(0, { ask: table.openAsk, option: 'undo' });
      }
      const thought = table.think(0, { playouts: 40 });
      const { option } = table.wireOf(0, thought?.answer as Answer);
      const played = table.choose(0, { ask: table.openAsk, option });
      if (!isPlayed(played)) throw new Error(played.reason);
      asked++;
    }
    right += table.scores()[0] as number;
  }
  return { right, asked };
}

describe('what a sheet keeps of hidden cards in plain values', () => {
  it.each(Object.keys(WAYS))('is not known to a seat that thinks: %s', (way) => {
    const { right, asked } = rightOf(guessing(WAYS[way] ?? ''), 12);
    // Of 240 guesses by chance fewer than 90 or more than 150 are right once in ten thousand times; the seeds are fixed.
    expect(asked).toBe(240);
    expect(right).toBeGreaterThan(85);
    expect(right).toBeLessThan(160);
  });

  it('is known where it was drawn on the table', () => {
    const told = guessing(WAYS['by what it is set to'] ?? '').replace('var isRed = no', 'var isRed = no "red"');
    expect(rightOf(told, 3)).toEqual({ right: 60, asked: 60 });
  });

  it('is known where all could conclude it: whoever is asked was found by it', () => {
    const leading = `game "Who Leads" for 2 seats {
      deck standard
      pile hand of each seat private
      var opener: seat = seats[1]
      play {
        shuffle pack
        for each s in seats { deal 5 from pack to s.hand }
        for each s in seats { if max(s.hand, c => c.rank) > 10 { opener = s } }
        ask opener { option mine { score opener += 1 } option yours { score next(opener) += 1 } }
        finish
      }
    }`;
    for (let i = 0; i < 10; i++) {
      const table = new Table(programOf(leading), { seats: ['Wren', 'Otter'], seed: `led ${i}` }, { thinking: [0, 1] });
      const [asked = 0] = table.asked;
      const thought = table.think(asked, { playouts: 30 });
      expect(table.wireOf(asked, thought?.answer as Answer).option).toBe('mine');
    }
  });

  it('is told by name to whoever writes the sheet', () => {
    const reveals = revealsOf(programOf(guessing(WAYS['by what it is set to'] ?? ''))).map(({ message }) => message);
    expect(reveals).toContain(
      '"isRed", which nobody is shown, keeps something of "stock": a seat that thinks does not know it, unless it is told.',
    );
  });
});
