import {
  below,
  Digests,
  drawChoice,
  Game,
  type Generator,
  isPlayed,
  OPEN,
  type Program,
  planOf,
  quickChance,
  ReplayError,
  type Row,
  replay,
  State,
  Table,
  type Value,
  WATCHER,
} from '@wily-jester/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { choose, inLong, lantern, openTable, programOf, script, sheetText } from './support.js';

const NAMES = ['Wren', 'Otter', 'Heron', 'Pike', 'Teal'];
const PROGRAM = lantern();
/** A game with private hands, seats that play cards, and nothing that depends on a hidden face. */
const TRADE = programOf(
  script(
    `shuffle pack  deal 4 each from pack to hand  move all from pack to stock
     for i in 1..3 { for each s in seats { turnOf(s) } }
     finish`,
    `routine turnOf(s: seat) {
       ask s {
         option lay(c: card in s.hand) needs c.color == red or size(s.hand) > 2 else "{c} stays in hand." { move c to row  say "{s} lays {c}." }
         option swap(c: card in s.hand) { move c to stock beneath  deal 1 from stock to s.hand  tell s "You drew {top(s.hand)}." }
         option wait { }
       }
     }`,
  ),
);

/** Insists that every card lies in exactly one pile, and that all books agree on which. */
function expectWhole(game: Game, state: State): void {
  let cards = 0;
  let right = true;
  const seen = new Uint8Array(game.layout.faces.length);
  for (let p = 0; p < game.layout.piles.length; p++)
    for (const c of game.rt.pileCards(state, p)) {
      cards++;
      right &&= seen[c] === 0 && state.where[c] === p;
      seen[c] = 1;
    }
  expect({ right, cards }).toEqual({ right: true, cards: game.layout.faces.length });
}

/** One random step of a bare game; `null` when it is over. */
function step(game: Game, state: State, generator: Generator): State | null {
  if (game.isPaused(state)) return game.resume(state);
  const asked = game.asked(state);
  if (asked.length === 0) return null;
  const seat = asked[below(generator, asked.length)] as number;
  const answer = drawChoice(game, state, seat, generator);
  if (!answer) throw new Error('no legal choice');
  return game.answer(state, seat, answer);
}

/** Plays at random until the game ends or so many choices were made. */
function playRandomly(table: Table, seed: number, most: number, after: (row: Row) => void = () => undefined): Row[] {
  const generator = quickChance(seed).stream('player', 0);
  const rows: Row[] = [];
  while (!table.isOver && rows.length < most) {
    let played: ReturnType<Table['resume']>;
    if (table.isPaused) played = table.resume();
    else {
      const seat = table.asked[below(generator, table.asked.length)] as number;
      const answer = drawChoice(table.game, table.state, seat, generator);
      if (!answer) throw new Error('no legal choice');
      played = table.carryOut(seat, answer, 'person');
    }
    rows.push(played.row);
    after(played.row);
  }
  return rows;
}

const header = (seed: number, seats = 1 + (seed % 5), rounds = 3) => ({
  seats: NAMES.slice(0, seats),
  settings: { rounds, decks: 2 },
  seed: `game ${seed}`,
});

const GAMES = inLong(2_500, 800);

