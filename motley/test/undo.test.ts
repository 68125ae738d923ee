import {
  below,
  drawChoice,
  Fault,
  type Header,
  isPlayed,
  OPEN,
  type PileView,
  quickChance,
  REGULARS,
  type Row,
  replay,
  Table,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, choose, openTable, programOf, script, sheetText } from './support.js';

const SEATS = { seats: ['Wren', 'Otter'] };
/** Two seats in turn move a card that lies face up, or draw one that nobody has seen. */
const TURNS = script(
  `deal 4 from pack to row deal 2 each from pack to hand
   repeat { for each s in seats { ask s {
     option lay(c: card in row) { move c to stock face up }
     option draw { deal 1 from pack to s.hand }
     option peek { turn up pack }
     option whisper { tell s "The pack holds {size(pack)}." }
     option mix { shuffle pack }
     option stop { finish }
   } } }`,
);

const rowsOf = (table: Table, plays: readonly [number, string, Record<string, unknown>?][]): Row[] =>
  plays.map(([seat, option, args]) => choose(table, seat, option, args ?? {}).row);
const open = (header: Partial<Header> = {}): Table => openTable(TURNS, { ...SEATS, ...header });

describe('taking back a choice', () => {
  it('leads back to the state before, under a new number, and is a choice of the record', () => {
    const table = open();
    const before = table.view(0);
    choose(table, 0, 'lay', { c: 'row#1' });
    expect(table.view(0).undo).toBe(true);
    expect(table.view(1).undo).toBe(false);
    const undone = choose(table, 0, 'undo');
    expect(undone.row).toMatchObject({ number: 2, seat: 1, by: 'person', option: 'undo', args: {} });
    expect({ ...table.view(0), number: 0, waiting: before.waiting }).toEqual(before);
    expect(table.openAsk).toBe(2);
  });

  it('tells where every card went, and says so in words', () => {
    const table = open();
    choose(table, 0, 'lay', { c: 'row#4' });
    const undone = choose(table, 0, 'undo');
    expect(undone.stepEvents.for(1)).toMatchObject([
      { kind: 'chosen', seat: 1, option: 'undo' },
      { kind: 'moved', from: 'stock', to: 'row', face: '10♣', fromPlace: 1, toPlace: 4 },
    ]);
    expect(table.lines(undone.stepEvents, 2, 1).map((line) => line.text)).toEqual(['Wren takes back the last choice.']);
    expect(table.lines(undone.stepEvents, 2, 0).map((line) => line.text)).toEqual(['You take back the last choice.']);
  });

  it.each(['draw', 'peek', 'whisper', 'mix'])(
    'is refused after a choice that told somebody something: %s',
    (option) => {
      const table = open();
      choose(table, 0, option);
      expect(table.view(0).undo).toBe(false);
      const refused = table.choose(0, { ask: table.openAsk, option: 'undo' });
      expect(refused).toMatchObject({ kind: 'illegal', reason: expect.stringContaining('nothing to take back') });
      expect(table.number).toBe(1);
    },
  );

  it('is for the seat that chose, until another has chosen', () => {
    const table = open();
    choose(table, 0, 'lay', { c: 'row#1' });
    expect(table.choose(1, { ask: table.openAsk, option: 'undo' })).toMatchObject({ kind: 'illegal' });
    choose(table, 1, 'lay', { c: 'row#1' });
    expect(table.choose(0, { ask: table.openAsk, option: 'undo' })).toMatchObject({ kind: 'illegal' });
    expect(isPlayed(table.choose(1, { ask: table.openAsk, option: 'undo' }))).toBe(true);
  });

  it('is stale where the question was another one', () => {
    const table = open();
    choose(table, 0, 'lay', { c: 'row#1' });
    expect(table.choose(0, { ask: 0, option: 'undo' })).toMatchObject({ kind: 'stale' });
  });

  it('goes back choice by choice, past new cards too, where the sheet says "undo free"', () => {
    const program = programOf(sheetText('weir-patience.motley'));
    const table = new Table(program, { seats: ['Wren'], seed: 'weir' });
    const start = table.view(OPEN);
    const rows = rowsOf(table, [
      [0, 'turnOver'],
      [0, 'turnOver'],
      [0, 'turnOver'],
    ]);
    for (let i = 0; i < 3; i++) rows.push(choose(table, 0, 'undo').row);
    expect(table.view(OPEN).piles).toEqual(start.piles);
    expect(table.view(0).undo).toBe(false);
    const again = replay(program, table.header, rows);
    expect(again.digest()).toBe(table.digest());
  });

  it('can itself be taken back by the table where it could not be kept', () => {
    const table = open();
    choose(table, 0, 'lay', { c: 'row#1' });
    const moved = table.digest();
    choose(table, 0, 'undo');
    table.takeBack();
    expect(table.digest()).toBe(moved);
    expect(isPlayed(table.choose(0, { ask: table.openAsk, option: 'undo' }))).toBe(true);
  });
});

