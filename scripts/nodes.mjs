// npm run nodes: the unit tests, and the service's, on each supported release of Node.js, brought by the registry.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fail, ROOT, Stop, say } from './lib/machine.mjs';

/** Pinned, as everything else is; the machine's own release is what `npm test` runs on. */
const RELEASES = ['22.23.5', '24.22.3'];
/** What is run on each: everything without a browser. */
const TESTS = [
  'core',
  'motley',
  'service',
  'e2e/cards-cli',
  'e2e/live',
  'e2e/api',
  'e2e/client',
  'e2e/hostile/poisoned',
  'e2e/hostile/words',
];

/** The program of a release, in a folder of its own: packages of the registry that hold nothing else, and run no scripts. */
function nodeOf(release) {
  const folder = join(ROOT, 'node_modules', '.cache', 'wily-jester', `node-${release}`);
  const name = `node-${process.platform}-${process.arch}`;
  const program = join(folder, 'node_modules', name, 'bin', 'node');
  if (existsSync(program)) return program;
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'package.json'), '{ "private": true }\n');
  const args = ['install', '--no-audit', '--no-fund', '--ignore-scripts', '--save-exact', `${name}@${release}`];
  const done = spawnSync('npm', args, { cwd: folder, stdio: 'inherit' });
  if (done.status !== 0 || !existsSync(program)) throw new Stop(`Node.js ${release} could not be fetched.`);
  return program;
}

function main() {
  const wanted = process.argv.slice(2);
  for (const release of wanted.length > 0 ? wanted : RELEASES) {
    const program = nodeOf(release);
    say(`\n── Node.js ${release}`);
    const done = spawnSync(program, [join(ROOT, 'node_modules/vitest/vitest.mjs'), 'run', ...TESTS], {
      cwd: ROOT,
      stdio: 'inherit',
    });
    if (done.status !== 0) throw new Stop(`Tests failed on Node.js ${release}.`);
  }
}

try {
  main();
} catch (error) {
  fail(error);
}
