// npm test: everything that is missing, then formatter, linter, types, import rules, unused code, and all tests.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BACKUP_PROGRAMS } from './lib/backup.mjs';
import { BROWSER_PROGRAMS } from './lib/browser.mjs';
import { DATABASE_PROGRAMS } from './lib/database.mjs';
import { checkNode, fail, needBuild, needModules, needPrograms, ROOT, Stop, say } from './lib/machine.mjs';

function step(name, command, args) {
  say(`\n── ${name}`);
  const done = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit' });
  if (done.status !== 0) throw new Stop(`${name}: failed.`);
}
const tool = (name) => join(ROOT, 'node_modules/.bin', name);

function main() {
  checkNode();
  needPrograms([...DATABASE_PROGRAMS, ...BACKUP_PROGRAMS, ...BROWSER_PROGRAMS]);
  needModules();
  needBuild();
  step('formatter and linter', tool('biome'), ['check', '.']);
  step('types of tests and console', 'npm', ['run', 'types', '--loglevel=error']);
  step('import rules', 'npm', ['run', 'imports', '--loglevel=error']);
  step('unused code and packages', tool('knip'), ['--no-config-hints']);
  const folder = mkdtempSync(join(tmpdir(), 'wily-results-'));
  const results = join(folder, 'results.json');
  try {
    say('\n── tests');
    const done = spawnSync(
      tool('vitest'),
      [
        'run',
        '--reporter=default',
        '--reporter=./scripts/lib/tried-again.mjs',
        '--reporter=json',
        `--outputFile.json=${results}`,
        ...process.argv.slice(2),
      ],
      { cwd: ROOT, stdio: 'inherit' },
    );
    const { numPassedTests, numFailedTests } = JSON.parse(readFileSync(results, 'utf8'));
    say(`${numPassedTests} passed, ${numFailedTests} failed, on Node.js ${process.versions.node}`);
    if (done.status !== 0) process.exitCode = 1;
    // Only a whole run soaks: whoever names some tests wants those.
    if (process.argv.length === 2)
      step('soak: 100 random games of every bundled sheet', 'node', ['scripts/soak.mjs', '--games', '100']);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

try {
  main();
} catch (error) {
  fail(error);
}
