import { allows, isRefusal, judge, RandomPolicy, REGULARS, Simulator } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, openTable, programOf, sheetText } from './support.js';

/** Slots at the head of a state: the open ask, and the number at which it opened. */
const [ASK, OPENED] = [2, 7];
const CHOICES = 60;

describe.each(bundledSheets())('%s', (file) => {
  it('takes of a bot or a simulation what it takes of a client, number by number', () => {
    const program = programOf(sheetText(file));
    const seats = REGULARS.slice(0, program.seats[0]);
    const simulator = Simulator.of(program, { seats });
    const { game } = simulator;
    let left = CHOICES;
    for (let seed = 2; left > 0; seed++)
      left -= simulator.open(seed).play({
        policies: seats.map(() => new RandomPolicy()),
        most: left,
        choosing: (state, seat, answer) => {
          const options = program.asks[state.f[ASK] as number]?.options ?? [];
          for (const [index, option] of options.entries()) {
            if (option.params.some((param) => param.domain.k !== 'range')) continue;
            for (const value of [-1, 0, 1, 2, 3, 5, 10, 11, 12, 20, 199, 200, 201, 1e9]) {
              const args = option.params.map(() => value);
              const named = Object.fromEntries(option.params.map((param) => [param.name, value]));
              const choice = { ask: state.f[OPENED] as number, option: option.name, args: named };
              const isLegal = !isRefusal(judge(game, state, seat, choice));
              expect([option.name, value, allows(game, state, seat, { option: index, args })]).toEqual([
                option.name,
                value,
                isLegal,
              ]);
            }
            // Neither fewer values than it has, nor lists that look like numbers.
            const more = [...option.params.map(() => 1), 1];
            expect(allows(game, state, seat, { option: index, args: more })).toBe(false);
            if (option.params.length > 0)
              expect(allows(game, state, seat, { option: index, args: option.params.map(() => [10]) })).toBe(false);
          }
          expect(allows(game, state, seat, answer)).toBe(true);
        },
      }).steps;
  });
});

describe('a face that several packs hold', () => {
  it('names a copy that can be chosen', () => {
    const source = `game "Two Packs" for 1 seat { deck of "7♦" "8♦" copies 2
      pile row face up pile other face up
      play { move all from pack to row
        let rest = row[size(row)]
        ask seats[1] { option lay(c: card in row) needs c.place > 2 else "Only the upper ones." { move c to other finish } } } }`;
    const table = openTable(source);
    const faces = table.game.rt.pileCards(table.state, 1).map((card) => table.game.layout.faces[card]);
    expect(new Set(faces).size).toBe(2);
    const result = table.choose(0, { ask: 0, option: 'lay', args: { c: '7♦' } });
    expect('row' in result && result.row.args.c).toMatch(/^row#[34]$/);
  });
});
