/**
 * npm run grammar: writes the parser from motley.langium, the library that it runs on as one file (as a thousand files
 * the library takes longer to load than a sheet takes to compile), and the bundled parts as texts, so that the language
 * reads no files and loads in a browser.
 */
import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { rolldown } from 'rolldown';

const MOTLEY = new URL('../', import.meta.url);
const GENERATED = new URL('src/grammar/generated/', MOTLEY);

// The generator asks before it removes files that it did not write, and would wait for an answer.
rmSync(GENERATED, { recursive: true, force: true });
const written = spawnSync(
  'npx',
  ['--no-install', 'langium', 'generate', '--mode', 'production', '--file', 'langium-config.json'],
  { cwd: MOTLEY, stdio: ['ignore', 'inherit', 'inherit'] },
);
if (written.status !== 0) process.exit(written.status ?? 1);

// All that parses uses the one file, or there would be two libraries at once.
for (const name of readdirSync(GENERATED).filter((file) => file.endsWith('.ts'))) {
  const file = new URL(name, GENERATED);
  writeFileSync(file, readFileSync(file, 'utf8').replaceAll(`from 'langium'`, `from '#langium'`));
}
const bundle = await rolldown({ input: fileURLToPath(import.meta.resolve('langium')), platform: 'browser' });
await bundle.write({
  file: fileURLToPath(new URL('langium.js', GENERATED)),
  format: 'esm',
  minify: { mangle: false, compress: true },
});

const PARTS = new URL('parts/', MOTLEY);
const texts = readdirSync(PARTS)
  .filter((file) => file.endsWith('.motley'))
  .sort()
  .map((file) => [file.replace(/\.motley$/, ''), readFileSync(new URL(file, PARTS), 'utf8')]);
const folder = new URL('src/parts/generated/', MOTLEY);
mkdirSync(folder, { recursive: true });
writeFileSync(
  new URL('bundled.ts', folder),
  `// Written by scripts/grammar.mjs from the files in parts/.\nexport const BUNDLED: Readonly<Record<string, string>> = ${JSON.stringify(Object.fromEntries(texts), null, 2)};\n`,
);
