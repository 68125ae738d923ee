import { isPlayed, RandomPolicy, Simulator } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { choose, openTable, programOf } from './support.js';

/** Thirteen cards are laid out as five, five and three, in 72,072 ways, of which only those late in the order are legal. */
const arranging = (rest = ''): string =>
  `game "Laid Out" for 1 seat as arranging {
  deck ranks A..K suits spades
  pile hand of each seat private
  play {
    move all from pack to seats[1].hand
    ask seats[1] {
      option arrange(front: 3 cards in seats[1].hand, middle: 5 cards in without(seats[1].hand, front))
        needs sum(front, c => c.pips) == 36 and sum(middle, c => c.pips) == 40 { say "done" }
      ${rest}
    }
    finish
  }
  bot keen { arrange(front, middle) }
}`;

describe('an option with more ways than are tested', () => {
  it('is offered, and each choice is judged when it comes', () => {
    const table = openTable(arranging());
    const [offer] = table.view(0).offers;
    expect(offer).toMatchObject({ option: 'arrange', legal: true, sure: false, ways: null });
    const refused = table.choose(0, {
      ask: 0,
      option: 'arrange',
      args: { front: ['2♠', '3♠', '4♠'], middle: ['5♠', '6♠', '7♠', '8♠', '9♠'] },
    });
    expect(isPlayed(refused)).toBe(false);
    choose(table, 0, 'arrange', { front: ['J♠', 'Q♠', 'K♠'], middle: ['6♠', '7♠', '8♠', '9♠', '10♠'] });
    expect(table.isOver).toBe(true);
  });

  it('leaves nobody stuck, and is passed over by chance and by bots, who say why they find nothing', () => {
    const program = programOf(arranging('option leave { }'));
    const { choices, isOver } = Simulator.of(program, { seats: ['Wren'] })
      .open(1)
      .play({ policies: [new RandomPolicy()] });
    expect({ choices, isOver }).toEqual({ choices: 1, isOver: true });
    const why = /the ways to "arrange" \(line 7\) that can be tested none is legal/;
    expect(() => openTable(arranging()).playBot(0, 0)).toThrow(why);
    const alone = Simulator.of(programOf(arranging()), { seats: ['Wren'] }).open(1);
    expect(() => alone.play({ policies: [new RandomPolicy()] })).toThrow(why);
  });

  it('is sure where a way was found, and known to be illegal where all were tested', () => {
    const few = arranging().replace('3 cards', '1 cards').replace('5 cards', '1 cards');
    expect(() => openTable(few)).toThrow('has no legal choice');
    const found = few.replace('== 36', '== 2').replace('== 40', '== 3');
    expect(openTable(found).view(0).offers[0]).toMatchObject({
      legal: true,
      sure: true,
      ways: [[['hand/1#2'], ['hand/1#3']]],
    });
  });
});
