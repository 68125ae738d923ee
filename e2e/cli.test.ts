import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { converse, newFolder, type Ran, wily } from './setup/programs.js';
import { openTwo, ROOT, seatKey, startTestService, until } from './setup/service.js';

const LANTERN = join(ROOT, 'sheets/lantern-twenty-one.motley');
const json = (ran: Ran): never => JSON.parse(ran.out) as never;

describe('looking at cards', () => {
  it('shows a whole deck', async () => {
    const { out, code } = await wily(['cards']);
    expect(code).toBe(0);
    expect(out).toContain('A♠');
    expect(out.match(/[♠♥♦♣]/g)).toHaveLength(52);
    expect(out).toContain('52 cards, in deck order.');
    const short = json(await wily(['cards', '--deck', 'ranks 7..A with 2 jokers', '--json'])) as {
      count: number;
      cards: { name: string }[];
    };
    expect(short.count).toBe(34);
    expect(short.cards.at(-1)?.name).toBe('joker 2');
  });

  it('says where a deck cannot be read', async () => {
    const { err, code } = await wily(['cards', '--deck', 'standrd']);
    expect(code).toBe(2);
    expect(err).toContain('Did you mean "standard"');
    expect(err).toContain('Decks: "standard"');
  });

  it('shuffles, the same for the same word', async () => {
    const after = async (seed: string): Promise<string[]> =>
      (json(await wily(['shuffle', '--seed', seed, '--json'])) as { after: string[] }).after;
    const first = await after('lantern');
    expect(await after('lantern')).toEqual(first);
    expect(await after('reed')).not.toEqual(first);
    expect([...first].sort()).toEqual(
      [...(json(await wily(['cards', '--json'])) as { cards: { face: string }[] }).cards.map((c) => c.face)].sort(),
    );
    expect((await wily(['shuffle', '--seed', 'x'])).out).toMatch(/Before[\s\S]*After[\s\S]*--seed x/);
  });

  it('deals card by card, one at a time or in packets', async () => {
    const { out } = await wily(['deal', '--seats', '3', '--cards', '2', '--in-order']);
    expect(out).toMatch(/^Wren draws K♣ and holds 1\. +51 left\nOtter draws Q♣ and holds 1\. +50 left/);
    expect(out).toContain('46 cards are left, the next on top:');
    const packets = json(await wily(['deal', '--seats', '2', '--cards', '2', '--in-order', '--packets', '--json'])) as {
      hands: { cards: string[] }[];
      left: string[];
    };
    expect(packets.hands.map((h) => h.cards)).toEqual([
      ['K♣', 'Q♣'],
      ['J♣', '10♣'],
    ]);
    expect(packets.left).toHaveLength(48);
  });

  it.each([
    [['deal', '--seats', '9', '--cards', '9'], 'need 81 cards'],
    [['deal', '--seats', 'many'], '--seats is a whole number'],
    [['dael'], 'Did you mean deal'],
    [['deal', '--sets', '3'], '--seats'],
  ])('refuses %j, with the next step', async (args, message) => {
    const { code, err } = await wily(args);
    expect(code).toBe(2);
    expect(err).toContain(message);
  });

  it('explains every command with an example', async () => {
    const { out } = await wily(['--help']);
    for (const command of [
      'cards',
      'shuffle',
      'deal',
      'new',
      'check',
      'format',
      'rehearse',
      'play',
      'sheets',
      'tables',
    ]) {
      expect(out).toContain(command);
      const help = await wily([command, '--help']);
      expect([command, help.code]).toEqual([command, 0]);
      expect(help.out).toMatch(/Examples?:\n {2}\.\/wily/);
    }
  });
});