describe('many random games', () => {
  it('keep every card in exactly one pile after every choice', () => {
    let choices = 0;
    let over = 0;
    for (let seed = 0; seed < GAMES; seed++) {
      const game = new Game(seed % 2 === 0 ? PROGRAM : TRADE, {
        seats: NAMES.slice(0, 1 + (seed % 4)),
        settings: seed % 2 === 0 ? { rounds: 2, decks: 2 } : {},
        chance: quickChance(seed),
      });
      const generator = quickChance(seed).stream('player', 0);
      let state = game.open();
      expectWhole(game, state);
      for (let i = 0; i < 60; i++) {
        const next = step(game, state, generator);
        if (!next) break;
        game.recycle(state);
        state = next;
        choices++;
        expectWhole(game, state);
      }
      if (game.asked(state).length === 0 && !game.isPaused(state)) over++;
    }
    expect(choices).toBeGreaterThan(8 * GAMES);
    expect(over).toBeGreaterThan(0.96 * GAMES);
  });

  it('replay to the same digests, and a changed record says where it differs', () => {
    for (let seed = 0; seed < 40; seed++) {
      const table = new Table(PROGRAM, header(seed));
      const rows = playRandomly(table, seed, 60);
      expect(replay(PROGRAM, header(seed), rows).digest()).toBe(table.digest());
      const at = Math.floor(rows.length / 2);
      const changed = rows.map((row, i) => (i === at ? { ...row, digest: '0'.repeat(32) } : row));
      const error = (() => {
        try {
          replay(PROGRAM, header(seed), changed);
          return undefined;
        } catch (thrown) {
          return thrown as ReplayError;
        }
      })();
      expect(error).toBeInstanceOf(ReplayError);
      expect(error?.number).toBe(at + 1);
    }
  });

  it('go on from a copy just as from the state itself', () => {
    fc.assert(
      fc.property(fc.nat(10_000), fc.integer({ min: 1, max: 30 }), (seed, stop) => {
        const table = new Table(TRADE, { seats: NAMES.slice(0, 3), seed: `copy ${seed}` });
        playRandomly(table, seed, stop % 9);
        if (table.isOver) return;
        const { game } = table;
        const digests = new Digests(game, new Uint8Array(32));
        const copy = table.state.copy();
        const pooled = new State(table.state.form).copyFrom(table.state);
        const generator = quickChance(seed).stream('next', 0);
        const seat = table.asked[0] as number;
        const answer = drawChoice(game, table.state, seat, generator);
        if (!answer) return;
        const before = digests.of(table.state);
        const after = [copy, pooled, table.state].map((state) => digests.of(game.answer(state, seat, answer)));
        expect(new Set(after).size).toBe(1);
        expect(digests.of(table.state)).toBe(before);
      }),
      { numRuns: 150 },
    );
  });

  it('can be rewound to any choice, and branched there', () => {
    const table = new Table(PROGRAM, header(5, 3));
    const digests: string[] = [table.digest()];
    const rows = playRandomly(table, 5, 40, (row) => digests.push(row.digest));
    for (const number of [0, 1, 7, rows.length - 1]) {
      const back = replay(PROGRAM, header(5, 3), rows.slice(0, number));
      expect(back.number).toBe(number);
      if (number > 0) expect(back.digest()).toBe(digests[number]);
      if (!back.isPaused) expect(playRandomly(back, 99, 5).length).toBeGreaterThan(0);
    }
  });

  it('take back the last step as if it had not been', () => {
    const table = new Table(PROGRAM, header(9, 2));
    playRandomly(table, 9, 11);
    const before = { digest: table.digest(), number: table.number };
    playRandomly(table, 10, 1);
    table.takeBack();
    expect({ digest: table.digest(), number: table.number }).toEqual(before);
    expect(() => table.takeBack()).toThrow(/no step/);
    playRandomly(table, 11, 5);
  });

  it('give other digests for other seeds, and the same for the same', () => {
    const digest = (seed: number): string => new Table(PROGRAM, header(seed, 2)).digest();
    expect(digest(2)).toBe(digest(2));
    expect(digest(2)).not.toBe(digest(7));
  });
});

/** Everything that a viewer of a game ever receives, as text. */
function received(
  program: Program,
  head: ReturnType<typeof header>,
  rows: readonly Row[],
  viewer: number,
  swap: Map<number, number>,
): string {
  const out: unknown[] = [];
  const all = relabel(program, head, swap);
  const look = (happened: Table['opening']): void => {
    out.push(all.view(viewer), happened.for(viewer), all.lines(happened, all.number, viewer));
    for (const option of ['lay', 'swap', 'hit', 'double'])
      out.push(all.choose(Math.max(0, viewer), { ask: -1, option, args: {} }));
  };
  look(all.opening);
  for (const row of rows) {
    if (row.by === 'table') look(all.resume().stepEvents);
    else {
      const result = all.choose((row.seat ?? 1) - 1, { ask: row.ask, option: row.option, args: row.args });
      if (!isPlayed(result)) throw new Error(result.reason);
      look(result.stepEvents);
    }
  }
  return JSON.stringify(out);
}

