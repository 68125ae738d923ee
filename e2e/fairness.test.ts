import { spawn } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import { type FairLine, readFairness, verifyFairness } from '@wily-jester/core';
import type { Opened } from '@wily-jester/protocol';
import { describe, expect, it } from 'vitest';
import { forgeries, promisedGame } from '../motley/test/forgeries.js';
import { newFolder, type Ran, servedConsole, wily } from './setup/programs.js';
import { openTwo, ROOT, seatKey, until } from './setup/service.js';

const { visit, developer } = servedConsole();

/** A table whose seats are bots, played to its end. */
async function playedOut(showsSeed: boolean): Promise<Opened> {
  const opened = await developer().openTable({
    sheet: 'Lantern Twenty-One',
    seats: [
      { name: 'Wren', bot: 'steady' },
      { name: 'Otter', bot: 'steady' },
    ],
    settings: { rounds: 3 },
    pace: 0,
    ...(showsSeed ? { showsSeed } : {}),
  });
  // Its rests are part of the game.
  await until(async () => (await developer().table(opened.table.id)).status === 'over', 'the end');
  return opened;
}
/** The example in another language. */
function python(file: string): Promise<{ code: number | null; out: string; err: string }> {
  return new Promise((done) => {
    const child = spawn('python3', [join(ROOT, 'docs/examples/verify.py'), file]);
    let [out, err] = ['', ''];
    child.stdout.on('data', (data) => {
      out += String(data);
    });
    child.stderr.on('data', (data) => {
      err += String(data);
    });
    child.on('close', (code) => done({ code, out, err }));
  });
}
const given = async (id: string, client = developer(), as?: number | 'watch'): Promise<FairLine[]> =>
  readFairness(await client.fairness(id, as));
/** What the lines of a kind hold. */
const all = <K extends FairLine['fair']>(lines: readonly FairLine[], kind: K) =>
  lines.filter((line): line is Extract<FairLine, { readonly fair: K }> => line.fair === kind);

describe('the shuffles of a table', () => {
  it('are checked by whoever was there, with the cards that were seen, and with the seed once it is shown', async () => {
    const { table, keys } = await playedOut(true);
    const watching = new Client({ address: developer().options.address, key: keys.watch });
    const fairness = await given(table.id, watching);
    expect(all(fairness, 'service')[0]?.commitment).toBe(table.commitment);
    const verdict = verifyFairness(fairness);
    expect(verdict.checks.filter(({ agrees }) => !agrees)).toEqual([]);
    expect(verdict.cards.opened).toBeGreaterThan(8);
    expect(verdict.isWhole).toBe(true);
    // What was told of each shuffle as it happened is what is verified now.
    const told = (await watching.steps(table.id)).flatMap((step) =>
      step.events.flatMap((event) => (event.kind === 'shuffled' ? [event.commitment] : [])),
    );
    expect(told).toEqual(all(fairness, 'shuffle').map(({ root }) => root));
  });

  it('keep the seed where it is not to be shown, and say what is promised nowhere', async () => {
    const { table } = await playedOut(false);
    const fairness = await given(table.id);
    expect(verifyFairness(fairness)).toMatchObject({ agrees: true, isWhole: false });
    const typed = await openTwo(developer());
    await expect(developer().fairness(typed.table.id)).rejects.toMatchObject({
      problem: { status: 409, detail: expect.stringContaining('Nothing is promised at this table') },
    });
    await expect(openTwo(developer(), { showsSeed: true })).rejects.toMatchObject({ problem: { status: 422 } });
    const branch = await developer().branch(table.id, { number: 3 });
    await expect(developer().fairness(branch.table.id)).rejects.toMatchObject({ problem: { status: 409 } });
  });

  it('tell a seat no more than it saw, and nobody the other seats’ part', async () => {
    const opened = await developer().openTable({
      sheet: "Long Pot Hold'em",
      seats: [{ name: 'Wren' }, { name: 'Otter' }],
      clocks: false,
      pace: 0,
    });
    const { id } = opened.table;
    await until(async () => (await developer().view(id, 1)).waiting.kind === 'ask', 'the first bets');
    const seat = (n: number): Client => new Client({ address: developer().options.address, key: seatKey(opened, n) });
    const [wren, otter] = [await given(id, seat(1)), await given(id, seat(2))];
    const hand = async (n: number): Promise<string[]> => {
      const view = await seat(n).view(id);
      return JSON.stringify(view).match(/(?:10|[2-9AJQK])[♠♥♦♣]/g) ?? [];
    };
    for (const [n, fairness] of [
      [1, wren],
      [2, otter],
    ] as const) {
      const seen = new Set(await hand(n));
      const opens = all(fairness, 'card').map(({ face }) =>
        face.replace('S', '♠').replace('H', '♥').replace('D', '♦').replace('C', '♣'),
      );
      expect(opens.filter((face) => seen.has(face)).length).toBeGreaterThanOrEqual(2);
      expect(verifyFairness(fairness).agrees).toBe(true);
    }
    expect(
      all(wren, 'card').filter(({ face }) => all(otter, 'card').some((card) => card.face === face)).length,
    ).toBeLessThan(all(wren, 'card').length);
    await expect(seat(1).fairness(id, 2)).rejects.toMatchObject({ problem: { status: 403 } });
    await expect(developer().fairness(id, 'open' as never)).rejects.toMatchObject({ problem: { status: 422 } });
  });

  it('come again when the record is loaded as another table', async () => {
    const { table } = await playedOut(true);
    const record = await developer().record(table.id);
    expect(record.split('\n')[0]).toContain('"generator":"chacha20/2"');
    const loaded = await developer().loadRecord(record);
    expect(loaded.table.number).toBe((await developer().table(table.id)).number);
  });
});