describe('writing a sheet', () => {
  it('starts from one that works, checks, lays out and rehearses it', async () => {
    const cwd = newFolder();
    const made = await wily(['new', 'River Nines'], { cwd });
    expect(made.out).toContain('river-nines.motley is a small game that works');
    expect((await wily(['check', 'river-nines.motley'], { cwd })).out).toContain(
      'River Nines: 45 lines, nothing wrong.',
    );
    expect((await wily(['format', '--check', 'river-nines.motley'], { cwd })).code).toBe(0);
    const rehearsed = await wily(['rehearse', 'river-nines.motley', '--junit', 'out.xml'], { cwd });
    expect(rehearsed.out).toContain('All 1 pass.');
    expect(readFileSync(join(cwd, 'out.xml'), 'utf8')).toContain(
      '<testsuite name="river-nines.motley" tests="1" failures="0"',
    );
    const again = await wily(['new', 'River Nines'], { cwd });
    expect([again.code, again.err]).toEqual([1, expect.stringContaining('nothing was written')]);
  });

  it('says what is wrong, where, and how to mend it', async () => {
    const cwd = newFolder();
    writeFileSync(
      join(cwd, 'bad.motley'),
      readFileSync(LANTERN, 'utf8').replace('gather house, hand to spent', 'gather house, hnad to spent'),
    );
    const checked = await wily(['check', 'bad.motley'], { cwd });
    expect(checked.code).toBe(1);
    expect(checked.out).toMatch(/bad\.motley:\d+:23 error: There is no name "hnad" here\. Did you mean "hand"\?/);
    expect(checked.out).toContain('^^^^');
    expect((json(await wily(['check', 'bad.motley', '--json'], { cwd })) as { ok: boolean }).ok).toBe(false);
    const played = await wily(['play', 'bad.motley'], { cwd });
    expect([played.code, played.err]).toEqual([1, expect.stringContaining('Did you mean "hand"')]);
    writeFileSync(
      join(cwd, 'luck.motley'),
      'part "luck" {\n  needs def lucky(c: card): flag\n  def luckyOnes(cs: cards) = count(cs, lucky)\n}\n',
    );
    const withPart = (luck: string): string =>
      `game "Luck" for 1 seat {\n  use "luck"\n  deck standard\n  ${luck}\n  play { score seats[1] += luckyOnes(pack) finish }\n}\n`;
    writeFileSync(join(cwd, 'parted.motley'), withPart('def lucky(c: card) = c.rank == 7'));
    expect((await wily(['check', 'parted.motley'], { cwd })).out).toContain('✓ Luck: 6 lines, nothing wrong.');
    expect((await wily(['check', '--whole', 'parted.motley'], { cwd })).out).toMatch(
      /play[\s\S]*part "luck"[\s\S]*luckyOnes/,
    );
    expect((await wily(['check', 'luck.motley'], { cwd })).out).toContain(
      'luck.motley is a part: 4 lines, nothing wrong by itself.',
    );
    writeFileSync(join(cwd, 'bad-part.motley'), 'part "bad-part" {\n  deck standard\n}\n');
    const badPart = await wily(['check', 'bad-part.motley'], { cwd });
    expect([badPart.code, badPart.out]).toEqual([
      1,
      expect.stringContaining('bad-part.motley:2:3 error: A part has no deck'),
    ]);
    writeFileSync(join(cwd, 'parted.motley'), withPart(''));
    expect((await wily(['check', 'parted.motley'], { cwd })).out).toMatch(
      /parted\.motley:2:3 error: Part "luck", line 2: This needs def lucky\(c: card\): flag/,
    );
    const missing = await wily(['check', 'nowhere.motley'], { cwd });
    expect([missing.code, missing.err]).toEqual([2, expect.stringContaining('There is no file nowhere.motley.')]);
  });

  it('reports a rehearsal that fails, with its line', async () => {
    const cwd = newFolder();
    await wily(['new', 'Reed'], { cwd });
    const file = join(cwd, 'reed.rehearsal.motley');
    writeFileSync(file, readFileSync(file, 'utf8').replace('Otter.score == 1', 'Otter.score == 3'));
    const { code, out } = await wily(['rehearse', 'reed.motley', '--junit', 'out.xml'], { cwd });
    expect(code).toBe(1);
    expect(out).toContain('Otter.score is 1, and this expects Otter.score == 3.');
    expect(out).toContain('1 of 1 fails.');
    expect(readFileSync(join(cwd, 'out.xml'), 'utf8')).toContain('<failure message="Otter.score is 1');
  });

  it('takes several files, and tells build servers in their forms', async () => {
    const cwd = newFolder();
    await wily(['new', 'River Nines'], { cwd });
    await wily(['new', 'Reed Tens'], { cwd });
    const good = readFileSync(join(cwd, 'river-nines.motley'), 'utf8');
    writeFileSync(join(cwd, 'bad.motley'), good.replace('shuffle', 'shufle'));
    const checked = await wily(
      [
        'check',
        'river-nines.motley',
        'bad.motley',
        'reed-tens.motley',
        '--sarif',
        'found.sarif',
        '--junit',
        'found.xml',
      ],
      { cwd },
    );
    expect(checked.code).toBe(1);
    expect(checked.out.match(/nothing wrong/g)).toHaveLength(2);
    const sarif = JSON.parse(readFileSync(join(cwd, 'found.sarif'), 'utf8'));
    expect(sarif.version).toBe('2.1.0');
    expect(sarif.runs[0].results).toHaveLength(1);
    expect(sarif.runs[0].results[0]).toMatchObject({
      level: 'error',
      locations: [{ physicalLocation: { artifactLocation: { uri: 'bad.motley' } } }],
    });
    expect(readFileSync(join(cwd, 'found.xml'), 'utf8').match(/<testsuite /g)).toHaveLength(3);
    const missing = await wily(['check', 'nowhere.motley', 'river-nines.motley'], { cwd });
    expect([missing.code, missing.out.includes('nothing wrong')]).toEqual([2, true]);
    const all = json(await wily(['rehearse', 'river-nines.motley', 'reed-tens.motley', '--json'], { cwd }));
    expect((all as { failed: number }[]).map(({ failed }) => failed)).toEqual([0, 0]);
    expect(json(await wily(['check', 'river-nines.motley', 'reed-tens.motley', '--json'], { cwd }))).toHaveLength(2);
    expect((await wily(['format', '--check', 'river-nines.motley', 'reed-tens.motley'], { cwd })).code).toBe(0);
  });

  it('lays a sheet out anew', async () => {
    const cwd = newFolder();
    writeFileSync(join(cwd, 'a.motley'), readFileSync(LANTERN, 'utf8').replaceAll(/^ +/gm, ''));
    expect((await wily(['format', '--check', 'a.motley'], { cwd })).code).toBe(1);
    await wily(['format', 'a.motley'], { cwd });
    expect((await wily(['format', '--check', 'a.motley'], { cwd })).code).toBe(0);
    expect((await wily(['check', 'a.motley'], { cwd })).code).toBe(0);
  });
});

