import { readdirSync, readFileSync } from 'node:fs';
import { expect, it, vi } from 'vitest';
import compile from '../dist/sheets/compile-task.js';
import { compileApart, takeMadeSheets } from '../dist/sheets/compiler.js';
import { hashOfTexts, madeSheets } from '../dist/sheets/made.js';
import { WorkError } from '../dist/workers/children.js';

vi.mock(import('../dist/workers/children.js'), async (original) => ({
  ...(await original()),
  compilers: () =>
    ({
      run: () => Promise.reject(new WorkError('failed', 'somebody called the compiler')),
    }) as never,
}));

const SHEETS = new URL('../../sheets/', import.meta.url);
const text = (name: string): string => readFileSync(new URL(name, SHEETS), 'utf8');
/** The texts of all bundled sheets, each with its rehearsals where it has some. */
const texts = readdirSync(SHEETS)
  .filter((file) => /(?<!\.rehearsal)\.motley$/.test(file))
  .map((file) => {
    const beside = file.replace('.motley', '.rehearsal.motley');
    return { file, source: text(file), rehearsals: readdirSync(SHEETS).includes(beside) ? text(beside) : undefined };
  });

it('all bundled sheets are compiled when the service is built, as its compiler does', async () => {
  const made = await madeSheets();
  expect(texts.length).toBeGreaterThan(20);
  for (const { file, source, rehearsals } of texts)
    expect([...made.keys()], file).toContain(hashOfTexts(source, rehearsals));
  const { source, rehearsals } = texts.find(({ rehearsals }) => rehearsals !== undefined) as (typeof texts)[number];
  expect(JSON.parse(made.get(hashOfTexts(source, rehearsals)) ?? 'null')).toEqual(
    JSON.parse(JSON.stringify(compile({ source, rehearsals }))),
  );
});

it('a service that starts takes them, and calls its compiler for other texts alone', async () => {
  const [{ source, rehearsals } = { source: '', rehearsals: undefined }] = texts;
  await expect(compileApart('Wren', source, rehearsals)).rejects.toThrow('somebody called the compiler');
  await takeMadeSheets();
  const { program, problems } = await compileApart('Wren', source, rehearsals);
  expect(program?.name).toBe(/game "(.*?)"/.exec(source)?.[1]);
  expect(problems.filter(({ severity }) => severity === 'error')).toEqual([]);
  await expect(compileApart('Wren', `${source}\n`, rehearsals)).rejects.toThrow('somebody called the compiler');
});
