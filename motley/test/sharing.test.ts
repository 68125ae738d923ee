import {
  drawChoice,
  Found,
  type Json,
  OPEN,
  type Played,
  quickChance,
  replayRow,
  StepEvents,
  Table,
  type View,
  WATCHER,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, choose, openTable, patchOf, programOf, script, sheetText } from './support.js';

const STEPS = 40;
const json = (value: unknown): Json => value as Json;

/** Goes on by one random choice, or by the end of a pause. */
function goOn(table: Table, generator: ReturnType<ReturnType<typeof quickChance>['stream']>): Played | null {
  if (table.isOver) return null;
  if (table.isPaused) return table.resume();
  const seat = table.asked[0] as number;
  const answer = drawChoice(table.game, table.state, seat, generator, false);
  return answer ? table.carryOut(seat, answer, 'person') : null;
}

describe('several viewers who are told together', () => {
  it.each(bundledSheets())('of %s are told what each is told alone', (file) => {
    const program = programOf(sheetText(file));
    const count = program.seats.find((n) => n >= 3) ?? program.seats.at(-1);
    const seats = Array.from({ length: count ?? 1 }, (_, i) => `Guest ${i + 1}`);
    const header = { seats, seed: `sharing ${file}` };
    const table = new Table(program, header);
    const viewers = [OPEN, WATCHER, ...seats.map((_, seat) => seat)];
    // A table of his own for each, at which nobody else looks.
    const alone = new Map(viewers.map((viewer) => [viewer, new Table(program, header)]));
    const last = new Map<number, View>();
    const generator = quickChance(7).stream('sharing', 0);
    for (let i = 0; i < STEPS; i++) {
      const played = goOn(table, generator);
      if (!played) break;
      // Whoever comes first is another one each time.
      const inTurn = viewers.map((_, n) => viewers[(n + i) % viewers.length] as number);
      const look = table.snapshot();
      const tale = table.report(played.stepEvents, table.number);
      const found = new Found();
      for (const viewer of inTurn) {
        const single = alone.get(viewer) as Table;
        const own = replayRow(single, played.row);
        const view = look(viewer);
        expect(view).toEqual(single.view(viewer));
        expect(tale.for(viewer)).toEqual({
          events: own.stepEvents.for(viewer),
          lines: single.lines(own.stepEvents, single.number, viewer),
        });
        const before = last.get(viewer);
        if (before) expect(patchOf(before, view, found)).toEqual(patchOf(before, view));
        last.set(viewer, view);
      }
      const kept = new StepEvents(table.game, JSON.parse(JSON.stringify(played.stepEvents)));
      for (const viewer of viewers) expect(kept.for(viewer)).toEqual(played.stepEvents.for(viewer));
    }
    expect(table.number).toBeGreaterThan(0);
  });

  const DRAWING = script(
    `deal 1 each from pack to hand
     repeat { for each s in seats { ask s {
       option draw { deal 1 from pack to s.hand }
       option lay { move top(s.hand) to row }
       option hint { tell s "It is {s.hand}." }
       option stop { finish }
     } } }`,
  );
  const SEATS = { seats: ['Wren', 'Otter', 'Heron'] };

  it('get the very same objects where they may know the same', () => {
    const table = openTable(DRAWING, SEATS);
    const shown = choose(table, 0, 'lay');
    const open = table.report(shown.stepEvents, 1);
    // Nobody but Wren is spoken to; the card was Wren's alone until all saw it.
    expect(open.for(1).events).toBe(open.for(0).events);
    expect(open.for(2)).toEqual(open.for(WATCHER));
    expect(open.for(2).lines).toBe(open.for(WATCHER).lines);
    expect(open.for(0).lines).not.toBe(open.for(1).lines);
    const drawn = choose(table, 1, 'draw');
    const secret = table.report(drawn.stepEvents, 2);
    expect(secret.for(0).events).toBe(secret.for(2).events);
    expect(secret.for(1).events).not.toBe(secret.for(2).events);
    expect(JSON.stringify(secret.for(0))).not.toMatch(/[♣♦♥♠]/);
    expect(JSON.stringify(secret.for(1))).toMatch(/[♣♦♥♠]/);
    const told = choose(table, 2, 'hint');
    const hint = table.report(told.stepEvents, 3);
    expect(hint.for(2).events.map((event) => event.kind)).toEqual(['chosen', 'told']);
    expect(hint.for(0).events.map((event) => event.kind)).toEqual(['chosen']);
    expect(hint.for(WATCHER).events).toBe(hint.for(1).events);
  });

  it('share figures that all may see, and keep those to a seat that are its own, whoever looks first', () => {
    const ask = 'for each s in seats { s.plan = s.plan + 1 ask s { option go { } } }';
    const plans = (privacy: string, viewers: readonly number[]): unknown[] => {
      const look = openTable(script(ask, `${privacy} var plan of each seat: int = 6 "plan"`), SEATS).snapshot();
      const views = new Map(viewers.map((viewer) => [viewer, look(viewer)]));
      return [0, 1, OPEN, WATCHER].map((viewer) => views.get(viewer)?.seats.map(({ values }) => values.plan));
    };
    for (const viewers of [
      [OPEN, WATCHER, 0, 1],
      [1, WATCHER, OPEN, 0],
    ]) {
      expect(plans('private', viewers)).toEqual([
        [7, undefined, undefined],
        [undefined, 6, undefined],
        [7, 6, 6],
        [undefined, undefined, undefined],
      ]);
      expect(plans('', viewers)).toEqual(new Array(4).fill([7, 6, 6]));
    }
  });

  it('share what is alike in their views, whoever looks first, and the changes in it', () => {
    const table = openTable(DRAWING, SEATS);
    const before = table.snapshot();
    const was = [0, 1, 2, WATCHER].map((viewer) => before(viewer));
    choose(table, 0, 'draw');
    const after = table.snapshot();
    const [wren, otter, heron, watching] = [0, 1, 2, WATCHER].map((viewer) => after(viewer)) as [
      View,
      View,
      View,
      View,
    ];
    expect(heron.seats).toBe(watching.seats);
    expect(heron.waiting).toBe(otter.waiting);
    expect(heron.offers).toBe(watching.offers);
    const hand = (view: View, seat: number): unknown => (view.piles.hand as Record<string, unknown>)[seat];
    expect(hand(heron, 1)).toBe(hand(watching, 1));
    expect(hand(heron, 1)).not.toBe(hand(wren, 1));
    expect(hand(heron, 3)).not.toBe(hand(watching, 3));
    const found = new Found();
    patchOf(was[2], heron, found);
    expect(found.between(json(was[3]?.waiting), json(watching.waiting), '/waiting')).toContain('"/waiting/seats/0"');
  });

  it('are told what was found for others, wherever they have it too', () => {
    const [before, after] = [{ size: 1 }, { size: 2 }];
    const found = new Found();
    found.keep(before, after, '/a', '{"op":"remove","path":"/found"}');
    expect(patchOf({ a: before, n: 1 }, { a: after, n: 2 }, found)).toEqual([
      { op: 'remove', path: '/found' },
      { op: 'replace', path: '/n', value: 2 },
    ]);
  });

  it.each([
    ['a seat first', [1, WATCHER, 0, OPEN]],
    ['the open eyes first', [OPEN, 0, WATCHER, 1]],
  ])(
    'share all piles where these look the same to them, and a card turned to one seat is in its own: %s',
    (_, viewers) => {
      const table = openTable(
        script(
          'deal 1 from pack to row ask seats[1] { option peek { turn top(pack) to seats[2] } } ask seats[1] { option go { } }',
        ),
        SEATS,
      );
      const seenBy = (): Map<number, View['piles']> => {
        const look = table.snapshot();
        return new Map(viewers.map((viewer) => [viewer, look(viewer).piles]));
      };
      const before = seenBy();
      expect(before.get(0)).toBe(before.get(WATCHER));
      expect(before.get(0)).toBe(before.get(1));
      expect(before.get(0)?.pack).toEqual({ size: 51 });
      expect(before.get(OPEN)?.pack).toMatchObject({ size: 51, cards: expect.any(Array) });
      choose(table, 0, 'peek');
      const after = seenBy();
      expect(after.get(0)).toBe(after.get(WATCHER));
      expect(after.get(0)?.pack).toEqual({ size: 51 });
      expect(after.get(1)?.pack).toEqual({ size: 51, cards: [...new Array(50).fill(null), expect.any(String)] });
    },
  );

  it('are not taken for each other where the same part lies at two places', () => {
    const [one, two] = [{ size: 1 }, { size: 2 }];
    const found = new Found();
    expect(patchOf({ a: one }, { a: two }, found)).toEqual([{ op: 'replace', path: '/a/size', value: 2 }]);
    expect(patchOf({ b: one }, { b: two }, found)).toEqual([{ op: 'replace', path: '/b/size', value: 2 }]);
    expect(patchOf({ b: { size: 5 } }, { b: two }, found)).toEqual([{ op: 'replace', path: '/b/size', value: 2 }]);
  });
});
