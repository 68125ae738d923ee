import { botLines } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { programOf } from './support.js';

/** Two cards lie open, and the higher one is worth more: a bot that takes the lower one is clearly wrong. */
const PICKING = `game "Picking" for 2 seats {
  deck standard
  pile row face up
  pile hand of each seat face up
  play {
    for n in 1..3 {
      gather all to pack
      shuffle pack
      for each s in seats {
        deal 2 from pack to row
        ask s { option take(c: card in row) "take {c}" { move c to s.hand  score s += c.pips }  option leave "leave both" { } }
        move all from row to pack
      }
    }
    finish
  }
  bot modest {
    take(c) when c.pips > 20
    take(c) prefer -c.pips
    leave
  }
}`;

describe("a report on a bot's lines", () => {
  const options = { games: 12, seed: 3, playouts: 80, every: 1 };
  const report = botLines(programOf(PICKING), 0, options);

  it('counts how often each line fired, and which never did', () => {
    expect(report.map(({ option, fired }) => [option, fired])).toEqual([
      ['take', 0],
      ['take', 72],
      ['leave', 0],
    ]);
    const lines = PICKING.split('\n');
    expect(report.map(({ line }) => lines[line - 1]?.trim())).toEqual([
      'take(c) when c.pips > 20',
      'take(c) prefer -c.pips',
      'leave',
    ]);
  });

  it('says where thinking would clearly have chosen something else, and what that was worth', () => {
    const [, second] = report;
    expect(second?.looked).toBe(72);
    expect(second?.overruled).toBeGreaterThan(50);
    expect(second?.gain).toBeGreaterThan(2);
    expect(second?.example).toMatchObject({
      plays: expect.stringMatching(/^take /),
      better: expect.stringMatching(/^take /),
    });
  });

  it('is the same for the same seed', () => {
    expect(botLines(programOf(PICKING), 0, options)).toEqual(report);
  });
});
