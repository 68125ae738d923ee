import {
  BUDGETS,
  drawChoice,
  Fault,
  isPlayed,
  meaningOf,
  type Program,
  quickChance,
  ReplayError,
  replay,
  SetupError,
  Table,
} from '@wily-jester/core';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { compileSheet, format } from '../src/index.js';
import { bundledSheets, inLong, sheetText } from './support.js';

/** How many programs are tried: more by command, `WILY_FUZZ=20000 npx vitest run motley/test/fuzz`. */
const RUNS = Number(process.env.WILY_FUZZ ?? inLong(500, 150));
/** So far each is played. */
const CHOICES = 40;

// ---- valid programs: statements and expressions by type, over names that are there

type Kind = 'int' | 'flag' | 'cards';

const VARS: Readonly<Record<Kind, readonly string[]>> = { int: ['n', 'm'], flag: ['f'], cards: ['kept'] };
const constant: Readonly<Record<Kind, readonly string[]>> = {
  int: ['0', '1', '2', '13', 'size(row)', 'size(pack)', 'score(seats[1])', 'seats[1].bank'],
  flag: ['yes', 'no', 'f'],
  cards: ['row', 'kept', 'first(row, 0)', 'first(pack, 3)', 'seats[1].hand'],
};

const pick = (items: readonly string[]): fc.Arbitrary<string> => fc.constantFrom(...items);

let names = 0;
/** A form with a name of its own where it says `@`: nothing may be hidden by another of the same name. */
const own = (text: string): string => {
  const name = `x${names++}`;
  return text.replaceAll('@', name);
};

/** An expression of a type, at most so deep. @param isSeen reads no card that a seat may not see */
function expression(kind: Kind, depth: number, isSeen = false): fc.Arbitrary<string> {
  const leaves = [...constant[kind], ...VARS[kind]].filter((text) => !text.startsWith('score('));
  const leaf = pick(isSeen && kind === 'cards' ? ['row', 'first(row, 0)', 'first(row, 2)'] : leaves);
  if (depth === 0) return leaf;
  const of = (k: Kind): fc.Arbitrary<string> => expression(k, depth - 1, isSeen);
  const forms: Readonly<Record<Kind, readonly fc.Arbitrary<string>[]>> = {
    int: [
      fc.tuple(of('int'), pick(['+', '-', '*']), of('int')).map(([a, op, b]) => `(${a} ${op} ${b})`),
      of('int').map((a) => `(${a} / 3)`),
      of('cards').map((a) => `size(${a})`),
      of('cards').map((a) => own(`sum(${a}, @ => @.pips)`)),
      fc.tuple(of('cards'), of('int')).map(([a, b]) => own(`count(${a}, @ => @.pips > ${b})`)),
      fc.tuple(of('flag'), of('int'), of('int')).map(([a, b, c]) => `(if ${a} then ${b} else ${c})`),
      of('int').map((a) => `twice(${a})`),
    ],
    flag: [
      fc.tuple(of('int'), pick(['<', '>', '==', '!=', '<=']), of('int')).map(([a, op, b]) => `${a} ${op} ${b}`),
      fc.tuple(of('flag'), pick(['and', 'or']), of('flag')).map(([a, op, b]) => `(${a}) ${op} (${b})`),
      of('flag').map((a) => `not (${a})`),
      of('cards').map((a) => own(`any(${a}, @ => @.suit == hearts)`)),
    ],
    cards: [
      fc.tuple(of('cards'), of('int')).map(([a, b]) => own(`only(${a}, @ => @.pips != ${b})`)),
      fc.tuple(of('cards'), of('cards')).map(([a, b]) => `(${a} + ${b})`),
      of('cards').map((a) => own(`sorted(${a}, @ => @.pips)`)),
      fc.tuple(of('cards'), of('int')).map(([a, b]) => `last(${a}, ${b})`),
      of('cards').map((a) => `reversed(${a})`),
    ],
  };
  return fc.oneof(leaf, ...forms[kind]);
}