describe('wily verify', () => {
  it('checks what a seat was given without the service, and names the card that does not agree', async () => {
    const { table } = await playedOut(true);
    const env = { WILY_PORT: new URL(developer().options.address).port, WILY_KEY: developer().options.key ?? '' };
    const saved = await wily(['tables', 'fairness', table.id, '--as', 'watch'], { env });
    expect(saved.code).toBe(0);
    const file = join(newFolder(), 'fair.ndjson');
    writeFileSync(file, saved.out);
    const honest = await wily(['verify', file]);
    expect(honest.out).toMatch(/(\d+) of \1 opened cards agree/);
    expect(honest.out).toContain('All that was checked agrees.');
    expect(honest.out).toContain('the service alone chose the seed, and every order follows from it.');
    expect(honest.code).toBe(0);
    expect(await python(file)).toMatchObject({
      code: 0,
      out: expect.stringMatching(/^(\d+) of \1 cards agree; all orders follow from the seed;/),
    });
    const changed = saved.out.replace(/("fair":"card".*?"face":")(\w+)/, (_, before: string, face: string) =>
      before.concat(face === 'KH' ? 'AS' : 'KH'),
    );
    expect(changed).not.toBe(saved.out);
    const { out, code } = await wily(['verify', '-'], { input: changed });
    expect(code).toBe(1);
    expect(out).toMatch(/✗ a card: (KH|AS) at place \d+ of shuffle 1 was not promised/);
    const tampered = join(newFolder(), 'tampered.ndjson');
    writeFileSync(tampered, changed);
    expect(await python(tampered)).toMatchObject({ code: 1, err: expect.stringContaining('it was not promised') });
    expect((await wily(['verify', '-'], { input: 'no json' })).code).toBe(2);
    expect((await wily(['verify', '-'], { input: '{}' })).err).toContain('is not what ./wily tables fairness gives');
  });
});

describe('what a service could make up', () => {
  const fileOf = (lines: readonly FairLine[]): string => {
    const file = join(newFolder(), 'forged.ndjson');
    writeFileSync(file, lines.map((line) => `${JSON.stringify(line)}\n`).join(''));
    return file;
  };

  // What ours says of each is tried without a process, in motley/test/forgeries.test.ts.
  it('is refused in the other language too, each with its reason', async () => {
    const all = forgeries();
    for (let i = 0; i < all.length; i += 3)
      await Promise.all(
        all.slice(i, i + 3).map(async ({ name, lines, python: reason }) => {
          expect(await python(fileOf(lines)), name).toMatchObject({ code: 1, err: expect.stringMatching(reason) });
        }),
      );
  });

  it('is refused at the command line, and nothing is said there of who could choose the cards', async () => {
    for (const { lines, wrong } of forgeries().slice(0, 2)) {
      const { code, out } = await wily(['verify', fileOf(lines)]);
      expect([code, out]).toEqual([1, expect.stringMatching(wrong)]);
      expect(out).not.toContain('could choose the cards');
    }
  });

  it('is not said to be excluded where nothing was checked of it: whether orders follow from what seats gave', async () => {
    const { told } = promisedGame();
    const verify = (isShown: boolean): Promise<Ran> =>
      wily(['verify', '-'], {
        input: told(isShown)
          .map((line) => JSON.stringify(line))
          .join('\n'),
      });
    expect((await verify(true)).out).toContain('neither the service nor a seat alone could choose the cards');
    const unknown = await verify(false);
    expect(unknown.out).not.toContain('could choose the cards');
    expect(unknown.out).toContain('Whether the shuffles were made of it is not known before the seed is shown.');
  });
});

describe('a record whose seed is shown', () => {
  it('is whole for all who were there, and is played again on its sheet', async () => {
    const { table, keys } = await playedOut(true);
    const at = new Client({ address: developer().options.address, key: keys.watch });
    const files = (name: string, text: string): string => {
      const file = join(newFolder(), name);
      writeFileSync(file, text);
      return file;
    };
    const record = await at.record(table.id);
    expect(record).toBe(await developer().record(table.id));
    const told = files('fair.ndjson', await at.fairness(table.id));
    const sheet = files('game.motley', (await developer().sheet(table.sheet)).source);
    const verify = (text: string, more: string[] = ['--sheet', sheet]) =>
      wily(['verify', told, '--record', files('record.ndjson', text), ...more]);
    const honest = await verify(record);
    expect(honest.out).toMatch(
      /✓ the game, played again: \d+ choices, each of them legal\n.*✓ choice by choice what all were told of: \d+ choices/,
    );
    expect(honest.code).toBe(0);
    const changed = record.replace(/"amount":(\d+)/, (_, n: string) => `"amount":${n === '10' ? 12 : 10}`);
    expect(changed).not.toBe(record);
    const tampered = await verify(changed);
    expect([tampered.code, tampered.out]).toEqual([
      1,
      expect.stringMatching(/✗ the game, played again.*[Cc]hoice \d+/),
    ]);
    expect((await verify(record, [])).err).toContain('give both --record FILE and --sheet FILE');
    expect((await verify(record.replace(/"seed":"\w+",?/, ''))).err).toContain('has no seed');
    expect((await verify(record.replace(/"seats":\[[^\]]*\]/, '"seats":7'))).err).toContain('is no record');
    expect((await verify(`${record}{"number":9}\n`)).err).toMatch(/Line \d+ of .* is no choice of a whole record/);
    // What its sheet counts in it.
    const counted = await wily(['tally', files('record.ndjson', record), '--sheet', sheet]);
    expect(counted.out).toMatch(/Lantern Twenty-One, Wren, Otter\n[\s\S]*choices of a game/);
    const elsewhere = await wily(['tally', files('record.ndjson', changed), '--sheet', sheet]);
    expect([elsewhere.code, elsewhere.err]).toEqual([1, expect.stringContaining('does not hold on')]);
    // While it is played, and where the seed is not shown, everybody but a developer reads less.
    const hidden = await playedOut(false);
    expect(await at.withKey(hidden.keys.watch).record(hidden.table.id)).not.toContain('"seed"');
  });

  it('is not shown while a table is open that goes on from it, or from one that did', async () => {
    const { table } = await playedOut(true);
    const seeds = async (): Promise<number> => all(await given(table.id), 'seed').length;
    expect(await seeds()).toBe(1);
    const child = await developer().branch(table.id, { number: 3, same: true });
    const grandchild = await developer().branch(child.table.id, { number: 3, same: true });
    expect(await seeds()).toBe(0);
    const watching = developer().withKey(grandchild.keys.watch);
    await developer().closeTable(child.table.id);
    expect(await seeds()).toBe(0);
    expect(await watching.record(grandchild.table.id)).not.toContain('"seed"');
    await developer().closeTable(grandchild.table.id);
    expect(await seeds()).toBe(1);
  });

  it('is shown where the sheet says so, unless its table is opened otherwise', async () => {
    const source = `game "Open Book" for 1 seat { deck standard show seed
      play { shuffle pack  ask seats[1] { option go { } }  finish } }`;
    const { hash } = await developer().addSheet({ source });
    const seeds = async (showsSeed?: boolean): Promise<number> => {
      const { table } = await developer().openTable({
        sheet: hash,
        seats: [{ name: 'Wren' }],
        ...(showsSeed === undefined ? {} : { showsSeed }),
      });
      expect(all(await given(table.id), 'seed')).toEqual([]);
      await developer().choose(table.id, { seat: 1, ask: 0, option: 'go', once: 'x' });
      return all(await given(table.id), 'seed').length;
    };
    expect([await seeds(), await seeds(true), await seeds(false)]).toEqual([1, 1, 0]);
  });
});

describe('the table in the console', () => {
  it('checks the shuffle in the browser', async () => {
    const { table } = await playedOut(true);
    await visit(`/tables/${table.id}?eyes=watch`, async (page) => {
      await page.getByRole('button', { name: 'Check it' }).click();
      await page.getByText(/\d+ of \d+ cards that you saw agree\. So do all orders, with the seed\./).waitFor();
    });
  });
});
