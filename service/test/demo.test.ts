import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { beforeEach, expect, it, vi } from 'vitest';
import { loadDemo } from '../dist/demo.js';
import { Problem } from '../dist/problems.js';
import { addSheet } from '../dist/sheets/shelf.js';
import { TableRow } from '../dist/storage/models.js';

vi.mock(import('../dist/sheets/shelf.js'), async (original) => ({ ...(await original()), addSheet: vi.fn() }));

const tried = vi.mocked(addSheet);
const folder = mkdtempSync(join(tmpdir(), 'wily-sheets-'));
writeFileSync(join(folder, 'reed.motley'), 'game "Reed"');
/** Adds what lies in the folder, waiting for nothing. */
async function load(): Promise<void> {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  let isDone = false;
  const loading = loadDemo(folder, undefined as never, pino({ level: 'silent' })).finally(() => {
    isDone = true;
  });
  loading.catch(() => undefined);
  while (!isDone) {
    await vi.advanceTimersByTimeAsync(1_000);
    await new Promise((done) => setImmediate(done));
  }
  vi.useRealTimers();
  await loading;
}
beforeEach(() => {
  tried.mockReset();
  vi.spyOn(TableRow, 'count').mockResolvedValue(1 as never);
});

it('a sheet that a slow machine took too long to compile is tried three times', async () => {
  const slow = new Problem('sheet', 'The sheet takes too long to compile.');
  tried.mockRejectedValueOnce(slow).mockRejectedValueOnce(slow);
  tried.mockResolvedValueOnce({ sheet: { name: 'Reed', hash: 'a'.repeat(64) }, added: true } as never);
  await load();
  expect(tried).toHaveBeenCalledTimes(3);

  tried.mockReset();
  tried.mockRejectedValue(slow);
  await expect(load()).rejects.toThrow('too long');
  expect(tried).toHaveBeenCalledTimes(3);
});

it('a sheet with a mistake is tried once, and the start says which line it is', async () => {
  tried.mockRejectedValue(new Problem('sheet', 'Line 3, column 1: no.', { line: 3, column: 1 }));
  await expect(load()).rejects.toThrow('Line 3');
  expect(tried).toHaveBeenCalledTimes(1);
});
