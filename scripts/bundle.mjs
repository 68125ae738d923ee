/**
 * npm run bundle: each program, and what runs in threads and processes of its own, as a file that holds this project's
 * packages. As some three hundred files they took longer to load than most commands take to run. With them, what the
 * bundled sheets compile to: a service that starts for the first time has them at once.
 */
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { rolldown } from 'rolldown';
import { BUNDLES, bundleOf } from './lib/bundles.mjs';
import { ROOT } from './lib/machine.mjs';

/** Files say where they are with `import.meta.url`: in a bundle they stand where they were compiled to as well. */
const whereItWas = (folder) => ({
  name: 'where-it-was',
  transform(code, file) {
    if (!file.startsWith(ROOT) || file.includes('/node_modules/') || !code.includes('import.meta.url')) return null;
    return code.replaceAll(
      'import.meta.url',
      `new URL(${JSON.stringify(relative(folder, file))}, import.meta.url).href`,
    );
  },
});

for (const [part, { programs, apart }] of Object.entries(BUNDLES)) {
  const folder = dirname(bundleOf(part, ''));
  rmSync(folder, { recursive: true, force: true });
  const bundle = await rolldown({
    input: Object.fromEntries(Object.entries(programs).map(([name, file]) => [name, join(ROOT, part, 'dist', file)])),
    platform: 'node',
    external: apart,
    plugins: [whereItWas(folder)],
  });
  await bundle.write({ dir: folder, format: 'esm', chunkFileNames: 'part-[hash].js' });
  await bundle.close();
}

const { default: compile } = await import(bundleOf('service', 'compile-task'));
const { hashOfTexts } = await import(join(ROOT, 'service/dist/sheets/made.js'));
const sheets = readdirSync(join(ROOT, 'sheets')).filter((file) => /(?<!\.rehearsal)\.motley$/.test(file));
const made = sheets.map((file) => {
  const [text, beside] = [file, file.replace('.motley', '.rehearsal.motley')].map((name) => join(ROOT, 'sheets', name));
  const given = {
    source: readFileSync(text, 'utf8'),
    rehearsals: existsSync(beside) ? readFileSync(beside, 'utf8') : undefined,
  };
  return [hashOfTexts(given.source, given.rehearsals), JSON.stringify(compile(given))];
});
writeFileSync(join(dirname(bundleOf('service', '')), 'sheets.json'), JSON.stringify(Object.fromEntries(made)));