/** Statements, at most so deep; loops end. */
function statements(depth: number): fc.Arbitrary<string> {
  const e = (kind: Kind): fc.Arbitrary<string> => expression(kind, 2);
  const plain = [
    e('int').map((a) => `n = ${a}`),
    e('int').map((a) => `m += ${a}`),
    e('flag').map((a) => `f = ${a}`),
    e('cards').map((a) => `kept = ${a}`),
    e('int').map((a) => `seats[1].bank = ${a}`),
    e('int').map((a) => `score seats[1] += ${a}`),
    pick(['shuffle pack', 'move all from row to pack', 'deal up to 2 from pack to row', 'turn up row']),
    pick(['deal up to 1 from pack to seats[1].hand', 'move seats[1].hand to row', 'show row', 'addTo(2)']),
    e('int').map((a) => `say "{${a}} and {kept}"`),
    e('int').map((a) => `word = "{word} {${a}}"`),
    pick(['chapter "On"', 'tell seats[1] "{n}"', 'reset n, m', 'pause 1s']),
  ];
  if (depth === 0) return fc.oneof(...plain);
  const inner = fc.array(statements(depth - 1), { minLength: 1, maxLength: 3 }).map((all) => all.join('\n'));
  return fc.oneof(
    ...plain,
    fc.tuple(e('flag'), inner, inner).map(([a, b, c]) => `if ${a} { ${b} } else { ${c} }`),
    fc.tuple(fc.integer({ min: 1, max: 4 }), inner).map(([times, b]) => own(`for @ in 1..${times} { ${b} }`)),
    inner.map((b) => own(`for each @ in seats { ${b} }`)),
    fc.tuple(e('flag'), inner).map(([a, b]) => `m = 0 while m < 9 and (${a}) { m += 1 ${b} }`),
    fc.tuple(expression('flag', 1, true), expression('cards', 1, true), inner).map(([needs, list, b]) =>
      own(`ask seats[1] {
        option take@(@: card in row) needs ${needs} { move @ to pack ${b} }
        option count@(@k: 1..5) { n = @k }
        option some@(@cs: 1..2 cards in row) needs size(${list}) >= 0 { m += size(@cs) }
        option rest { }
      }`),
    ),
  );
}

const valid: fc.Arbitrary<string> = fc
  .tuple(
    fc.array(statements(2), { minLength: 1, maxLength: 5 }),
    expression('int', 2, true),
    expression('flag', 1, true),
  )
  .map(
    ([body, noted, guard]) => `game "Any Game" for 1 to 2 seats {
  deck standard copies 2
  pile row face up
  pile hand of each seat private
  var n = 0 "n"
  var m = 0
  var f: flag = no
  var kept: cards = []
  var word = ""
  var bank of each seat = 5 "bank"
  def twice(a: int) = a + a
  def noted = ${noted}
  routine addTo(a: int) { n += a }
  layout { row note noted on row }
  play {
    repeat {
      ask seats[1] { option go when (${guard}) or yes { } option stop aside { finish } }
      ${body.join('\n      ')}
    }
  }
}`,
  );

// ---- nearly valid ones: a few words dropped, doubled, swapped, or taken from elsewhere

const TOKEN = /"[^"\n]*"|[A-Za-z]\w*|\d+|\s+|[^\s\w]/g;
const OTHERS = [
  '0',
  '-1',
  '9007199254740993',
  'constructor',
  'toString',
  '{',
  '}',
  '(',
  'needs',
  '"',
  '{t}',
  'while',
  '..',
];
const sheets = bundledSheets().map((file) => sheetText(file));

