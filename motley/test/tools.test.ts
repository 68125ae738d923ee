import { type RehearsalResult, rehearse } from '@wily-jester/core';
import { compileRehearsals, compileSheet, format, KEYWORDS, nearest, readDeck, revealsOf } from '@wily-jester/motley';
import { highlight } from '@wily-jester/motley/highlight';
import { describe, expect, it } from 'vitest';
import { programOf, script, sheetText } from './support.js';

const LANTERN = sheetText('lantern-twenty-one.motley');

function run(rehearsals: string, sheet = LANTERN): RehearsalResult[] {
  const compiled = compileRehearsals(rehearsals, sheet);
  if (!compiled.program) throw new Error(compiled.problems.map((p) => `${p.line}: ${p.message}`).join('\n'));
  const { program } = compiled;
  return compiled.rehearsals.map((rehearsal) => rehearse(program, rehearsal));
}
const one = (body: string, sheet = LANTERN): RehearsalResult =>
  run(`rehearse "it" {\n${body}\n}`, sheet)[0] as RehearsalResult;

describe('a face of several packs', () => {
  const two = `game "Two Packs" for 1 seat { deck ranks 7 suits hearts, spades copies 2
    pile hand of each seat face up  pile other face up  pile row face up
    play { deal 2 from pack to seats[1].hand  deal 2 from pack to other
      ask seats[1] {
        option give(c: card in seats[1].hand + other) { move c to row }
        option lay(cs: 2 cards in seats[1].hand + other) needs all(cs, c => c in other) { move cs to row }
      }
      finish } }`;
  const outcome = (body: string): string | null =>
    one(`seats Wren\nWren.hand gets "7♥" "7♠"\nother gets "7♥" "7♠"\n${body}`, two).failure?.message ?? null;

  it('must say which card it means, where copies in several piles can be chosen', () => {
    expect(outcome('Wren: give("7♥")')).toBe('several 7♥ can be chosen: write Wren.hand[1] or other[1].');
    expect(outcome('Wren: give(other[1])\nexpect size(other) == 1')).toBeNull();
    const suited = two
      .replace('pile other face up', 'pile other of each suit face up')
      .replaceAll('to other', 'to other[hearts]');
    const homes = suited
      .replace(/seats\[1\]\.hand \+ other/g, 'seats[1].hand + other[hearts]')
      .replace('c in other', 'c in other[hearts]');
    const body = 'seats Wren\nWren.hand gets "7♥" "7♠"\nother[hearts] gets "7♥" "7♠"\nWren: give("7♥")';
    expect(one(body, homes).failure?.message).toContain('write Wren.hand[1] or other[hearts][1].');
    const alike = 'seats Wren\nWren.hand gets "7♥" "7♥"\nWren: give("7♥")';
    expect(one(alike, two).failure).toBeNull();
  });

  it('stands for the copies that can be chosen', () => {
    expect(outcome('Wren: lay(["7♥", "7♠"])\nexpect empty(other)')).toBeNull();
    expect(outcome('Wren: lay(["7♥", "7♥"])')).toContain('may not');
  });
});

