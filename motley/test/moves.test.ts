import { OPEN, type TableEvent, WATCHER } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { choose, openTable } from './support.js';

const SHEET = `game "Places" for 2 seats {
  deck of "A♠" "2♠" "3♠" "4♠" "5♠" "6♠"
  pile row face up
  pile closed face down
  pile hand of each seat private
  play {
    move all from pack to row
    repeat {
      ask seats[1] {
        option middle { move row[3] to closed }
        option below { move top(closed) to row beneath }
        option take { deal 1 from row to seats[1].hand }
        option some { move first(row, 2) to closed }
        option whole { move all from row to closed reversed }
        option rest { finish }
      }
    }
  }
}`;

type Move = Extract<TableEvent, { kind: 'moved' }>;
/** The moves of a choice for a viewer, each as "from place to place", `?` where the viewer does not know it. */
function movesOf(table: ReturnType<typeof openTable>, option: string, viewer: number): string[] {
  return choose(table, 0, option)
    .stepEvents.for(viewer)
    .filter((event): event is Move => event.kind === 'moved')
    .map(
      (m) =>
        `${m.face ?? '-'} ${m.from} ${m.fromPlace ?? '?'} to ${m.to} ${m.toPlace ?? '?'}${m.count ? ` (${m.count})` : ''}`,
    );
}
const open = (): ReturnType<typeof openTable> => openTable(SHEET, { seats: ['Wren', 'Otter'] });

describe('where a card goes', () => {
  it('is told from place to place, also out of the middle and beneath', () => {
    const table = open();
    expect(movesOf(table, 'middle', WATCHER)).toEqual(['3♠ row 3 to closed 1']);
    expect(movesOf(table, 'below', WATCHER)).toEqual(['3♠ closed 1 to row 1']);
    expect(movesOf(table, 'some', WATCHER)).toEqual(['3♠ row 1 to closed 1', 'A♠ row 1 to closed 2']);
  });

  it('is told of whole piles card by card, each from where it lies when it goes', () => {
    const table = open();
    expect(movesOf(table, 'whole', WATCHER)).toEqual([
      '6♠ row 6 to closed 1',
      '5♠ row 5 to closed 2',
      '4♠ row 4 to closed 3',
      '3♠ row 3 to closed 4',
      '2♠ row 2 to closed 5',
      'A♠ row 1 to closed 6',
    ]);
  });

  it('is no place in a private pile, and the same for whoever knows the card', () => {
    for (const viewer of [WATCHER, OPEN, 0, 1])
      expect(movesOf(open(), 'take', viewer)).toEqual(['6♠ row 6 to hand/1 ?']);
  });
});
