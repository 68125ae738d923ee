import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { ConfigError, readConfig } from '../src/config.js';

const ROOT = new URL('../../', import.meta.url);
const text = (file: string): string => readFileSync(new URL(file, ROOT), 'utf8');

/** The names of settings that sources read, and what only the start command and its tests say to each other. */
function namesIn(folders: readonly string[]): string[] {
  const names = new Set<string>();
  for (const folder of folders)
    for (const file of readdirSync(new URL(folder, ROOT), { recursive: true, encoding: 'utf8' }))
      if (/\.(ts|mjs)$/.test(file))
        for (const [, name = ''] of text(`${folder}/${file}`).matchAll(/env\.(WILY_[A-Z_]+)/g)) names.add(name);
  return [...names].filter((name) => name !== 'WILY_PREPARED').sort();
}

describe('the page of settings', () => {
  it('names all that the service, the commands and the command line read, and nothing else', () => {
    const read = namesIn(['service/src', 'cli/src', 'scripts', 'e2e', 'motley/test']);
    const told = [
      ...new Set([...text('docs/settings.md').matchAll(/`(WILY_[A-Z_]+)`/g)].map(([, name]) => name)),
    ].sort();
    expect(told).toEqual(read);
  });

  it('tells the values that hold where nothing is set', () => {
    const config = readConfig({ WILY_DB_URL: 'mariadb://a:b@127.0.0.1/c' });
    const page = text('docs/settings.md');
    const standard = (name: string): string | undefined =>
      new RegExp(`\\| \`${name}\` \\|[^|]*?\\(\`([^\`]+)\``).exec(page)?.[1];
    expect(standard('WILY_HOST')).toBe(config.host);
    expect(standard('WILY_PORT')).toBe(String(config.port));
    expect(standard('WILY_DATA')).toBe(config.data);
    expect(standard('WILY_LOG')).toBe(config.logLevel);
    expect(standard('WILY_RATE')).toBe(String(config.rate));
    expect(standard('WILY_GUESSES')).toBe(String(config.guesses));
  });

  it.each([
    ['WILY_RATE', 'many'],
    ['WILY_GUESSES', '0'],
    ['WILY_PORT', '70000'],
    ['WILY_KEEP_CLOSED', '-3'],
    ['WILY_PROXY', 'nowhere'],
  ])('says which setting cannot be read: %s', (name, value) => {
    const read = (): unknown => readConfig({ WILY_DB_URL: 'mariadb://a:b@127.0.0.1/c', [name]: value });
    expect(read).toThrow(ConfigError);
    expect(read).toThrow(name);
  });
});
