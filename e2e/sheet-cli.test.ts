import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { json, newFolder, wily } from './setup/programs.js';
import { ROOT } from './setup/service.js';

const LANTERN = join(ROOT, 'sheets/lantern-twenty-one.motley');

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

  it('looks at the sheets among the files of a folder, not at their rehearsals', async () => {
    const cwd = newFolder();
    await wily(['new', 'River Nines'], { cwd });
    const files = ['river-nines.motley', 'river-nines.rehearsal.motley'];
    const [checked, soaked] = await Promise.all([
      wily(['check', ...files], { cwd }),
      wily(['soak', ...files, '--games', '3'], { cwd }),
    ]);
    expect([checked.code, checked.out.match(/nothing wrong/g)?.length]).toEqual([0, 1]);
    expect([soaked.code, soaked.err]).toEqual([0, '']);
    expect((await wily(['check', files[1] as string], { cwd })).code).toBe(1);
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
