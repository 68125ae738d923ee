import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { readFairness, SeatChance, verifyFairness } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { newFolder, servedConsole, wily } from './setup/programs.js';
import { ROOT, until } from './setup/service.js';

const { visit, developer } = servedConsole();

describe('everybody shuffles', () => {
  it('opens a table once all who got a link have taken part, each in a browser of their own', async () => {
    const { hash } = await developer().sheet('Toll Gate');
    await visit(`/games/${hash}`, async (page) => {
      await page.getByLabel('Every seat gives chance to the shuffle').click();
      await page.getByRole('button', { name: 'Open the table' }).click();
      await page.getByRole('heading', { name: 'Everybody shuffles' }).waitFor();
      const id = new URL(page.url()).pathname.split('/').at(-1) as string;
      const { keys } = await page.evaluate(() => history.state as { keys: { seat: number; key: string }[] });
      expect(keys.length).toBeGreaterThan(0);
      const [first] = keys;
      // The guest's browser takes part by itself, and waits for the others.
      await visit(`/join/${id}#${first?.key}`, async (guest) => {
        await guest.waitForURL(/\/(gather|tables)\//);
        await page.locator(`[data-seat="${first?.seat}"].promised, [data-seat="${first?.seat}"].shown`).waitFor();
        for (const { seat } of keys.slice(1))
          await page.locator(`[data-seat="${seat}"]`).getByText('Take part here').click();
        await guest.waitForURL(`**/tables/${id}`);
      });
      await page.waitForURL(`**/tables/${id}`);
      expect(verifyFairness(readFairness(await developer().fairness(id, 'watch'))).took).toEqual(
        keys.map(({ seat }) => seat),
      );
    });
  });

  it('is asked for at the command line, and verified in another language', async () => {
    const { address, key } = developer().options;
    const at = ['--address', address, '--key', key ?? ''];
    const seats = ['--seats', 'Wren,Otter:thrifty', '--no-clocks'];
    const opening = spawn(process.execPath, [
      join(ROOT, 'wily'),
      'tables',
      'open',
      'Toll Gate',
      ...seats,
      '--gather',
      ...at,
    ]);
    let out = '';
    opening.stdout.on('data', (data) => {
      out += String(data);
    });
    const ended = new Promise((done) => opening.on('close', done));
    await until(() => /\/join\/\w+#seat_/.test(out), 'the link');
    const [, id = '', own = ''] = /\/join\/(\w+)#(seat_[\w-]+)/.exec(out) ?? [];
    const wren = developer().withKey(own);
    const chance = new SeatChance(1, () => randomBytes(32));
    for (let view = await wren.gathering(id); view.phase !== 'open'; ) {
      const move = chance.next(view);
      if (!move) throw new Error('nothing to do, and the table is not open');
      const value = move.kind === 'promise' ? move.promise : move.bytes;
      view = await wren.giveChance(id, { kind: move.kind, value });
    }
    expect(await ended).toBe(0);
    expect(out).toContain('Wren gave chance to the shuffle.');
    const file = join(newFolder(), 'fair.ndjson');
    const { out: given } = await wily(['tables', 'fairness', id, '--as', 'watch', ...at]);
    writeFileSync(file, given);
    expect((await wily(['verify', file])).out).toContain('what 1 of 2 seats gave');
    expect(python(file)).toMatch(/^(\d+) of \1 cards agree/);
    writeFileSync(
      file,
      given.replace(/"bytes":"[0-9a-f]{8}/, (found) => `${found.slice(0, -8)}00000000`),
    );
    expect((await wily(['verify', file])).out).toContain('seat 1 showed something else');
    expect(python(file)).toContain('Seat 1 showed something else');
    const typed = await wily(['tables', 'open', 'Toll Gate', ...seats, '--gather', '--seed', 'x', ...at]);
    expect([typed.code, typed.err]).toEqual([2, expect.stringContaining('takes no chance from its seats')]);
  });
});

/** What the example in another language says of a file. */
function python(file: string): string {
  const { stdout, stderr } = spawnSync('python3', [join(ROOT, 'docs/examples/verify.py'), file], { encoding: 'utf8' });
  return stdout + stderr;
}