describe('a long line of a sheet', () => {
  it('is cut around its mistake', async () => {
    const cwd = newFolder();
    const long = `  def far = ${'1 + '.repeat(60)}potts${' + 1'.repeat(60)}`;
    writeFileSync(
      join(cwd, 'long.motley'),
      `game "Long" for 1 seat {\n  deck standard\n${long}\n  play { say "{far}" finish }\n}\n`,
    );
    const { out } = await wily(['check', 'long.motley'], { cwd });
    const [, line = '', marks = ''] = out.split('\n');
    expect(out).toContain('There is no name "potts" here');
    expect(line).toMatch(/^ {2}3 \| ….*potts.*…$/);
    expect(line.length).toBeLessThanOrEqual(120);
    expect(marks.indexOf('^')).toBe(line.indexOf('potts'));
  });
});

describe('soaking a sheet', () => {
  it('plays many games, and says what they showed', async () => {
    const { out, code } = await wily(['soak', LANTERN, '--games', '20', '--set', 'rounds=2']);
    expect(code).toBe(0);
    expect(out).toMatch(/✓ 20 games, \d+ choices, [\d,]+ wrong ones refused, no fault/);
    expect(out).toContain('The heaviest step took');
    const bots = json(
      await wily([
        'soak',
        join(ROOT, 'sheets/lock-ladder.motley'),
        '--games',
        '30',
        '--bot',
        'careful',
        '--seats',
        '2',
        '--json',
      ]),
    ) as { scores: { best: number } };
    expect(bots.scores.best).toBe(52);
  });

  it('shows how to see a fault again, and ends with 1', async () => {
    const cwd = newFolder();
    const file = join(cwd, 'dry.motley');
    writeFileSync(
      file,
      'game "Dry" for 1 seat { deck standard\n pile row face up\n play { repeat { ask seats[1] { option go { deal 9 from pack to row } option rest aside { finish } } } } }',
    );
    const { out, code } = await wily(['soak', file, '--games', '5']);
    expect(code).toBe(1);
    expect(out).toContain('This deals from pack, and pack is empty. (line 3)');
    expect(out).toMatch(/again: \.\/wily soak .*dry\.motley --games 1 --from \d+ --seed 1/);
    const both = await wily(['soak', file, LANTERN, '--games', '5', '--junit', 'soaked.xml', '--json'], { cwd });
    expect(both.code).toBe(1);
    expect((JSON.parse(both.out) as { file: string; games: number }[]).map(({ games }) => games)).toEqual([5, 5]);
    const report = readFileSync(join(cwd, 'soaked.xml'), 'utf8');
    expect(report).toMatch(/<testsuite name="[^"]*dry\.motley" tests="\d+" failures="[1-5]"/);
    expect(report).toMatch(/<testsuite name="[^"]*lantern-twenty-one\.motley" tests="1" failures="0"/);
    expect(report).toContain('This deals from pack, and pack is empty.');
    const wrong = await wily(['soak', file, '--bot', 'steady']);
    expect([wrong.code, wrong.err]).toEqual([2, expect.stringContaining('no bot "steady"')]);
  });
});

