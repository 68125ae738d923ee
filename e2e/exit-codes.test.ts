import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { wily } from './setup/programs.js';
import { ROOT } from './setup/service.js';

describe('exit codes', () => {
  it('are one table, in the help and in the documents, and what commands end with', async () => {
    const { out } = await wily(['--help']);
    const told = [...out.matchAll(/^ {2}(\d+) {2}(.+)$/gm)].map(([, code, words]) => [code, words]);
    expect(told.map(([code]) => code)).toEqual(['0', '1', '2']);
    const docs = readFileSync(`${ROOT}docs/settings.md`, 'utf8');
    for (const [code, words] of told) expect(docs).toContain(`| ${code} | ${words} |`);
    const codes = await Promise.all([
      wily(['rank', 'AS KS QS JS 10S']),
      wily(['check', 'docs/examples/misspelt.motley'], { cwd: ROOT }),
      wily(['rank']),
    ]);
    expect(codes.map(({ code }) => code)).toEqual([0, 1, 2]);
  });

  it('and all help stand on a terminal of 80 columns', async () => {
    for (const command of ['match', 'solve', 'play', 'soak']) {
      const { out } = await wily([command, '--help'], { env: { COLUMNS: '80' } });
      const examples = out.indexOf('Examples:');
      for (const line of out.slice(0, examples).split('\n')) expect(line.length, line).toBeLessThanOrEqual(80);
    }
  });
});
