import { isPlayed, type Row, replay } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { beforeAll, describe, expect, it } from 'vitest';
import { openingOf } from '../src/broadcast/recent-steps.js';
import { Past } from '../src/records/past.js';

/** A game of one seat without an end. */
const TOWLINE = `game "Towline" for 1 seat {
  deck standard
  pile row face up
  play { repeat { ask seats[1] {
    option pull { if empty(pack) { move all from row to pack face down } deal 1 from pack to row }
    option stop { finish }
  } } }
}`;
const LENGTH = 3_000;
const { program } = compileSheet(TOWLINE);
if (!program) throw new Error('the sheet does not compile');
const begin = () => replay(program, { seats: ['Wren'], seed: 'past' }, []);
const rows: Row[] = [];
const digests: string[] = [];
beforeAll(() => {
  const table = begin();
  digests.push(table.digest());
  for (let ask = 0; ask < LENGTH; ask++) {
    const played = table.choose(0, { ask, option: 'pull', args: {} });
    if (!isPlayed(played)) throw new Error(played.reason);
    rows.push(played.row);
    digests.push(played.row.digest);
  }
});

describe('a past', () => {
  const fresh = (): Past => {
    const table = begin();
    return new Past(table, openingOf(table), async (work) => work());
  };
  /** Goes to a number as whoever looks back does; gives how many choices were carried out for it, or `null` where it had to begin anew. */
  const goTo = (past: Past, number: number): number | null => {
    if (!past.standBefore(number)) return null;
    const way = rows.slice(past.table.number, number);
    for (const row of way) past.goOn(row, number);
    expect(past.table.digest()).toBe(digests[number]);
    return way.length;
  };

  it('goes on from where it stands, and back to the nearest mark', () => {
    const past = fresh();
    expect(goTo(past, 2_900)).toBe(2_900);
    expect(goTo(past, 2_950)).toBe(50);
    for (let number = 2_949; number > 2_919; number--) expect(goTo(past, number)).toBeLessThanOrEqual(31);
    expect(goTo(past, 2_800)).toBeLessThanOrEqual(160);
    expect(goTo(past, 2_799)).toBeLessThanOrEqual(32);
    expect(goTo(past, 2_000)).toBeLessThanOrEqual(2_000 - 852);
    expect(goTo(past, 100)).toBeNull();
  });

  it('goes on from a mark that is nearer than where it stands', () => {
    const past = fresh();
    goTo(past, 2_900);
    expect(goTo(past, 900)).toBe(900 - 852);
    expect(goTo(past, 2_899)).toBe(31);
  });

  it('goes back step by step through a long record without playing it all again', () => {
    const past = fresh();
    goTo(past, LENGTH);
    let played = 0;
    for (let number = LENGTH - 1; number > 1_800; number--) played += goTo(past, number) ?? Number.POSITIVE_INFINITY;
    // Each step replays half of the shortest stretch, and now and then a longer one.
    expect(played).toBeLessThan(1_200 * 48);
  });
});
