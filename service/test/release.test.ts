import { readFileSync } from 'node:fs';
import { openapi, RELEASE } from '@wily-jester/protocol';
import { describe, expect, it } from 'vitest';

const ROOT = new URL('../../', import.meta.url);
const read = (file: string): string => readFileSync(new URL(file, ROOT), 'utf8');

describe('the release', () => {
  it('is the same in every package, in what they need of each other, and at the head of what changed', () => {
    const root = JSON.parse(read('package.json')) as { version: string; workspaces: string[] };
    expect(root.version).toBe(RELEASE);
    for (const folder of root.workspaces) {
      const { version, dependencies = {} } = JSON.parse(read(`${folder}/package.json`)) as {
        version: string;
        dependencies?: Record<string, string>;
      };
      expect([folder, version]).toEqual([folder, RELEASE]);
      for (const [name, wanted] of Object.entries(dependencies))
        if (name.startsWith('@wily-jester/')) expect([folder, name, wanted]).toEqual([folder, name, RELEASE]);
    }
    expect(read('CHANGELOG.md').match(/^## ([\d.]+)/m)?.[1]).toBe(RELEASE);
    expect(openapi.info.version).toBe(RELEASE);
  });
});