describe.each(bundledSheets())('choices of %s that are taken back at random', (sheet) => {
  it('leave a record that leads to the same state, with every card in its place', () => {
    const program = programOf(sheetText(sheet));
    const seats = REGULARS.slice(0, program.seats.at(-1));
    const generator = quickChance(7).stream('undo', 0);
    const table = new Table(program, { seats, seed: 'undo' });
    const rows: Row[] = [];
    const everyCard = table.game.layout.faces.length;
    while (!table.isOver && rows.length < 80) {
      const able = table.game.rt.seats.find((seat) => table.mayUndo(seat));
      if (able !== undefined && below(generator, 3) === 0) rows.push(choose(table, able, 'undo').row);
      else if (table.isPaused) rows.push(table.resume().row);
      else {
        const seat = table.asked[0] as number;
        const answer = drawChoice(table.game, table.state, seat, generator);
        if (!answer) throw new Error('nothing can be chosen');
        rows.push(table.carryOut(seat, answer, 'person').row);
      }
      expect(new Set(table.game.layout.piles.flatMap((_, p) => table.game.rt.pileCards(table.state, p))).size).toBe(
        everyCard,
      );
    }
    expect(replay(program, table.header, rows).digest()).toBe(table.digest());
  });
});

describe('a table that branches off another', () => {
  const PLAYED: [number, string, Record<string, unknown>?][] = [
    [0, 'lay', { c: 'row#1' }],
    [1, 'draw'],
    [0, 'peek'],
    [1, 'draw'],
  ];
  const branch = (number: number, redeal: string): { table: Table; parent: Table } => {
    const parent = open();
    const rows = rowsOf(parent, PLAYED);
    const program = programOf(TURNS);
    const header: Header = { ...parent.header, branches: [{ number, redeal }] };
    return {
      parent: replay(program, parent.header, rows.slice(0, number)),
      table: replay(program, header, rows.slice(0, number)),
    };
  };

  it.each([0, 1, 2])('deals anew what nobody has seen at number %i, and nothing else', (number) => {
    const { table, parent } = branch(number, 'other');
    for (const seat of [0, 1]) expect(table.view(seat)).toEqual({ ...parent.view(seat), undo: false });
    const faces = (t: Table) => [...((t.view(OPEN).piles.pack as PileView).cards ?? [])];
    expect(faces(table)).not.toEqual(faces(parent));
    expect([...faces(table)].sort()).toEqual([...faces(parent)].sort());
  });

  it('leaves what was seen, though it lies face down again', () => {
    const text = script('turn up pack turn down pack ask seats[1] { option go { } } finish');
    const parent = openTable(text);
    const table = replay(programOf(text), { ...parent.header, branches: [{ number: 0, redeal: 'other' }] }, []);
    expect(table.view(OPEN)).toEqual(parent.view(OPEN));
  });

  it('shows its seats no more than the other table does, though it keeps what they have seen', () => {
    const text = script(
      'turn up pack deal 3 from pack to row face up move all from row to stock face down ask seats[1] { option go when size(stock) == 3 { } }',
      'layout { pack . stock   note worth on stock }   def worth(h: cards) = sum(h, c => c.pips)',
    );
    const parent = openTable(text);
    const branches = [{ number: 0, redeal: 'other' }];
    const table = replay(programOf(text), { ...parent.header, branches }, []);
    expect(parent.view(0).notes).toEqual({});
    expect(table.view(0)).toEqual(parent.view(0));
  });

  it('leads back to nothing that lay otherwise before it', () => {
    const { table, parent } = branch(1, 'other');
    expect(parent.view(0).undo).toBe(true);
    expect(table.view(0).undo).toBe(false);
    expect(table.choose(0, { ask: table.openAsk, option: 'undo' })).toMatchObject({ kind: 'illegal' });
  });

  it('may branch off again', () => {
    const { table, parent } = branch(1, 'other');
    const rows = [...rowsOf(open(), PLAYED.slice(0, 1)), ...rowsOf(table, PLAYED.slice(1, 2))];
    const branches = [...(table.header.branches ?? []), { number: 2, redeal: 'third' }];
    const again = replay(programOf(TURNS), { ...parent.header, branches }, rows);
    expect(again.view(1)).toEqual(table.view(1));
    expect(again.view(OPEN)).not.toEqual(table.view(OPEN));
  });

  it('shuffles otherwise from then on, and replays', () => {
    const { table, parent } = branch(2, 'other');
    const rows = rowsOf(parent, []).concat(rowsOf(table, [[0, 'mix']]));
    choose(parent, 0, 'mix');
    expect(table.view(OPEN)).not.toEqual(parent.view(OPEN));
    const first = open();
    const kept = [...rowsOf(first, PLAYED.slice(0, 2)), ...rows];
    expect(replay(programOf(TURNS), table.header, kept).digest()).toBe(table.digest());
  });

  it('stops where a rule of the sheet no longer holds for the new cards', () => {
    const text = script('ask seats[1] { option go { } } finish', 'always "the king lies on top" top(pack) is "K♣"');
    const parent = openTable(text);
    expect(() => replay(programOf(text), { ...parent.header, branches: [{ number: 0, redeal: 'other' }] }, [])).toThrow(
      Fault,
    );
  });
});

