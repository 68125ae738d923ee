import {
  type Fairness,
  type Given,
  type Header,
  headOf,
  isPlayed,
  type Row,
  replay,
  Table,
  verifyFairness,
  WATCHER,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, programOf, script, sheetText } from './support.js';

const SEED = '5f'.repeat(32);
const headerFor = (seats: string[], more: Partial<Header> = {}): Header => ({
  seats,
  seed: SEED,
  fair: { table: 'abcdefghijkm', sheet: 'a'.repeat(64), semantics: 2 },
  ...more,
});

/** Plays a sheet at random for so many steps, and gives its table again with its cards followed. */
function played(source: string, header: Header, steps: number): { table: Table; rows: Row[]; views: Table } {
  const program = programOf(source);
  const table = new Table(program, header);
  const rows: Row[] = [];
  for (let step = 0; step < steps && !table.isOver; step++) {
    const [seat = 0] = table.asked;
    const done = table.isPaused ? table.resume() : table.playAny(seat);
    if (done && isPlayed(done)) rows.push(done.row);
  }
  return { table, rows, views: replay(program, header, rows, { live: true, openings: true }) };
}
const given = (table: Table, viewer: number, isShown = false): Given => {
  const fairness = table.fairnessFor(viewer, isShown);
  if (!fairness) throw new Error('nothing is promised here');
  return JSON.parse(JSON.stringify(fairness)) as Given;
};