describe('time that is up in a rehearsal', () => {
  const clocked = (ask: string): string =>
    `game "Clocked" for 2 seats { deck standard
      play { ${ask} { option take { score s += 1 } option pass { } } ask seats[1] { option done { } } finish } }`;
  const every = clocked('ask every s in seats within 9s else pass');
  const any = clocked('ask any s in reversed(seats) within 9s else take');
  const alone = clocked('let s = seats[2] ask s within 9s else take');
  const outcome = (body: string, sheet: string): string => {
    const { failure, rows } = one(`seats Wren, Otter\n${body}`, sheet);
    return failure?.message ?? rows.map(({ seat, by, option }) => `${seat} ${by} ${option}`).join(', ');
  };

  it('is played for all who are asked, or for one', () => {
    expect(outcome('clock plays', every)).toBe('1 clock pass, 2 clock pass');
    expect(outcome('clock plays for Otter\nWren: take\nexpect Wren.score == 1', every)).toBe(
      '2 clock pass, 1 person take',
    );
    expect(outcome('clock plays\nexpect Otter.score == 1', alone)).toBe('2 clock take');
    expect(outcome('clock plays\nexpect Otter.score == 1', any)).toBe('2 clock take');
  });

  it('is refused where no clock runs, and for whoever is not asked', () => {
    expect(outcome('clock plays for Wren', alone)).toBe('Wren is not asked.');
    expect(outcome('clock plays\nclock plays', alone)).toContain('what is asked here has no clock');
    expect(outcome('clock plays\nWren: done\nclock plays', alone)).toContain('nobody is asked');
    const { problems } = compileRehearsals('rehearse "it" { seats Wren, Otter  Wren plays }', alone);
    expect(problems[0]?.message).toContain('"Wren plays" is not said here. Did you mean: clock plays');
  });
});

