import { compileSheet } from '@wily-jester/motley';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it, vi } from 'vitest';
import { seatedAround } from '../src/table/around';
import { changesBetween } from '../src/workshop/changes';
import {
  type DraftTexts,
  fileStem,
  filesIn,
  fileWords,
  isSame,
  textOf,
  titleIn,
  withText,
} from '../src/workshop/files';
import { firstErrorOf, marksFor, movedLines, NO_READ, verdictOf } from '../src/workshop/markings';
import { firstSetup, fittingSetup } from '../src/workshop/setup';
import { textsInFiles, zipOf } from '../src/workshop/taking';

const TEXTS: DraftTexts = {
  sheet: 'game "Otter’s Weir" for 2 seats { }',
  rehearsals: 'r',
  parts: { 'side-pots': 'part "side-pots" { }' },
};

describe('the files of a draft', () => {
  it('are named, read and changed one by one', () => {
    expect(filesIn(TEXTS).map(fileWords)).toEqual(['Sheet', 'Rehearsals', 'Part side-pots']);
    const changed = withText(TEXTS, 'part side-pots', 'new');
    expect([textOf(changed, 'part side-pots'), textOf(TEXTS, 'part side-pots')]).toEqual([
      'new',
      'part "side-pots" { }',
    ]);
    expect([isSame(TEXTS, { ...TEXTS }), isSame(TEXTS, changed)]).toEqual([true, false]);
  });

  it('are called after the game', () => {
    expect(titleIn(TEXTS.sheet)).toBe('Otter’s Weir');
    expect(titleIn('deck standard')).toBe('A game without a name');
    expect([fileStem('Otter’s Weir'), fileStem('Où va l’eau?'), fileStem('!!')]).toEqual([
      'otters-weir',
      'ou-va-leau',
      'game',
    ]);
  });

  it('go away as a zip and come back the same', async () => {
    const { name, bytes } = zipOf(TEXTS);
    expect(name).toBe('otters-weir.zip');
    expect(await textsInFiles([new File([bytes as Uint8Array<ArrayBuffer>], name)])).toEqual(TEXTS);
  });

  it('are unpacked no further than a game has files, however many a small zip holds', async () => {
    const long = strToU8(' '.repeat(200_000));
    const many = Object.fromEntries(Array.from({ length: 300 }, (_, i) => [`f${i}.motley`, long]));
    const bytes = zipSync(many);
    expect(bytes.length).toBeLessThan(2_000_000);
    const zip = new File([bytes as Uint8Array<ArrayBuffer>], 'many.zip');
    const parsed = vi.spyOn(String.prototype, 'split');
    expect(await textsInFiles([zip])).toEqual({ problem: expect.stringMatching(/two sheets|no sheet|too long/) });
    const unpacked = parsed.mock.contexts.filter((name) => /^f\d+\.motley$/.test(String(name)));
    parsed.mockRestore();
    expect(unpacked).toHaveLength(40);
  });

  it('are refused where there is no sheet, or two, or no zip', async () => {
    const file = (name: string, text: string): File => new File([text], name);
    const problem = async (...files: File[]): Promise<string> => {
      const found = await textsInFiles(files);
      return 'problem' in found ? found.problem : '';
    };
    expect(await problem(file('a.rehearsal.motley', 'x'))).toContain('There is no sheet among these files');
    expect(await problem(file('a.motley', 'game "A"'), file('b.motley', 'game "B"'))).toContain('two sheets');
    expect(await problem(file('a.zip', 'no zip'))).toContain('cannot be read as a zip');
    expect(await problem(file('a.motley', 'x'.repeat(90_000)))).toContain('too long');
  });
});

