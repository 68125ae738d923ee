import { mkdirSync, readdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { FULL } from '../setup/crowd.js';
import { dice, Fuzz } from '../setup/fuzz.js';
import { newFolder, type Ran, wily } from '../setup/programs.js';
import { ROOT } from '../setup/service.js';

/** So many hostile files are given to the command line; each is a process. */
const FILES = FULL ? 1_500 : 24;
/** Signs that steer a terminal or the direction of a line. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: these are the signs that are looked for
const STEERING = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]/;
const SIGNS = ['\u001b[2J', '\u009b2J', '\u202e', '\u0007', '\u2066', '\r', '\u0000', '\ud800'];

const read = (name: string): string => readFileSync(join(ROOT, name), 'utf8');
const SHEETS = ['sheets/lantern-twenty-one.motley', 'sheets/weir-patience.motley'].map(read);
const REHEARSALS = read('sheets/lantern-twenty-one.rehearsal.motley');
const RECORD = [
  `{"form":"wily-jester-record/1","game":"X","sheet":"${'a'.repeat(64)}","semantics":2,"generator":"chacha20/2","settings":{},"seats":["Wren"],"commitment":"","seed":"s"}`,
  '{"number":1,"seat":1,"by":"person","ask":0,"option":"go","args":{},"digest":"00000000000000000000000000000000"}',
].join('\n');
const FAIR =
  '{"fair":"table","form":"wily-jester-fair/3","facts":{"table":"abcdefghijkm","sheet":"x","semantics":2,"settings":{},"seats":["Wren"],"deck":["AS"]},"hash":"x","after":""}';
const SHUFFLES = Array.from({ length: 20 }, (_, i) => `${i},AS,KS,QS`).join('\n');

/** Commands that read somebody's file, with the kind of file that they expect. */
const COMMANDS: readonly { readonly args: (file: string) => string[]; readonly like: readonly string[] }[] = [
  { args: (file) => ['check', file], like: SHEETS },
  { args: (file) => ['check', '--json', '--reveals', file], like: SHEETS },
  { args: (file) => ['format', '--check', file], like: SHEETS },
  { args: (file) => ['soak', file, '--games', '2'], like: SHEETS },
  { args: (file) => ['rehearse', file], like: [...SHEETS, REHEARSALS] },
  { args: (file) => ['trial', file, '--games', '4', '--csv'], like: SHEETS },
  { args: (file) => ['verify', file], like: [FAIR] },
  {
    args: (file) => ['verify', file, '--record', file, '--sheet', join(ROOT, 'sheets/long-war.motley')],
    like: [FAIR, RECORD],
  },
  { args: (file) => ['tally', file, '--sheet', join(ROOT, 'sheets/lantern-twenty-one.motley')], like: [RECORD] },
  { args: (file) => ['audit', file], like: [SHUFFLES] },
];

/** A file with pieces of it doubled, cut, swapped, or with signs put in that are no text. */
function spoilt(fuzz: Fuzz, text: string): string {
  let now = text;
  for (let i = 0; i < 1 + Math.floor(fuzz.random() * 4); i++) {
    const at = Math.floor(fuzz.random() * now.length);
    const end = at + Math.floor(fuzz.random() * 40);
    const piece = fuzz.pick([
      () => fuzz.pick(SIGNS),
      () => `"${fuzz.pick(SIGNS)}"`,
      () => '',
      () => now.slice(at, end).repeat(3),
      () =>
        fuzz.pick(['__proto__', '"constructor"', '-1', '1e308', '99999999999999999999', '{"seats":7}', 'null', '[[[[']),
    ])();
    now = now.slice(0, at) + piece + now.slice(fuzz.pick([at, end]));
  }
  return now;
}

/** What no command may ever say, whatever it was given. */
function demandPlain({ code, out, err }: Ran, what: string): void {
  const said = out + err;
  expect(STEERING.test(said), `${what}: a sign that steers: ${JSON.stringify(STEERING.exec(said))}`).toBe(false);
  expect(said, what).not.toMatch(/^\s+at .*\(?(file:|node:|\/).*:\d+:\d+\)?$/m);
  expect(said, what).not.toContain('Something went wrong here that should not');
  expect([0, 1, 2], `${what}: ${said.slice(0, 400)}`).toContain(code);
}

describe('a file of somebody else at the command line', () => {
  it(`ends in an answer, without a stack or a sign that steers, and changes nothing beside it: ${FILES} of them`, async () => {
    const seed = Math.floor(Math.random() * 2 ** 31);
    const fuzz = new Fuzz(dice(seed));
    const folder = newFolder();
    const outside = newFolder();
    writeFileSync(join(outside, 'secret.txt'), 'kept');
    for (let i = 0; i < FILES; i += 3)
      await Promise.all(
        [0, 1, 2].map(async (k) => {
          const { args, like } = COMMANDS[(i + k) % COMMANDS.length] as (typeof COMMANDS)[number];
          const own = join(folder, `${i + k}`);
          mkdirSync(own);
          const file = join(own, 'game.motley');
          const text = spoilt(fuzz, fuzz.pick(like));
          writeFileSync(file, text);
          const ran = await wily(args(file), { cwd: own });
          demandPlain(ran, `seed ${seed}, ${args('game.motley').join(' ')}\n${text.slice(0, 200)}`);
          expect(readdirSync(own)).toEqual(['game.motley']);
          expect(readFileSync(file, 'utf8')).toBe(Buffer.from(text).toString());
        }),
      );
    expect(readdirSync(outside)).toEqual(['secret.txt']);
  });

  it('shows signs that steer as what they are, in its words and in JSON', async () => {
    const folder = newFolder();
    const file = join(folder, 'evil.motley');
    writeFileSync(file, 'game "\u001b[2Jclear\u202e" for 1 seat { deck standard play { finish } }');
    for (const more of [[], ['--json']]) {
      const ran = await wily(['check', file, ...more]);
      demandPlain(ran, 'check');
      expect(ran.code).toBe(1);
      expect(ran.out).toMatch(/The sign \\{1,2}u001b stands here/);
    }
    // Seats are named by whoever plays; a record names them too.
    const record = RECORD.replace('"Wren"', '"Wren\\u001b[31m\\u202e"');
    writeFileSync(file, record);
    demandPlain(await wily(['tally', file, '--sheet', join(ROOT, 'sheets/lantern-twenty-one.motley')]), 'tally');
    demandPlain(
      await wily(['play', join(ROOT, 'sheets/long-war.motley'), '--seats', 'Wren\u001b[2J,Otter'], { input: 'quit\n' }),
      'play',
    );
    symlinkSync('/etc/passwd', join(folder, 'linked.motley'));
    demandPlain(await wily(['check', join(folder, 'linked.motley')]), 'check of a link');
  });
});