describe('what was said', () => {
  const peeking = (say: string): string => `game "Peek and Go Back" for 1 seat {
    deck standard
    pile stock face down
    play {
      shuffle pack
      move all from pack to stock
      repeat { ask seats[1] { option peek { ${say} } option stop { finish } } }
    }
  }`;
  const mayTakeBack = (say: string): boolean => {
    const table = openTable(peeking(say));
    choose(table, 0, 'peek');
    return table.mayUndo(0);
  };

  it('of hidden cards is not taken back: whoever heard it knows more', () => {
    expect(mayTakeBack('say "It is {top(stock).color}."')).toBe(false);
    expect(mayTakeBack('if top(stock).color == red { say "Warm." } else { say "Cold." }')).toBe(false);
    expect(mayTakeBack('chapter "After {top(stock).rank}"')).toBe(false);
  });

  it('of hidden cards, and taken back under an earlier release, is played again', () => {
    const table = openTable(peeking('say "It is {top(stock).color}."'));
    choose(table, 0, 'peek');
    const undo = { ask: table.openAsk, option: 'undo' };
    expect(table.choose(0, undo)).toMatchObject({ reason: expect.stringContaining('heard of a hidden one since') });
    expect(table.replaying(() => table.choose(0, undo))).toHaveProperty('row');
  });

  it('of nothing that is hidden may be taken back as ever', () => {
    expect(mayTakeBack('say "Wren looks around."')).toBe(true);
    expect(mayTakeBack('say "{size(stock)} are left."')).toBe(true);
  });
});
