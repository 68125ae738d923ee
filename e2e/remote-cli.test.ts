import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { json, newFolder, type Ran, wily } from './setup/programs.js';
import { openTwo, seatKey, startTestService, until } from './setup/service.js';

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