const nearly: fc.Arbitrary<string> = fc
  .tuple(
    fc.oneof(fc.constantFrom(...sheets), valid),
    fc.array(fc.tuple(fc.nat(), fc.nat(), fc.constantFrom('drop', 'double', 'swap', 'other', 'foreign')), {
      minLength: 1,
      maxLength: 3,
    }),
  )
  .map(([text, edits]) => {
    const words = text.match(TOKEN) ?? [];
    for (const [a, b, how] of edits) {
      const i = a % words.length;
      const j = b % words.length;
      if (how === 'drop') words.splice(i, 1);
      else if (how === 'double') words.splice(i, 0, words[i] ?? '');
      else if (how === 'swap') [words[i], words[j]] = [words[j] ?? '', words[i] ?? ''];
      else if (how === 'other') words[i] = OTHERS[b % OTHERS.length] ?? '';
      else words[i] = (sheets[a % sheets.length]?.match(TOKEN) ?? [])[b % 400] ?? '';
    }
    return words.join('');
  });

// ---- what must hold of each

/** Plays a program at random with followers, and holds its record against itself. Gives how many choices were made. */
function played(program: Program): number {
  let table: Table;
  const header = { seats: ['Wren', 'Otter'].slice(0, program.seats[0]), seed: 'fuzz', settings: {} };
  try {
    table = new Table(program, header, { live: true });
  } catch (error) {
    if (error instanceof Fault || error instanceof SetupError) return 0;
    throw error;
  }
  const generator = quickChance(7).stream('fuzz', 0);
  const rows = [];
  try {
    for (let i = 0; i < CHOICES && !table.isOver; i++) {
      const [seat] = table.asked;
      let step: ReturnType<Table['choose']> | null = null;
      if (seat === undefined) step = table.isPaused ? table.resume() : null;
      else {
        const answer = drawChoice(table.game, table.state, seat, generator, false);
        step = answer ? table.carryOut(seat, answer, 'person') : null;
      }
      if (step === null || !isPlayed(step)) break;
      rows.push(step.row);
      expect(table.game.code.spent()).toBeLessThan(2 * BUDGETS.step);
      // Telling cannot fail: everything that it needs was worked out within the step.
      for (const viewer of [-2, -1, 0]) {
        JSON.stringify(table.view(viewer));
        table.report(step.stepEvents, table.number).for(viewer);
      }
    }
  } catch (error) {
    if (!(error instanceof Fault)) throw error;
    expect(error.message).not.toContain('could not go on');
    expect(error.line).toBeGreaterThan(0);
  }
  const again = replay(program, header, rows);
  expect(meaningOf(again.game, again.state)).toBe(meaningOf(table.game, table.state));
  return rows.length;
}

/** Gives how many choices were made, or −1 where the text is refused. */
function compiledAndPlayed(text: string): number {
  const { program, problems } = compileSheet(text);
  for (const { line, message } of problems) {
    expect(line).toBeGreaterThan(0);
    expect(message).not.toMatch(/undefined|\[object|could not be read/);
  }
  if (!program) {
    expect(problems.length).toBeGreaterThan(0);
    return -1;
  }
  expect(compileSheet(format(text)).program).toBeDefined();
  try {
    return played(program);
  } catch (error) {
    if (error instanceof ReplayError) throw new Error(`${error.message}\n${text}`);
    throw error;
  }
}

it(`random programs are compiled, played and replayed without a crash: ${RUNS}`, {
  timeout: 400 * RUNS + 120_000,
}, () => {
  let fine = 0;
  let choices = 0;
  fc.assert(
    fc.property(valid, (text) => {
      const made = compiledAndPlayed(text);
      if (made >= 0) fine++;
      choices += Math.max(0, made);
    }),
    { numRuns: RUNS },
  );
  // The generator knows the language: nearly all that it writes is valid.
  expect(fine / RUNS).toBeGreaterThan(0.9);
  expect(choices / RUNS).toBeGreaterThan(4);
});

it(`nearly valid programs are refused in words, or played: ${RUNS}`, { timeout: 400 * RUNS + 120_000 }, () => {
  fc.assert(
    fc.property(nearly, (text) => {
      compiledAndPlayed(text);
    }),
    { numRuns: RUNS },
  );
});