describe('promised shuffles', () => {
  const twenty = sheetText('lantern-twenty-one.motley');

  it('are followed card by card, and every card that was opened agrees', () => {
    const { views, table } = played(twenty, headerFor(['Wren', 'Otter']), 60);
    expect(views.digest()).toBe(table.digest());
    const fairness = given(views, 0);
    const { agrees, cards, checks } = verifyFairness(fairness);
    expect(checks.filter((check) => !check.agrees)).toEqual([]);
    expect(agrees).toBe(true);
    expect(cards.opened).toBeGreaterThan(10);
    expect(cards).toMatchObject({ agree: cards.opened, seenNotOpened: 0 });
    expect(fairness.whole).toBeUndefined();
    expect(JSON.stringify(fairness)).not.toContain(SEED);
  });

  it('are told before their cards move, as the roots of these very orders', () => {
    const source = script(
      'for n in 1..4 { gather all to stock  shuffle stock  deal 2 from stock to row  ask seats[1] { option go { } } } finish',
    );
    const header = headerFor(['Wren']);
    const { rows, views } = played(source, header, 10);
    const told: (string | null)[] = [];
    const note = (events: ReturnType<Table['opening']['for']>): void => {
      for (const event of events) if (event.kind === 'shuffled') told.push(event.commitment);
    };
    const again = new Table(programOf(source), header, { live: true });
    note(again.opening.for(WATCHER));
    replay(programOf(source), header, rows, { live: true, seen: (done) => note(done.stepEvents.for(WATCHER)) });
    expect(told).toHaveLength(4);
    expect(new Set(told).size).toBe(4);
    expect(given(views, 0).shuffles.map(({ root }) => root)).toEqual(told);
  });

  it('show all orders with the seed, and agree with them, also in two packs', () => {
    const { views } = played(twenty, headerFor(['Wren', 'Otter'], { settings: { decks: 2, rounds: 30 } }), 400);
    const fairness = given(views, WATCHER, true);
    expect(fairness.whole?.seed).toBe(SEED);
    const verdict = verifyFairness(fairness);
    expect(verdict.checks.filter((check) => !check.agrees)).toEqual([]);
    expect(verdict.isWhole).toBe(true);
  });

  it('do not open cards that came by way of another hand, nor those that were never seen', () => {
    const source = script(
      `gather all to stock  shuffle stock  deal 3 each from stock to hand
       ask seats[1] { option go { } }
       let c = deal 1 from stock to row
       ask seats[1] { option go { } }
       move first(seats[2].hand) to row  ask seats[1] { option go { } } finish`,
    );
    const { views } = played(source, headerFor(['Wren', 'Otter']), 2);
    const places = (viewer: number): number => given(views, viewer).cards.length;
    // Wren: three of the own hand, the card that was dealt openly; what Otter laid is seen, and not opened.
    expect(places(0)).toBe(4);
    expect(given(views, 0).seenNotOpened).toBe(1);
    // Otter held that card, and so knows its place.
    expect(places(1)).toBe(4);
    expect(given(views, 1).seenNotOpened).toBe(0);
    expect(places(WATCHER)).toBe(1);
    expect(given(views, WATCHER).seenNotOpened).toBe(1);
    const own = new Set(given(views, 1).cards.map(({ face }) => face));
    for (const { face } of given(views, 0).cards.slice(0, 3))
      if (own.has(face)) expect(given(views, WATCHER).cards.map((card) => card.face)).toContain(face);
  });

  it('tell in no opening what its viewer has not seen, on every bundled sheet', () => {
    for (const file of bundledSheets()) {
      const source = sheetText(file);
      const program = programOf(source);
      const seats = ['Wren', 'Otter', 'Heron', 'Pike', 'Teal', 'Newt'].slice(
        0,
        Math.min(...program.seats.filter((n) => n > 1), 6) || 1,
      );
      const names = program.seats.includes(seats.length) ? seats : seats.slice(0, Math.min(...program.seats));
      const { views, table, rows } = played(source, headerFor(names), 25);
      expect(views.digest(), file).toBe(table.digest());
      for (const viewer of [0, names.length - 1, WATCHER]) {
        const fairness = given(views, viewer);
        expect(
          verifyFairness(fairness).checks.filter((check) => !check.agrees),
          file,
        ).toEqual([]);
        const seen = new Set<string>();
        const again = new Table(program, headerFor(names), { live: true });
        const note = (events: ReturnType<Table['opening']['for']>): void => {
          for (const event of events)
            if ('face' in event && event.face)
              seen.add(event.face.replace('♠', 'S').replace('♥', 'H').replace('♦', 'D').replace('♣', 'C'));
        };
        note(again.opening.for(viewer));
        replay(program, headerFor(names), rows, {
          live: true,
          seen: (done) => note(done.stepEvents.for(viewer)),
        });
        for (const { face } of fairness.cards)
          if (!face.startsWith('JK')) expect(seen.has(face), `${file}: ${face}`).toBe(true);
      }
    }
  }, 60_000);

  it('are found out where anything was tampered with', () => {
    const { views } = played(twenty, headerFor(['Wren', 'Otter']), 60);
    const honest = given(views, 0, true);
    const wrong = (change: (copy: { -readonly [K in keyof Given]: Given[K] }) => void): string => {
      const copy = JSON.parse(JSON.stringify(honest)) as Given;
      change(copy);
      const { agrees, checks } = verifyFairness(copy);
      return agrees ? 'agrees' : (checks.find((check) => !check.agrees)?.wrong ?? '');
    };
    expect(wrong(() => {})).toBe('agrees');
    const [first] = honest.cards;
    if (!first) throw new Error('no card was opened');
    const other = first.face === 'AS' ? 'KH' : 'AS';
    expect(
      wrong((copy) => {
        copy.cards = [{ ...first, face: other }];
      }),
    ).toContain(`${other} at place ${first.place}`);
    expect(
      wrong((copy) => {
        copy.cards = [{ ...first, place: first.place === 1 ? 2 : first.place - 1 }];
      }),
    ).toMatch(/was not promised|not that of this place/);
    expect(
      wrong((copy) => {
        copy.cards = [{ ...first, path: first.path.slice(1) }];
      }),
    ).toContain('not that of this place');
    expect(
      wrong((copy) => {
        copy.cards = [{ ...first, salt: 'no salt' }];
      }),
    ).toContain('cannot be read');
    expect(
      wrong((copy) => {
        copy.cards = [{ ...first, shuffle: 99 }];
      }),
    ).toContain('no such shuffle');
    expect(
      wrong((copy) => {
        copy.facts = { ...copy.facts, settings: { ...copy.facts.settings, decks: 1 } };
      }),
    ).toContain('not those that the promises are about');
    expect(
      wrong((copy) => {
        copy.commitment = '0'.repeat(64);
      }),
    ).not.toBe('agrees');
    expect(
      wrong((copy) => {
        copy.whole = { seed: '1'.repeat(64), orders: copy.whole?.orders ?? [] };
      }),
    ).toContain('not the one that was promised');
    expect(
      wrong((copy) => {
        copy.shuffles = copy.shuffles.map((one) => ({ ...one, root: '0'.repeat(64) }));
      }),
    ).not.toBe('agrees');
    expect(
      wrong((copy) => {
        copy.whole = { seed: SEED, orders: (copy.whole?.orders ?? []).map((order) => [...order].reverse()) };
      }),
    ).toContain('not the one that the seed gives');
    expect(headOf(honest)).toMatch(/^[a-z2-7]{26}$/);
    expect(headOf({ ...honest, commitment: '0'.repeat(64) })).not.toBe(headOf(honest));
  });

  it('leave tables that promise nothing as they were', () => {
    const program = programOf(twenty);
    const plain: Header = { seats: ['Wren'], seed: SEED };
    expect(new Table(program, plain, { live: true, openings: true }).fairnessFor(0, true)).toBeNull();
    const table: Fairness | null = new Table(program, headerFor(['Wren']), { live: true }).fairnessFor(0, true);
    expect(table).toBeNull();
  });
});