/** The same table on a deck whose faces are exchanged: card by card it runs the same, but for what the faces say. */
function relabel(program: Program, head: ReturnType<typeof header>, swap: Map<number, number>): Table {
  const plain = new Table(program, head);
  const faces = plain.game.layout.faces.map((face, i) => plain.game.layout.faces[swap.get(i) ?? i] ?? face);
  return new Table(
    { ...program, decks: [{ form: { kind: 'of', faces }, copies: null, jokers: null, when: null }] },
    head,
  );
}

/** Cards whose face a viewer saw at some time. */
function everSeen(
  program: Program,
  head: ReturnType<typeof header>,
  rows: readonly Row[],
  viewer: number,
): Set<number> {
  const NUMBERS_OF_AN_EVENT = 7;
  const seen = new Set<number>();
  const note = (table: Table): void => {
    for (let c = 0; c < table.game.layout.faces.length; c++)
      if (table.game.rt.sees(table.state, c, viewer)) seen.add(c);
  };
  const table = new Table(program, head);
  note(table);
  for (const row of rows) {
    if (row.by === 'table') table.resume();
    else table.choose((row.seat ?? 1) - 1, { ask: row.ask, option: row.option, args: row.args });
    const noted = table.game.trace.numbers();
    for (let at = 0; at < noted.length; at += NUMBERS_OF_AN_EVENT) {
      const [kind = 0, card = 0, , , from = 0, to = 0] = noted.slice(at, at + NUMBERS_OF_AN_EVENT);
      const bit = viewer === WATCHER ? 1 << 12 : 1 << viewer;
      if (kind <= 2 && ((from | to) & bit) !== 0) seen.add(card);
    }
    note(table);
  }
  return seen;
}

describe('what a viewer may not see', () => {
  it('changes no byte of its views, events, choices and refusals: private hands', () => {
    let swapped = 0;
    for (let seed = 0; seed < inLong(60, 20); seed++) {
      const head = { seats: NAMES.slice(0, 3), settings: {}, seed: `leak ${seed}` } as unknown as ReturnType<
        typeof header
      >;
      const table = new Table(TRADE, head);
      // Only choices that are legal whatever a hidden hand holds: which cards may be laid depends on their colour.
      const rows = playRandomly(table, seed, 9);
      for (const viewer of [0, 1, 2, WATCHER]) {
        const seen = everSeen(TRADE, head, rows, viewer);
        const { faces } = table.game.layout;
        const plain = received(TRADE, head, rows, viewer, new Map());
        const color = (c: number): number => (Math.floor(((faces[c] as number) - 1) / 13) % 3 === 0 ? 0 : 1);
        for (const shade of [0, 1]) {
          const hidden = faces.map((_, c) => c).filter((c) => !seen.has(c) && color(c) === shade);
          const swap = new Map(hidden.map((c, i) => [c, hidden[(i + 1 + (seed % 5)) % hidden.length] as number]));
          swapped += swap.size;
          expect(received(TRADE, head, rows, viewer, swap)).toBe(plain);
        }
      }
    }
    expect(swapped).toBeGreaterThan(1000);
  });

  it("changes no byte of its views, events, choices and refusals: the house's hole card", () => {
    for (let seed = 0; seed < inLong(40, 15); seed++) {
      const head = header(seed, 2, 1);
      const table = new Table(PROGRAM, head);
      const rows: Row[] = [];
      playRandomly(table, seed, 200, (row) => rows.push(row));
      // Up to the last choice before the house turns its card.
      const hidden = rows.slice(
        0,
        rows.findLastIndex((row) => row.by === 'person'),
      );
      for (const viewer of [0, 1, WATCHER]) {
        const seen = everSeen(PROGRAM, head, hidden, viewer);
        const unseen = table.game.layout.faces.map((_, c) => c).filter((c) => !seen.has(c));
        const swap = new Map(unseen.map((c, i) => [c, unseen[(i + 7) % unseen.length] as number]));
        expect(received(PROGRAM, head, hidden, viewer, swap)).toBe(received(PROGRAM, head, hidden, viewer, new Map()));
      }
    }
  });

  it('would be found by that test: a face that is seen does change what is received', () => {
    const head = header(3, 2, 1);
    const table = new Table(PROGRAM, head);
    const rows = ['bet', 'bet'].map((option, seat) => choose(table, seat, option, { amount: 10 }).row);
    const shown = table.game.rt.pileCards(
      table.state,
      table.game.layout.piles.findIndex((p) => p.path === 'hand/1'),
    );
    const visible = shown[0] ?? 0;
    const other = table.game.layout.faces.findIndex((face) => face !== table.game.layout.faces[visible]);
    const swap = new Map([
      [visible, other],
      [other, visible],
    ]);
    expect(received(PROGRAM, head, rows, 0, swap)).not.toBe(received(PROGRAM, head, rows, 0, new Map()));
  });

  it('is not in the record of an ask that others have not answered', () => {
    const table = new Table(PROGRAM, header(1, 2));
    table.choose(1, { ask: 0, option: 'bet', args: { amount: 50 } });
    for (const viewer of [0, WATCHER]) expect(JSON.stringify(table.view(viewer))).not.toContain('"bet":50');
    expect(table.view(OPEN).seats[1]?.values.bank as Value).toBe(200);
  });
});