describe('rehearsals', () => {
  it('of the bundled sheet all pass', () => {
    const results = run(sheetText('lantern-twenty-one.rehearsal.motley'));
    expect(results.length).toBeGreaterThanOrEqual(3);
    expect(results.filter((r) => !r.passed)).toEqual([]);
  });

  it.each([
    [
      'a wrong total',
      'seats Wren\nsettings rounds = 1\nWren: bet(10)\nexpect Wren.bank == 200',
      5,
      'Wren.bank is 190, and this expects Wren.bank == 200.',
    ],
    [
      'one half of two',
      'seats Wren\nWren: bet(10)\nexpect Wren.bet == 10 and houseWon == 5',
      4,
      'houseWon is 0, and this expects houseWon == 5.',
    ],
    [
      'a seat that is not asked',
      'seats Wren, Otter\nWren: bet(10)\nexpect asked Wren',
      4,
      'Wren is not asked; Otter is.',
    ],
    [
      'a choice that is refused',
      'seats Wren\nWren: bet(11)',
      3,
      'Wren may not: The amount is from 10 to 200 in steps of 2, not 11.',
    ],
    ['a refusal that does not come', 'seats Wren\nexpect refused Wren: bet(10)', 3, 'Wren may choose "bet" here.'],
    [
      'another reason',
      'seats Wren\nexpect refused Wren: bet(11) because "No."',
      3,
      'the refusal says "The amount is from 10 to 200 in steps of 2, not 11.", not "No.".',
    ],
    ['an end that has not come', 'seats Wren\nexpect finished', 3, 'the game is not over: Wren is asked.'],
    [
      'words that were not said',
      'seats Wren\nWren: bet(10)\nexpect said "Hello."',
      4,
      '"Hello." was not said. This was said, the nearest first:\n  "A fresh shoe."',
    ],
    ['a condition', 'seats Wren\nexpect empty(shoe) and over(house)', 3, 'this does not hold: over(house).'],
  ])('say where and what: %s', (_, body, line, message) => {
    const result = one(body);
    expect(result.passed).toBe(false);
    expect(result.failure).toEqual({ line, message });
  });

  it('arrange what shuffles bring, and give a promised card to nobody else', () => {
    const result = one(
      'seats Wren, Otter\nsettings rounds = 1\nOtter.hand gets "A♠" "K♠" house gets "2♣" "3♣"\nWren: bet(10)\nOtter: bet(10)\nexpect natural(Otter.hand) and house[1] is "2♣" and house[2] is "3♣"\nWren: stand\nexpect Otter.bank == 215',
    );
    expect(result.failure).toBeNull();
  });

  it('start with other values, and let bots play on', () => {
    const result = one(
      'seats Wren, Otter\nsettings rounds = 6\nbot steady plays until houseWon != 0\nexpect houseWon != 0\nbot steady plays until finished\nexpect finished',
    );
    expect(result.failure).toBeNull();
    const poor = one(
      'seats Wren\nstart houseWon = 190\nstart Wren.bank = 10\nexpect refused Wren: bet(12)\nWren: bet(10)\nexpect Wren.bank == 0',
    );
    expect(poor.failure).toBeNull();
  });

  describe('that promise cards', () => {
    const deal = (body: string): string => script(`shuffle pack ${body} ask seats[1] { option rest { } } finish`);

    it('fail where a card never came, with its pile and what is owed', () => {
      const { failure } = one(
        'seats Wren\nWren.hand gets "A♠" "K♠"\nWren.hand gets "Q♠"\nWren: rest',
        deal('deal 2 from pack to seats[1].hand'),
      );
      expect(failure).toEqual({ line: 3, message: 'Wren.hand was promised Q♠, and that never came: 2 of 3 came.' });
    });

    it('have them come in their order where a whole pile is moved, the first lowest', () => {
      const sheet = deal('move all from pack to row');
      const { failure } = one(
        'seats Wren\nrow gets "A♠" "2♥" "3♦"\nexpect row[1] is "A♠" and row[2] is "2♥" and row[3] is "3♦"',
        sheet,
      );
      expect(failure).toBeNull();
    });

    it('have them come by way of another pile, as long as nobody saw them', () => {
      const body = 'deal 20 from pack to stock deal 2 from stock to seats[1].hand';
      const rehearsal =
        'seats Wren\nWren.hand gets "6♣" "7♣"\nexpect Wren.hand[1] is "6♣" and Wren.hand[2] is "7♣" and size(stock) == 18';
      for (let i = 0; i < 4; i++)
        expect(one(rehearsal, deal(`${'shuffle pack '.repeat(i)}${body}`)).failure).toBeNull();
      const seen = deal('deal all from pack to row deal 2 from row to seats[1].hand');
      const order = one('seats Wren\nstock gets "2♣"\nWren.hand gets "6♣"', seen);
      expect(order.failure?.message).toContain('never came');
    });
  });

  it('tell what an expectation of theirs cannot find in their own line', () => {
    const { failure } = one('seats Wren\n\nexpect top(row).rank == 3', script('ask seats[1] { option rest { } }'));
    expect(failure?.line).toBe(4);
    expect(failure?.message).toContain('this cannot be answered');
  });

  it('show what was said in the chapter, the nearest first', () => {
    const sheet = script(
      'chapter "one" say "long ago" chapter "two" say "a red fox" say "the grey hen sleeps" ask seats[1] { option rest { } }',
    );
    const { failure } = one('seats Wren\nexpect said "the grey hen wakes"', sheet);
    expect(failure?.message).toBe(
      '"the grey hen wakes" was not said. This was said, the nearest first:\n  "the grey hen sleeps"\n  "a red fox"',
    );
  });

  it('report a fault of the sheet with its line', () => {
    const sheet = script('ask seats[1] { option go { deal 60 from pack to row } }');
    const result = one('seats Wren\nWren: go', sheet);
    expect(result.failure?.line).toBe(3);
    expect(result.failure?.message).toContain('the sheet made a fault in line 7');
  });

  it.each([
    ['Wren: bet(10)', 'who sits at the table'],
    ['seats Wren\nOtter: bet(10)', 'no seat "Otter"'],
    ['seats Wren\nWren: bte(10)', 'Did you mean "bet"'],
    ['seats Wren\nWren: bet', 'takes 1 value'],
    ['seats wren', 'starts with a capital'],
    ['seats Wren\nsettings stkae = 3', 'Did you mean "stake"'],
    ['seats Wren\nWren.hand gets "1♠"', 'is no rank'],
    ['seats Wren\nWren.hand gets "A♠ K♠"', 'is more than one card: write each by itself, such as "A♠" "K♠"'],
    ['seats Wren\nWren.hand gets A♠', 'A card stands in quotes'],
    ['seats Wren\nbot shy plays until finished', 'no bot "shy"'],
  ])('are checked before they run: %s', (body, message) => {
    const { problems, program } = compileRehearsals(`rehearse "it" {\n${body}\n}`, LANTERN);
    expect(program).toBeUndefined();
    expect(problems.map((p) => p.message).join(' ')).toContain(message);
  });

  it('are not taken for sheets, nor sheets for them', () => {
    expect(compileSheet('rehearse "it" { seats Wren }').problems[0]?.message).toContain('not a rule sheet');
    expect(compileRehearsals(LANTERN, LANTERN).problems[0]?.message).toContain('This is a rule sheet');
    expect(compileRehearsals('rehearse "it" { }', 'game').problems[0]?.message).toContain('mend those first');
  });
});

