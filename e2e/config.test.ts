import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';

describe('a service without what it needs', () => {
  it('says plainly what is missing when it cannot start', () => {
    const start = (env: Record<string, string>) =>
      spawnSync(process.execPath, ['service/dist/main.js'], {
        env: { PATH: process.env.PATH ?? '', ...env },
        encoding: 'utf8',
      });
    const none = start({});
    expect([none.status, none.stderr]).toEqual([2, expect.stringContaining('WILY_DB_URL is not set')]);
    const wrong = start({ WILY_DB_URL: 'mariadb://wily:x@127.0.0.1:9/wily', WILY_PORT: 'a' });
    expect([wrong.status, wrong.stderr]).toEqual([2, expect.stringContaining('WILY_PORT')]);
  });
});