describe('the generated code', () => {
  const sheets = ['lantern-twenty-one.motley'].map(sheetText);
  const WORDS = new Set(
    `use strict let const function return if else for of while switch case break continue default run true false null undefined NaN
     ops limit until ofStep pay here allow tooDear isTooDear movesLeft try catch finally error throw search bytes option legal pileMemo viewerPileMemo lastMemo CHANGES written past by floor stamp stamps costs cost since viewer state before next script init begin spent step answer expire resume options always needs bots botLines notes probes refills holds text when on label template domains
     k range values list from to by marks args prefer TEXTS WORDS EMPTY_MIN EMPTY_MAX dice toss choosable noChoice Math abs min max String Number
     length includes push map reverse slice pc s v of x n i found value asked seat given end p at refs f len start cards where facing cap
     deal1 dealN dealAll dealEach dealRound dealing stuck row c place touch grow moveWhole turnWhole way b
     racers orders cs least most params list items keys kind piles first set both count reversed beneath words pieces shapes cards piece parts
     agrees any walk left ceil g skip into looked r below a ask ways count draw D all drawingAmong moves asides open`.split(
      /\s+/,
    ),
  );
  const NAME =
    /^([fkw]?d\d+_\d+[svc]?|[fk]?h\d+[svc]?|q\d+|n\d+|t\d+|w\d+|p\d+|r\d+|l\d+|a\d|m\d+|end\d+|(from|to|by|many|k|i|g)\d|h\d+b\d)$/;

  it.each(sheets.map((source, i) => [i, source] as const))(
    'holds nothing but generated names, numbers and operators: sheet %i',
    (_, source) => {
      const table = new Table(programOf(source), { seats: ['Wren', 'Otter'], seed: 'x' });
      const { rt } = table.game;
      const known = new Set([...WORDS, ...Object.keys(rt), ...Object.keys(rt).map((name) => `$${name}`)]);
      const { source: code } = table.game.parts;
      const tokens =
        code.match(
          /"[^"]*"|[$A-Za-z_]\w*|\d+(?:\.\d+)?|=>|===|!==|[<>]=|&&|\|\||\?\?|\+\+|--|\.\.\.|[-+*/%]=|\|=|<<|\S/g,
        ) ?? [];
      expect(tokens.length).toBeGreaterThan(500);
      for (const token of tokens) {
        if (/^[$A-Za-z_]/.test(token)) expect(known.has(token) || NAME.test(token), token).toBe(true);
        else if (token.startsWith('"')) expect(['"use strict"', '"range"', '"values"']).toContain(token);
        else expect(/^(\d+(\.\d+)?|[-+*/%<>=!&|?:;,.(){}[\]]+)$/.test(token), token).toBe(true);
      }
    },
  );

  it('grows with the script, and no faster', () => {
    const size = (times: number): number =>
      openTable(script(`${'if size(row) > 9 { pause 1s } '.repeat(times)} finish`), { seats: ['Wren'] }).game.parts
        .source.length;
    expect(size(1200)).toBeLessThan(2.2 * size(600));
  });

  it('keeps texts of a sheet out of the code', () => {
    const table = new Table(programOf(script('say "\\"; process.exit(1); // {size(row)}" finish')), {
      seats: ['Wren'],
      seed: 'x',
    });
    expect(table.game.parts.source).not.toContain('process');
    expect(table.opening.for(-1)).toContainEqual({ kind: 'said', text: '"; process.exit(1); // 0' });
  });
});

