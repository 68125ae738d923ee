/**
 * npm run grammar: writes the parser from motley.langium, and the library that it runs on as one file. As a thousand
 * files the library takes longer to load than a sheet takes to compile.
 */
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { rolldown } from 'rolldown';

const MOTLEY = new URL('../', import.meta.url);
const GENERATED = new URL('src/grammar/generated/', MOTLEY);

const written = spawnSync(
  'npx',
  ['--no-install', 'langium', 'generate', '--mode', 'production', '--file', 'langium-config.json'],
  { cwd: MOTLEY, stdio: 'inherit' },
);
if (written.status !== 0) process.exit(written.status ?? 1);

// All that parses uses the one file, or there would be two libraries at once.
for (const name of readdirSync(GENERATED).filter((file) => file.endsWith('.ts'))) {
  const file = new URL(name, GENERATED);
  writeFileSync(file, readFileSync(file, 'utf8').replaceAll(`from 'langium'`, `from '#langium'`));
}
const bundle = await rolldown({ input: fileURLToPath(import.meta.resolve('langium')), platform: 'node' });
await bundle.write({
  file: fileURLToPath(new URL('langium.js', GENERATED)),
  format: 'esm',
  minify: { mangle: false, compress: true },
});