describe('the formatter', () => {
  const MESSY = `// Head.
game "Reed" for 2 seats {


deck standard
      pile row face up   // a row
 def points(c: card) =
13 when c is "Q♠",
0 otherwise
play {
ask seats[1] {
option lay(c: card in row)
needs c.rank == A
else "{c} { }no"
{finish}
option say {say "{leader}{{}" }  // {so}

}

}
}

`.replace('{c} { }no', '{c} no');

  it('lays a sheet out', () => {
    expect(format(MESSY)).toBe(`// Head.
game "Reed" for 2 seats {

  deck standard
  pile row face up   // a row
  def points(c: card) =
    13 when c is "Q♠",
    0 otherwise
  play {
    ask seats[1] {
      option lay(c: card in row)
          needs c.rank == A
          else "{c} no"
      { finish }
      option say { say "{leader}{{}" }  // {so}
    }
  }
}
`);
  });

  it('changes nothing the second time, and never a word', () => {
    for (const text of [MESSY, LANTERN, sheetText('lantern-twenty-one.rehearsal.motley')]) {
      const once = format(text);
      expect(format(once)).toBe(once);
      expect(once.replace(/\s+/g, '')).toBe(text.replace(/\s+/g, ''));
    }
  });

  it('finds the bundled sheets laid out well', () => {
    expect(format(LANTERN)).toBe(LANTERN);
  });
});

describe('the words of the language', () => {
  it('are all names after a point', () => {
    const members = KEYWORDS.map((word) => `seats[1].${word}`).join(' + ');
    const { problems } = compileSheet(script(`say "{${members}}" finish`));
    expect(problems.filter((p) => !/no variable or pile|a seat|belongs to the table|no teams/.test(p.message))).toEqual(
      [],
    );
  });

  it('colour a sheet without losing a letter', () => {
    const lines = highlight(LANTERN);
    expect(lines.map((pieces) => pieces.map((p) => p.text).join('')).join('\n')).toBe(LANTERN.trimEnd());
    const kinds = new Map(lines.flat().map((piece) => [piece.text, piece.kind]));
    expect(kinds.get('option')).toBe('keyword');
    expect(kinds.get('hit')).toBe('option');
    expect(kinds.get('freshShoe')).toBe('declared');
    expect(kinds.get('"chips"')).toBe('text');
    expect(kinds.get('30s')).toBe('number');
    expect(lines[0]?.[0]?.kind).toBe('comment');
  });

  it('are suggested by how near they are', () => {
    expect(nearest('dael', ['def', 'deal', 'deck'])).toBe('deal');
    expect(nearest('Stage', ['stage'])).toBe('stage');
    expect(nearest('zebra', ['deal', 'move'])).toBeUndefined();
  });
});