describe('playing in the terminal', () => {
  it('shows piles, choices and refusals, and takes choices back', async () => {
    const { out, code } = await wily(
      ['play', LANTERN, '--seed', 'x', '--set', 'rounds=1', '--seats', 'Wren,Otter:steady'],
      { input: 'bet 11\n1 20\nfly\nhit\nundo\nlog\nseed\nhelp\n2\n' },
    );
    expect(code).toBe(0);
    expect(out).toContain('The amount is from 10 to 200 in steps of 2, not 11.  (line 74)');
    expect(out).toMatch(/the house +2♦ ▒▒/);
    expect(out).toContain('There is no option "fly" here. There are hit, stand, double.');
    expect(out).toContain('You hit and get 4♦.');
    expect(out).toContain('Back at number 2.');
    expect(out).toContain('Wren is asked (live: 30 s, then stand):');
    expect(out).toContain('The game is over.');
  });

  it('lays everything open, the piles that nobody sees included', async () => {
    const { out } = await wily(['play', LANTERN, '--open', '--seats', 'Wren', '--set', 'decks=1'], {
      input: 'bet 10\nquit\n',
    });
    expect(out).not.toContain('▒▒');
    expect(out.match(/shoe .*[♠♥♦♣]/)).not.toBeNull();
  });

  it('says after the end what can be done, and begins a new game', async () => {
    const cwd = newFolder();
    writeFileSync(
      join(cwd, 'swap.motley'),
      `game "Swap" for 1 seat { deck of "7♦" "J♦" "2♣" "3♣" pile hand of each seat face up pile out face up
        play { deal all from pack to seats[1].hand
          ask seats[1] { option swap(cs: 2 cards in seats[1].hand) "swap {cs}" { move cs to out say "Swapped {cs}." finish } } } }`,
    );
    const typed = ['swap [7D, "JD"]', 'swap 2C 3C', 'log', 'back', 'swap 7D,2C', 'again', 'quit'].join('\n');
    const { out, code } = await wily(['play', 'swap.motley'], { cwd, input: `${typed}\n` });
    expect(code).toBe(0);
    expect(out.match(/What now\? log/g)?.length).toBeGreaterThanOrEqual(3);
    expect(out).toMatch(/Swapped (7♦ J♦|J♦ 7♦)\./);
    expect(out).toContain('Back at number 0.');
    expect(out).toMatch(/Swapped (7♦ 2♣|2♣ 7♦)\./);
    expect(out.match(/Wren is asked/g)?.length ?? 0).toBeGreaterThanOrEqual(3);
  });

  it('tries every save of the sheet on the game so far', async () => {
    const cwd = newFolder();
    const file = join(cwd, 'lantern.motley');
    const text = readFileSync(LANTERN, 'utf8');
    writeFileSync(file, text);
    const game = converse(['play', file, '--seats', 'Wren', '--seed', 'x', '--watch'], cwd);
    await until(() => game.said().includes('Wren is asked'), 'the first question');
    game.say('bet 20');
    await until(() => game.said().includes('number 1'), 'the bet');
    writeFileSync(file, text.replace('"You have too few chips to double."', '"Too few!"'));
    await until(() => game.said().includes('all 1 choices so far fit it'), 'the new text to be tried');
    writeFileSync(file, text.replace('by 2 such', 'by 7 such'));
    await until(
      () => game.said().includes('The new text does not fit the game so far. Choice 1 (bet of Wren) is refused'),
      'the text that does not fit',
    );
    writeFileSync(file, text.replace('routine settle', 'rotine settle'));
    await until(() => game.said().includes('Did you mean "routine"'), 'the message');
    game.say('quit');
    expect(await game.ended).toBe(0);
  });

  it.each([
    [['--seats', 'Wren,Otter:wild'], 'has no bot "wild"'],
    [['--set', 'rounds'], 'write it like rounds=5'],
    [['--set', 'rounds=0'], 'rounds is a whole number from 1 to 1000'],
  ])('refuses %j', async (args, message) => {
    const { code, err } = await wily(['play', LANTERN, ...args]);
    expect([code, err]).toEqual([2, expect.stringContaining(message)]);
  });
});

