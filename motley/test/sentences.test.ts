import { describe, expect, it } from 'vitest';
import { choose, openTable } from './support.js';

const sheet = (option: string): string => `game "Sentences" for 2 seats { deck standard
  pile hand of each seat private as fan
  pile row face up
  pile box face down
  kind Bid = pass | hearts2 "two hearts"
  play { deal 2 each from pack to hand ask seats[1] { ${option} } ask seats[2] { option rest { } } } }`;
/** The sentence of a choice, for a viewer. */
const sentence = (option: string, args: Record<string, unknown>, viewer = 1): string => {
  const table = openTable(sheet(option), { seats: ['Wren', 'Otter'] });
  const name = /option (\w+)/.exec(option)?.[1] ?? '';
  const { row, stepEvents } = choose(table, 0, name, args);
  return table
    .lines(stepEvents, row.number, viewer)
    .map(({ text }) => text)
    .join(' ');
};

describe('what a seat chose, in a sentence', () => {
  it('takes its verb from the option where the label begins with a value', () => {
    expect(sentence('option lay(n: 1..9) "{n} on the player" { }', { n: 4 })).toBe('Wren lays 4 on the player.');
    expect(sentence('option swap(cs: 2 cards in seats[1].hand) "{cs}" { }', { cs: ['hand/1#1', 'hand/1#2'] })).toBe(
      'Wren swaps 2 cards.',
    );
    expect(sentence('option orderUp "alone, hearts it is" { }', {})).toBe('Wren orders up: alone, hearts it is.');
    expect(sentence('option give(t: seat) "{t} the rest" { }', { t: 2 }, 0)).toBe('You give Otter the rest.');
  });

  it('keeps the label where it begins with a verb', () => {
    expect(sentence('option lay(n: 1..9) "put {n} on the player" { }', { n: 4 })).toBe('Wren puts 4 on the player.');
  });

  it('names a card that was laid open, and none that was buried', () => {
    const lay = (to: string): string => `option lay(c: card in seats[1].hand) { move c to ${to} }`;
    expect(sentence(lay('row'), { c: 'hand/1#1' })).toMatch(/^Wren lays \S+[♠♥♦♣]\.$/);
    expect(sentence(lay('box'), { c: 'hand/1#1' })).toBe('Wren lays a card.');
    expect(sentence(lay('box'), { c: 'hand/1#1' }, 0)).toMatch(/^You lay \S+[♠♥♦♣]\.$/);
    expect(
      sentence('option lay(c: card in seats[1].hand) { move c to pack shuffle pack deal 1 from pack to row }', {
        c: 'hand/1#1',
      }),
    ).toContain('Wren lays a card.');
  });
});

it('what a label names is not told twice', () => {
  const take = 'option take "take the {top(row)}" { move top(row) to seats[1].hand }';
  const table = openTable(sheet(take).replace('deal 2 each', 'deal 1 from pack to row deal 2 each'), {
    seats: ['Wren', 'Otter'],
  });
  const { row, stepEvents } = choose(table, 0, 'take');
  const [line] = table.lines(stepEvents, row.number, 1);
  expect(line?.text).toMatch(/^Wren takes the \S+\.$/);
});