describe('what is told of a step', () => {
  const told = (body: string, viewer: number): string[] => {
    const table = openTable(script(`deal 1 each from pack to hand ask seats[1] { ${body} } finish`), {
      seats: ['Wren', 'Otter'],
    });
    const { stepEvents } = choose(table, 0, 'take');
    return table.lines(stepEvents, 1, viewer).map((line) => line.text);
  };

  it('is the choice with what it brought, where the script says nothing', () => {
    const body = 'option take { deal 1 from pack to seats[1].hand }';
    expect(told(body, 0)).toEqual(['You take and get J♣.']);
    expect(told(body, 1)).toEqual(['Wren takes and gets a card.']);
  });

  it('is not said twice, where the script says of the seat what it does', () => {
    const body = 'option take { say "{seats[1]} takes from the pack." deal 1 from pack to seats[1].hand }';
    expect(told(body, 1)).toEqual(['Wren takes from the pack.', 'Wren gets a card.']);
  });

  it('keeps the cards that a viewer saw, though the script speaks of them after that', () => {
    const body = 'option take { deal 1 from pack to seats[1].hand say "{seats[1]} draws." }';
    expect(told(body, 0)).toEqual(['You take and get J♣.', 'Wren draws.']);
    expect(told(body, 1)).toEqual(['Wren draws.']);
  });

  it('keeps the choice, where the script speaks of something else', () => {
    expect(told('option take { say "The pack is cold." }', 1)).toEqual(['Wren takes.', 'The pack is cold.']);
  });
});

describe('the plan of a table', () => {
  it('says how the game orders ranks and suits, as hands are sorted', () => {
    const { ranks, suits } = planOf(programOf(sheetText('quay-stairs.motley')));
    expect([ranks[0], ranks.slice(-2), suits]).toEqual(['3', ['A', '2'], ['♦', '♣', '♥', '♠']]);
    const plain = planOf(programOf(sheetText('toll-gate.motley')));
    expect([plain.ranks.join(' '), plain.suits]).toEqual(['2 3 4 5 6 7 8 9 10 J Q K A', []]);
  });
  const faces = (deck: string): readonly string[] =>
    planOf(programOf(`game "Decks" for 1 seat { setting n: 0..4 = 0 "jokers" ${deck} play { finish } }`)).faces;
  it('names every face of the deck once, and all that may be in it', () => {
    expect(faces('deck standard copies 6')).toHaveLength(52);
    expect(faces('deck standard copies 6').slice(0, 2)).toEqual(['A♠', '2♠']);
    expect(faces('deck numbered 1..12')).toEqual(Array.from({ length: 12 }, (_, i) => String(i + 1)));
    expect(faces('deck standard with n jokers')).toHaveLength(54);
  });
});
