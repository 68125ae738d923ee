import { readFileSync, writeFileSync } from 'node:fs';
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
    child.kill('SIGINT');
    await ended;
    // The same file is the same draft the next time.
    const again = converse(['workshop', file, '--address', service.address, '--key', service.developerKey], folder);
    await until(() => again.said().includes(`/workshop/${id}#open=`), 'the same draft');
    again.child.kill('SIGINT');
    await again.ended;
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