describe('who sits at a draft’s table', () => {
  const program = (source: string) => {
    const found = compileSheet(source).program;
    if (!found) throw new Error('it does not compile');
    return found;
  };
  const sheet = (seats: string, bot = ''): string =>
    `game "Seats" for ${seats} seats { setting goal: 1..9 = 3 deck standard play { ask seats[1] { option go { } } finish } ${bot} }`;

  it('is one person and the sheet’s bot, or persons alone where it has none', () => {
    expect(firstSetup(program(sheet('2 to 4', 'bot plain { go }'))).seats.map(({ bot }) => bot)).toEqual([
      null,
      'plain',
    ]);
    expect(firstSetup(program(sheet('3 to 4'))).seats.map(({ bot }) => bot)).toEqual([null, null, null]);
  });

  it('stays as it is on other rules, as far as they allow', () => {
    const first = { ...firstSetup(program(sheet('2 to 4', 'bot plain { go }'))), settings: { goal: 5, gone: 1 } };
    const more = fittingSetup(first, program(sheet('3 to 4')));
    expect(more.seats.map(({ name, bot }) => [name, bot])).toEqual([
      ['Wren', null],
      ['Otter', null],
      ['Heron', null],
    ]);
    expect(more.settings).toEqual({ goal: 5 });
  });

  it('has the others around: opposite, left and right, evenly', () => {
    const around = (n: number) => {
      const { left, top, right } = seatedAround(Array.from({ length: n }, (_, i) => i + 2));
      return [[...left], [...top], [...right]];
    };
    expect(around(0)).toEqual([[], [], []]);
    expect(around(1)).toEqual([[], [2], []]);
    expect(around(2)).toEqual([[2], [], [3]]);
    expect(around(3)).toEqual([[2], [3], [4]]);
    expect(around(7)).toEqual([
      [3, 2],
      [4, 5, 6],
      [7, 8],
    ]);
    for (let n = 0; n < 12; n++) expect(around(n).flat()).toHaveLength(n);
  });
});

describe('what is said of a text', () => {
  const read = (source: string) => {
    const { program, problems } = compileSheet(source);
    return { ...NO_READ, program: program ?? null, problems: { sheet: problems, rehearsals: [] } };
  };
  const good = read('game "Good" for 2 seats { deck standard play { ask seats[1] { option go { } } finish } }');
  const bad = read('game "Bad" for 2 seats { deck standard play { shufle pack } }');
  const texts = { sheet: '', rehearsals: '', parts: {} };

  it('is that nothing is wrong, or how many mistakes there are, and where', () => {
    expect(verdictOf(good, texts, 'sheet', '')).toEqual({ words: 'Nothing wrong', isGood: true, line: null });
    expect(verdictOf(bad, texts, 'sheet', '').words).toMatch(/^\d mistakes?, line 1$/);
    expect(verdictOf(bad, texts, 'rehearsals', '').words).toMatch(/ of the sheet$/);
    expect(verdictOf(good, texts, 'sheet', 'too slow')).toMatchObject({ words: 'too slow', isGood: false });
    expect([firstErrorOf(good, texts), firstErrorOf(bad, texts)?.file]).toEqual([null, 'sheet']);
  });

  it('leaves out what ran where a mistake keeps the text from being played', () => {
    const known = {
      file: 'sheet',
      read: bad,
      isWaiting: true,
      look: null,
      fault: null,
      refusal: 3,
      results: [],
      reach: { covered: [1], missed: [2] },
      names: [],
      good: '',
      now: '',
    } as const;
    expect(marksFor(known)).toMatchObject({ ran: [], waits: null, notes: [], covered: [1], missed: [2] });
    expect(marksFor({ ...known, isWaiting: false }).notes).toEqual([
      { line: 3, text: 'refuses this', kind: 'refuses' },
    ]);
  });
});

describe('lines of the text that was played last', () => {
  it('stand where they stand in the text as it is, but for those that were changed', () => {
    const moved = movedLines('a\nb\nc\nd', 'a\nnew\nlines\nc\nd');
    expect(moved([1, 2, 3, 4])).toEqual([1, 4, 5]);
    expect(movedLines('a\nb', 'a\nb')([1, 2])).toEqual([1, 2]);
    expect(movedLines('a\nb\nb', 'a\nb')([1, 2, 3])).toEqual([1, 2]);
  });
});

describe('what changed with a text', () => {
  it('is every figure that both views have, with what it was', () => {
    const view = (pot: number, chips: number, size: number) =>
      ({
        values: { pot },
        seats: [{ seat: 1, name: 'Wren', score: 0, values: { chips } }],
        notes: { 'hand/1': [{ name: 'total', value: pot }] },
        piles: { stock: { size }, hand: { 1: { size: 2 } } },
      }) as never;
    expect(changesBetween(view(4, 58, 40), view(6, 57, 40))).toEqual([
      { where: 'pot', was: '4' },
      { where: '1 chips', was: '58' },
      { where: 'hand/1 total', was: '4' },
    ]);
    expect(changesBetween(view(1, 1, 1), view(1, 1, 2))).toEqual([{ where: 'stock', was: '1' }]);
  });
});