describe('a deck in words', () => {
  it.each([
    ['standard', 52],
    ['standard copies 2 with 2 jokers', 108],
    ['ranks 7..A', 32],
    ['ranks J..K suits spades, hearts', 6],
    ['numbered 1..60', 60],
    ['of "J♠" "Q♠" "K♠"', 3],
  ])('%s has %i cards', (text, count) => {
    const deck = readDeck(text);
    expect('faces' in deck && deck.faces.length).toBe(count);
  });

  it.each([
    ['standrd', 1, 'Did you mean "standard"'],
    ['numbered 9..1', 1, 'goes up'],
    ['of "1♠"', 4, 'no rank'],
    ['standard copies 99', 1, '2000'],
  ])('%s is refused at its place', (text, column, message) => {
    const deck = readDeck(text);
    expect('problem' in deck && deck.problem.column).toBe(column);
    expect('problem' in deck && deck.problem.message).toContain(message);
  });
});

describe('the table plan', () => {
  it('holds what a client needs to draw a game that it does not know', async () => {
    const { planOf } = await import('@wily-jester/core');
    const plan = planOf(programOf(LANTERN));
    expect(plan).toMatchObject({
      name: 'Lantern Twenty-One',
      seats: [1, 2, 3, 4, 5],
      layout: [['shoe', null, 'house', null, 'spent']],
      counters: ['bet'],
      labels: { table: { houseWon: 'the house has won' }, seat: { bank: 'chips', bet: 'bet' } },
      notes: [{ name: 'total', beside: ['hand', 'house'] }],
      bots: ['steady'],
    });
    expect(plan.settings[0]).toEqual({
      name: 'decks',
      type: 'int',
      help: 'packs in the shoe',
      standard: 6,
      from: 1,
      to: 8,
    });
    expect(plan.options.map((o) => o.words)).toEqual(['bet', 'sit out', 'hit', 'stand', 'double']);
  });

  it('has a layout of its own where the sheet says none', async () => {
    const { planOf } = await import('@wily-jester/core');
    expect(planOf(programOf(script('finish'))).layout).toEqual([['stock', 'row']]);
  });
});

describe('what a sheet reveals', () => {
  const reveals = (body: string, top = ''): string[] => {
    const { program } = compileSheet(script(body, top));
    return program ? revealsOf(program).map(({ line, message }) => `${line} ${message}`) : ['it does not compile'];
  };
  const HAND = 'deal 1 each from pack to hand let s = seats[1]';

  it('is nothing where all is open or nothing is decided by hidden cards', () => {
    expect(reveals('deal 1 from pack to row if top(row).rank == A { say "{top(row)}" }')).toEqual([]);
    expect(reveals(`${HAND} if size(s.hand) > 1 { say "{s.hand + []}" }`)).toEqual([]);
  });
  it('is where the script goes by hidden cards', () => {
    expect(reveals(`${HAND} if top(s.hand).rank == A { chapter "Aces" }`)).toEqual([
      '7 Which way the script goes here depends on "hand": all who watch may conclude something.',
    ]);
  });
  it('is what is said and scored from them, also through names and defs', () => {
    const found = reveals(
      `${HAND} let worth = total(s) say "{worth}" score s = worth`,
      'def total(s: seat) = sum(s.hand, c => c.pips)',
    );
    expect(found).toEqual([
      '7 What is said here depends on "hand": all who watch may conclude something.',
      '7 This score depends on "hand": all who watch may conclude something.',
    ]);
  });
  it('is that an option may be chosen at all, and that nobody can', () => {
    const found = reveals(
      `${HAND} ask s { option boast when top(s.hand).rank == A { } option wait { } } stuck { finish }`,
    );
    expect(found).toEqual([
      expect.stringContaining('That "boast" may be chosen depends on "hand"'),
      expect.stringContaining('Whether the seat is stuck depends on "hand"'),
    ]);
  });
  it('is a private variable that is drawn elsewhere', () => {
    expect(
      reveals(
        'let s = seats[1] s.shown = s.plan',
        'private var plan of each seat: int = 1 var shown of each seat: int = 0 "shown"',
      ),
    ).toEqual([expect.stringContaining('The value of "shown", which is drawn on the table, depends on "plan"')]);
  });
});
