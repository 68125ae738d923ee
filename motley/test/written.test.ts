import { Table } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { exprValue, openTable, programOf, script } from './support.js';

const told = (expression: string): string =>
  compileSheet(script(`say "{${expression}}" finish`))
    .problems.map((problem) => problem.message)
    .join('\n');

describe('a hand that is written', () => {
  it.each([
    ['pokerHigh("A♠ A♥ 9♦ 9♣ 2♠").name', 'two pair, aces and nines, two kicker'],
    ['pokerHigh("A♠").category', 'high card'],
    ['aceToFive("8♠ 7♦ 6♣ 5♥ 4♠") > aceToFive("9♠ 4♦ 3♣ 2♥ A♠")', 'yes'],
    ['deuceToSeven("7♠ 5♦ 4♣ 3♥ 2♠").ranks', '7, 5, 4, 3, 2'],
    ['pokerHigh("K♠ K♥ 2♦") > pokerHigh("Q♠ Q♥ A♦")', 'yes'],
  ])('%s is %s', (expression, value) => {
    expect(exprValue(expression)).toBe(value);
  });

  it('is worked out when the sheet is checked, and needs no card of the deck', () => {
    const program = programOf(
      'game "Small" for 1 seat { deck ranks 2..6 def good = pokerHigh("A♠ K♠ Q♠ J♠ 10♠") play { say good.name finish } }'.replace(
        'say good.name',
        'say "{good.name}"',
      ),
    );
    expect(program.defs[0]?.body).toMatchObject({ k: 'lit', t: 'poker' });
    expect(new Table(program, { seats: ['Wren'], seed: 'x' }).isOver).toBe(true);
  });

  it.each([
    ['aceToFive("0♠")', 'is not a card'],
    ['aceToFive("")', 'Write the faces of the hand here'],
    ['pokerHigh("2♠ 3♠ 4♠ 5♠ 6♠ 7♠ 8♠ 9♠")', 'at most 7 cards, not 8'],
    ['pokerHigh("★ 2♠")', 'ranked by ranks and suits'],
    ['aceToFive("8♠") == deuceToSeven("8♠")', 'rank cards otherwise'],
  ])('refuses %s', (expression, message) => {
    expect(told(expression)).toContain(message);
  });
});

describe('a face that is written', () => {
  it("is nobody's secret: what is printed on it is known, for options and bots too", () => {
    expect(exprValue('card "Q♥".rank == Q and card "Q♥".suit == hearts and card "Q♥".color == red')).toBe('yes');
    expect(exprValue('card "K♣".pips + card "A♣".pips')).toBe('14');
    const source = script(
      'deal 3 each from pack to hand ask seats[1] { option lay(c: card in seats[1].hand) needs c.rank > card "2♣".rank else "Too low." { } } finish',
    );
    expect(
      compileSheet(source)
        .problems.map(({ message }) => message)
        .join(),
    ).not.toContain('looks into');
    expect(openTable(source).view(0).offers).toHaveLength(1);
  });

  it('keeps secret where it lies', () => {
    const source = script('ask seats[1] { option look when card "2♣" in stock { } option done { } } finish');
    const hidden = source.replace('ask', 'move all from pack to stock face down ask');
    expect(() => openTable(hidden)).toThrow('may not see');
  });
});

describe('the kind of a game', () => {
  const header = (as: string): string => `game "Kinds" for 1 seat ${as} { deck standard play { finish } }`;
  it('stands in its header, up to two of them', () => {
    expect(programOf(header('as betting, drawing')).genres).toEqual(['betting', 'drawing']);
    expect(programOf(header('')).genres).toBeUndefined();
  });
  it.each([
    ['as trick', 'There is no kind of game "trick" here. Did you mean "tricks"?'],
    ['as betting, betting', '"betting" stands here twice.'],
    ['as betting, melds, race', 'A game is of 2 kinds at most.'],
  ])('%s is refused', (as, message) => {
    expect(compileSheet(header(as)).problems.map((problem) => problem.message)).toContain(message);
  });
});