describe('against a service', () => {
  let service: Service;
  let developer: Client;
  let env: Record<string, string>;
  beforeAll(async () => {
    const started = await startTestService();
    ({ service, client: developer } = started);
    env = { WILY_PORT: new URL(service.address).port, WILY_DATA: started.data };
  });
  afterAll(() => service.stop());
  const run = (...args: string[]): Promise<Ran> => wily(args, { env });

  it('lists, adds and shows sheets', async () => {
    const cwd = newFolder();
    await wily(['new', 'Reed Tide'], { cwd });
    expect((await run('sheets', 'list')).out).toContain('Lantern Twenty-One  1 to 5 seats');
    const added = await wily(['sheets', 'add', 'reed-tide.motley'], { cwd, env });
    expect(added.out).toContain('Reed Tide is on the shelf');
    expect((await run('sheets', 'show', 'Reed Tide')).out).toContain('game "Reed Tide"');
    const bad = join(cwd, 'bad.motley');
    writeFileSync(bad, 'game "Bad" for 1 seat { deck standard\n  play { finis } }');
    const refused = await run('sheets', 'add', bad);
    expect([refused.code, refused.err]).toEqual([1, expect.stringContaining('Did you mean "finish"')]);
  });

  it('opens a table, plays a round at it, and agrees with what others see', async () => {
    const opened = await run(
      'tables',
      'open',
      'Lantern Twenty-One',
      '--seats',
      'Wren,Otter:steady',
      '--set',
      'rounds=2',
      '--pace',
      '0',
      '--no-clocks',
      '--seed',
      'x',
    );
    expect(opened.out).toMatch(/key of seat 1, Wren: seat_\S+/);
    expect(opened.out).toMatch(/http:\/\/127\.0\.0\.1:\d+\/join\/[a-z0-9]{12}#seat_\S+/);
    const id = /^(\S+) {2}Lantern/m.exec(opened.out)?.[1] ?? '';
    const offered = await run('tables', 'choose', id);
    expect(offered.out).toMatch(/Wren may choose:\n {2}1 {2}bet +bet … {2}amount 10 to 200 by 2 \(10, 50\)/);
    expect((await run('tables', 'choose', id, 'bet', '20')).code).toBe(0);
    await until(async () => (await developer.table(id)).number >= 2, 'the bot to bet');
    const refused = await run('tables', 'choose', id, 'split');
    expect([refused.code, refused.err]).toEqual([1, expect.stringContaining('no option "split"')]);
    const shown = await run('tables', 'show', id, '--as', 'Wren');
    expect(shown.out).toMatch(/▸ Wren, you/);
    const stood = await run('tables', 'choose', id, 'stand', '--json');
    expect((json(stood) as { option: string }).option).toBe('stand');
    expect((await run('tables', 'list')).out).toContain(id);
    const record = (await run('tables', 'record', id)).out.trim().split('\n');
    expect(JSON.parse(record[0] ?? '')).toMatchObject({ table: id, game: 'Lantern Twenty-One' });
    expect((await run('tables', 'close', id)).out).toContain(`Table ${id} is closed.`);
    expect((await run('tables', 'list', '--status', 'closed')).out).toContain(id);
    expect((await run('tables', 'list', '--status', 'open')).out).not.toContain(id);
    expect((await run('tables', 'looks', id)).out).toContain('whole record');
    expect((await run('tables', 'end-watching', id)).out).toContain('have ended');
    const { out: link } = await run('open');
    expect(link).toMatch(/^http:\/\/127\.0\.0\.1:\d+\/#open=[\w-]{43}\n/);
    expect((await run('tables', 'delete', id)).out).toContain('deleted, with its record');
    expect(await run('tables', 'show', id)).toMatchObject({ code: 1 });
    const used = await run('sheets', 'delete', 'Lantern Twenty-One');
    expect([used.code, used.err]).toEqual([1, expect.stringContaining('delete them first')]);
    expect((await run('sheets', 'delete', 'Weir Patience')).out).toContain('is deleted');
  });

  it('plays with a seat key what that seat may, and sends the same word twice as once', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    const key = seatKey(opened, 2);
    const first = await run('tables', 'choose', id, 'bet', 'amount=20', '--key', key, '--once', 'mine', '--json');
    const again = await run('tables', 'choose', id, 'bet', 'amount=20', '--key', key, '--once', 'mine', '--json');
    expect([(json(first) as { repeated: boolean }).repeated, (json(again) as { repeated: boolean }).repeated]).toEqual([
      false,
      true,
    ]);
    const quiet = await run('tables', 'choose', id, '--key', key);
    expect(quiet.out).toContain('Otter may choose nothing now. Wren is asked.');
    const strange = await run('tables', 'list', '--key', key);
    expect([strange.code, strange.err]).toEqual([1, expect.stringContaining('developer key')]);
    const wrong = await run('tables', 'choose', id, 'sitOut', '7', '--seat', 'Wren');
    expect([wrong.code, wrong.err]).toEqual([2, expect.stringContaining('takes no "7"')]);
    const nobody = await run('tables', 'choose', id, '--seat', 'Pike');
    expect([nobody.code, nobody.err]).toEqual([2, expect.stringContaining('There are 1 Wren, 2 Otter')]);
  });

  it('hands seats over, invites, looks back, branches, and loads what it saved', async () => {
    const { table } = await openTwo(developer);
    const { id } = table;
    expect((await run('tables', 'seats', id)).out).toContain('Otter is played by a person, who is not here.');
    expect((await run('tables', 'seats', id, 'Otter', 'bot')).out).toContain('Otter is played by the bot steady.');
    await until(async () => (await developer.table(id)).number === 1, 'the bot to bet');
    expect((await run('tables', 'seats', id, 'Otter', 'take')).out).toContain('Otter is played by a person');
    const wrong = await run('tables', 'seats', id, 'Otter', 'sell');
    expect([wrong.code, wrong.err]).toEqual([2, expect.stringContaining('not "sell"')]);
    const { out } = await run('tables', 'invite', id, 'Wren');
    expect(out).toMatch(new RegExp(`/join/${id}#seat_`));
    const key = /#(\S+)/.exec(out)?.[1] ?? '';
    await run('tables', 'choose', id, 'bet', '20', '--key', key);
    expect((await run('tables', 'show', id, '--at', '1', '--as', 'watch')).out).not.toContain('shows');
    expect((await run('tables', 'branch', id, '1')).out).toContain('dealt anew');
    const beyond = await run('tables', 'branch', id, '9');
    expect([beyond.code, beyond.err]).toEqual([2, expect.stringContaining('There is no number 9 yet')]);
    const file = `${newFolder()}/saved.ndjson`;
    writeFileSync(file, (await run('tables', 'record', id)).out);
    expect((await run('tables', 'load', file)).out).toContain('All 2 choices were carried out again');
    writeFileSync(file, readFileSync(file, 'utf8').replace('"amount":20', '"amount":22'));
    const differs = await run('tables', 'load', file);
    expect([differs.code, differs.err]).toEqual([1, expect.stringContaining('After choice 2 (bet)')]);
  });

  it('watches a table to its end, sentence by sentence', async () => {
    const { table } = await developer.openTable({
      sheet: 'Lantern Twenty-One',
      seats: [{ name: 'Teal', bot: 'steady' }],
      settings: { rounds: 1 },
      pace: 30,
    });
    const { out, code } = await run('tables', 'watch', table.id, '--as', 'watch');
    expect(code).toBe(0);
    expect(out).toContain('Teal bets 10.');
    expect(out).toMatch(/The house has \d+\./);
  });

  it('says what to do where nobody answers, or no key is to be found', async () => {
    const nobody = await wily(['sheets', 'list', '--address', 'http://127.0.0.1:9', '--key', 'x']);
    expect([nobody.code, nobody.err]).toEqual([1, expect.stringContaining('"npm start" starts it')]);
    const keyless = await wily(['sheets', 'list'], { env: { WILY_DATA: newFolder() } });
    expect([keyless.code, keyless.err]).toEqual([1, expect.stringContaining('There is no key')]);
  });
});
