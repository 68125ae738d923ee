import {
  drawChoice,
  Found,
  faceText,
  isPlayed,
  type Json,
  OPEN,
  type Played,
  patchText,
  quickChance,
  type Row,
  redeal,
  Table,
  WATCHER,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { inLong, programOf, sheetText } from './support.js';

/** Games of each sheet. */
const GAMES = inLong(125, 8);
const STEPS = 60;

/** Games in which much stays unseen, and whose script does nothing by itself that hidden cards decide. */
const SHEETS: [string, string[], Record<string, number>][] = [
  ['long-pot', ['Wren', 'Otter', 'Heron', 'Pike'], { handLimit: 3 }],
  ['thorn-and-lady', ['Wren', 'Otter', 'Heron', 'Pike'], {}],
  ['cold-lock-draw', ['Wren', 'Otter', 'Heron'], { handLimit: 2 }],
  ['lantern-twenty-one', ['Wren', 'Otter'], { rounds: 6 }],
];

/**
 * What one viewer of a table receives of each step: the view, the patch that leads there, the events and the
 * sentences. All others are told first, and share what they may know alike.
 */
function receiver(table: Table, viewer: number): (played: Played | null) => string {
  const others = [OPEN, WATCHER, ...table.header.seats.map((_, seat) => seat)].filter((other) => other !== viewer);
  const last = new Map<number, Json>();
  return (played) => {
    const look = table.snapshot();
    const tale = table.report(played?.stepEvents ?? table.opening, table.number);
    const found = new Found();
    const told = [...others, viewer].map((each) => {
      const view = look(each);
      const patch = patchText(last.get(each) ?? null, view as unknown as Json, found);
      last.set(each, view as unknown as Json);
      return JSON.stringify([view, patch, tale.for(each), played?.scores]);
    });
    return told.at(-1) as string;
  };
}

interface Playing {
  readonly rows: Row[];
  readonly received: string[];
  /** Cards whose face the viewer saw at any time. */
  readonly seen: Set<number>;
}

/** The cards whose face a viewer sees now, or saw in the step: those that moved or were shown to it. */
function seenNow(table: Table, played: Played | null, viewer: number): Set<number> {
  const { game } = table;
  const passed = new Set(
    (played?.stepEvents ?? table.opening).for(viewer).map((event) => ('face' in event ? event.face : null)),
  );
  const seen = new Set<number>();
  for (const [c, face] of game.layout.faces.entries())
    if (game.rt.sees(table.state, c, viewer) || passed.has(faceText(face))) seen.add(c);
  return seen;
}

/** Plays at random, and keeps what the viewer received. */
function play(table: Table, viewer: number, seed: number): Playing {
  const generator = quickChance(seed).stream('leaks', 0);
  const kept: Playing = { rows: [], received: [], seen: new Set() };
  const received = receiver(table, viewer);
  const look = (played: Played | null): void => {
    kept.received.push(received(played));
    for (const c of seenNow(table, played, viewer)) kept.seen.add(c);
  };
  look(null);
  const most = 5 + (seed % STEPS);
  while (!table.isOver && kept.rows.length < most) {
    let played: Played;
    if (table.isPaused) played = table.resume();
    else {
      const answer = drawChoice(table.game, table.state, table.asked[0] as number, generator);
      if (!answer) break;
      played = table.carryOut(table.asked[0] as number, answer, 'person');
    }
    kept.rows.push(played.row);
    look(played);
  }
  return kept;
}

/**
 * Carries the same choices out again. Stops where one of them is not open any more, and where the rules show a
 * card that was never shown the first time, as a better hand is at the end: from there on it is another game.
 */
function follow(table: Table, { rows, seen }: Playing, viewer: number): string[] {
  const received = receiver(table, viewer);
  const texts = [received(null)];
  for (const row of rows) {
    const played =
      row.by === 'table'
        ? table.isPaused
          ? table.resume()
          : null
        : table.choose((row.seat ?? 1) - 1, { ask: row.ask, option: row.option, args: row.args });
    if (played === null || !isPlayed(played)) return texts;
    if ([...seenNow(table, played, viewer)].some((c) => !seen.has(c))) return texts;
    texts.push(received(played));
  }
  return texts;
}

describe.each(SHEETS)('what a viewer receives in %s', (sheet, seats, settings) => {
  it('is the same, byte for byte, whatever the cards are that it never sees', () => {
    const program = programOf(sheetText(`${sheet}.motley`));
    let compared = 0;
    let moved = 0;
    for (let game = 0; game < GAMES; game++) {
      const header = { seats, settings, seed: `leaks ${game}` };
      for (const viewer of [game % seats.length, WATCHER]) {
        const first = play(new Table(program, header), viewer, game);
        const second = new Table(program, header);
        const before = [...second.state.cards];
        redeal(second.game, second.state, quickChance(game).stream('other', 0), (c) => !first.seen.has(c));
        if (second.state.cards.some((c, i) => c !== before[i])) moved++;
        const texts = follow(second, first, viewer);
        expect(texts).toEqual(first.received.slice(0, texts.length));
        compared += texts.length;
      }
    }
    // Cards did lie otherwise, and the games did not end at once.
    expect(moved).toBeGreaterThan(GAMES);
    expect(compared).toBeGreaterThan(GAMES * 2 * 8);
  });
});

describe('the comparison', () => {
  it('finds a sheet that tells too much', () => {
    const leaky = programOf(`game "Leaky" for 2 seats { deck standard pile hand of each seat private
      play { shuffle pack deal 3 each from pack to hand ask seats[1] { option go { say "{sum(seats[2].hand, c => c.pips)}" } } finish } }`);
    const header = { seats: ['Wren', 'Otter'], seed: 'leaky' };
    const first = play(new Table(leaky, header), 0, 1);
    const second = new Table(leaky, header);
    redeal(second.game, second.state, quickChance(1).stream('other', 0), (c) => !first.seen.has(c));
    expect(first.seen.size).toBe(3);
    expect(follow(second, first, 0)).not.toEqual(first.received);
  });
});
