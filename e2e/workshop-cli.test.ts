import { existsSync, readdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { converse, newFolder, wily } from './setup/programs.js';
import { startTestService, until } from './setup/service.js';

let service: Service;
let client: Client;
beforeAll(async () => {
  ({ service, client } = await startTestService());
});
afterAll(() => service.stop());

const SHEET = `game "Rush Nines" for 2 seats {
  deck standard
  play { ask seats[1] { option go { } } finish }
}
`;

describe('./wily workshop', () => {
  it('opens a file of the disk as a draft, and keeps both in step', async () => {
    const folder = newFolder();
    const file = join(folder, 'rush-nines.motley');
    writeFileSync(file, SHEET);
    const { child, said, ended } = converse(
      ['workshop', file, '--address', service.address, '--key', service.developerKey],
      folder,
    );
    await until(() => said().includes('Open '), 'the link');
    expect(said()).toContain('Rush Nines stands in the workshop, in step with');
    const [, id = ''] = /\/workshop\/([a-z0-9]{12})#open=/.exec(said()) ?? [];
    expect(await client.draft(id)).toMatchObject({ title: 'Rush Nines', sheet: SHEET, origin: file });
    // A save goes there, with the rehearsals beside it.
    writeFileSync(file, SHEET.replace('Nines', 'Tens'));
    await until(async () => (await client.draft(id)).title === 'Rush Tens', 'what was saved is shown');
    writeFileSync(join(folder, 'rush-nines.rehearsal.motley'), '// none yet\n');
    await until(async () => (await client.draft(id)).rehearsals !== '', 'the rehearsals came along');
    // What is written there comes here.
    const now = await client.draft(id);
    await client.keepDraft(id, {
      after: now.number,
      sheet: now.sheet.replace('Tens', 'Twelves'),
      rehearsals: now.rehearsals,
      parts: {},
    });
    await until(() => readFileSync(file, 'utf8').includes('Rush Twelves'), 'what was written is saved');
    // A part of the name of a file that the game does not use writes over nothing.
    writeFileSync(join(folder, 'other.motley'), 'somebody else’s');
    const then = await client.draft(id);
    await client.keepDraft(id, {
      after: then.number,
      sheet: then.sheet.replace('Twelves', 'Ends'),
      rehearsals: then.rehearsals,
      parts: { other: 'part "other" { }' },
    });
    await until(() => readFileSync(file, 'utf8').includes('Rush Ends'), 'the sheet is saved');
    expect(readFileSync(join(folder, 'other.motley'), 'utf8')).toBe('somebody else’s');
    expect(said()).toContain('"other" is asked for now. other.motley is neither read nor written');
    child.kill('SIGINT');
    await ended;
    // The same file is the same draft the next time.
    const again = converse(['workshop', file, '--address', service.address, '--key', service.developerKey], folder);
    await until(() => again.said().includes(`/workshop/${id}#open=`), 'the same draft');
    again.child.kill('SIGINT');
    await again.ended;
  });

  it('reads and writes no file that nobody named: whoever changes the draft names them in vain', async () => {
    const folder = newFolder();
    const file = join(folder, 'game.motley');
    writeFileSync(file, SHEET);
    writeFileSync(join(folder, 'secret.motley'), 'game "Not Yet Told" for 1 seat { }');
    const { child, said, ended } = converse(
      ['workshop', file, '--address', service.address, '--key', service.developerKey],
      folder,
    );
    await until(() => said().includes('Open '), 'the link');
    expect(said()).toContain(`Whoever writes there writes these files here, and no others:\n  ${file}`);
    expect(said()).not.toContain('secret.motley');
    const [, id = ''] = /\/workshop\/([a-z0-9]{12})#open=/.exec(said()) ?? [];
    const other = client.withKey((await client.addDeveloper('stranger')).key);
    const texts = { rehearsals: '', parts: { secret: 'part "secret" { }', fresh: 'part "fresh" { }' } };
    const sheet = SHEET.replace('deck standard', 'use "secret" use "fresh" deck standard');
    await other.keepDraft(id, { after: (await other.draft(id)).number, sheet, ...texts });
    await until(() => readFileSync(file, 'utf8') === sheet, 'the sheet is written');
    // A save of the person's own goes there: with nothing of the files that were named.
    writeFileSync(file, sheet.replace('Rush', 'Slow'));
    await until(async () => (await other.draft(id)).sheet.includes('Slow'), 'what was saved is shown');
    expect((await other.draft(id)).parts).toEqual(texts.parts);
    expect(readFileSync(join(folder, 'secret.motley'), 'utf8')).toContain('Not Yet Told');
    expect(readdirSync(folder).sort()).toEqual(['game.motley', 'secret.motley']);
    child.kill('SIGINT');
    await ended;
  });

  it('keeps a part in step that is named', async () => {
    const folder = newFolder();
    const file = join(folder, 'game.motley');
    writeFileSync(file, SHEET);
    const { child, said, ended } = converse(
      ['workshop', file, '--with', 'fresh', '--address', service.address, '--key', service.developerKey],
      folder,
    );
    await until(() => said().includes('Open '), 'the link');
    expect(said()).toContain('fresh.motley  (once there is something in it)');
    const [, id = ''] = /\/workshop\/([a-z0-9]{12})#open=/.exec(said()) ?? [];
    const parts = { fresh: 'part "fresh" { def two = 2 }' };
    await client.keepDraft(id, { after: (await client.draft(id)).number, sheet: SHEET, rehearsals: '', parts });
    await until(() => existsSync(join(folder, 'fresh.motley')), 'the part is written');
    expect(readFileSync(join(folder, 'fresh.motley'), 'utf8')).toBe(parts.fresh);
    child.kill('SIGINT');
    await ended;
  });

  it('follows no link out of the folder, and empties no file that is no sheet', async () => {
    const folder = newFolder();
    const outside = join(newFolder(), 'diary.txt');
    writeFileSync(outside, 'dear diary');
    const at = (name: string): string => join(folder, name);
    const run = (...args: string[]) =>
      wily(['workshop', ...args, '--address', service.address, '--key', service.developerKey]);
    writeFileSync(at('notes.txt'), SHEET);
    expect(await run(at('notes.txt'))).toMatchObject({ code: 2, err: expect.stringContaining('is no sheet') });
    expect(await run(at('game.rehearsal.motley'))).toMatchObject({
      code: 2,
      err: expect.stringContaining('is no sheet'),
    });
    symlinkSync(outside, at('linked.motley'));
    expect(await run(at('linked.motley'))).toMatchObject({ code: 2, err: expect.stringContaining('is a link') });
    writeFileSync(at('game.motley'), SHEET);
    symlinkSync(outside, at('game.rehearsal.motley'));
    expect(await run(at('game.motley'))).toMatchObject({ code: 2, err: expect.stringContaining('is a link') });
    expect(await run(at('game.motley'), '--with', '../x')).toMatchObject({
      code: 2,
      err: expect.stringContaining('A part is named'),
    });
    expect(readFileSync(outside, 'utf8')).toBe('dear diary');
    expect(readFileSync(at('notes.txt'), 'utf8')).toBe(SHEET);
  });

  it('says what is there where there is no sheet, and where there is no service', async () => {
    const none = await wily(['workshop', 'nothing.motley', '--address', service.address, '--key', 'x']);
    expect([none.code, none.err]).toEqual([2, expect.stringContaining('There is no file')]);
    const folder = newFolder();
    writeFileSync(join(folder, 'rush.motley'), SHEET);
    const alone = await wily([
      'workshop',
      join(folder, 'rush.motley'),
      '--address',
      'http://127.0.0.1:9',
      '--key',
      'x',
    ]);
    expect(alone.code).not.toBe(0);
    expect(alone.err).toContain('There is no answer from http://127.0.0.1:9');
  });
});
