// What the machine needs before anything else can run. Node's own modules only: this runs before `npm ci`.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = dirname(dirname(dirname(fileURLToPath(import.meta.url))));
const STAMPS = join(ROOT, 'node_modules', '.cache', 'wily-jester');

export function say(text) {
  process.stdout.write(`${text}\n`);
}

/** Something that only a person can mend. */
export class Stop extends Error {}

export function findProgram(names) {
  const folders = [...(process.env.PATH ?? '').split(':'), '/usr/sbin', '/usr/local/sbin', '/usr/bin'];
  for (const name of names)
    for (const folder of folders) if (folder && existsSync(join(folder, name))) return join(folder, name);
  return undefined;
}

/** A command that is asked to end when this process ends, in whatever way. */
export function dyingWithUs(command) {
  const setpriv = findProgram(['setpriv']);
  return setpriv ? [setpriv, '--pdeathsig', 'TERM', ...command] : command;
}

function run(command, args, { quiet = false, env = process.env } = {}) {
  const done = spawnSync(command, args, {
    cwd: ROOT,
    stdio: quiet ? ['ignore', 'pipe', 'pipe'] : 'inherit',
    env,
    encoding: 'utf8',
  });
  if (done.error) throw new Stop(`${command} could not be run: ${done.error.message}`);
  if (done.status !== 0)
    throw new Stop(`${command} ${args.join(' ')} failed.${quiet ? `\n${done.stdout}${done.stderr}` : ''}`);
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new Stop(`Node.js 20.19 or newer is needed; this is ${process.versions.node}.`);
}

/** Installs Debian packages whose programs are missing. */
export function needPrograms(wanted) {
  const missing = wanted.filter(({ programs }) => !findProgram(programs));
  if (missing.length === 0) return;
  const packages = [...new Set(missing.flatMap((entry) => entry.packages))];
  const byHand = `Install them yourself: apt-get install --no-install-recommends ${packages.join(' ')}`;
  if (!findProgram(['apt-get']))
    throw new Stop(`${packages.join(' and ')} are missing, and this is no Debian machine.\n${byHand}`);
  if (process.getuid?.() !== 0)
    throw new Stop(`${packages.join(' and ')} are missing, and installing needs root.\n${byHand}`);
  say(`Installing ${packages.join(', ')} …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  run('apt-get', ['update', '-qq'], { quiet: true, env });
  // The server's own maintainer scripts must not start a system-wide server; the core packages have none.
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], { quiet: true, env });
}

function stamp(name, value, work) {
  const file = join(STAMPS, name);
  if (existsSync(file) && readFileSync(file, 'utf8') === value) return false;
  work();
  mkdirSync(STAMPS, { recursive: true });
  writeFileSync(file, value);
  return true;
}

/** `npm ci`, when the lockfile is another one than at the last time. */
export function needModules() {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  stamp('modules', lock, () => {
    say('Installing the npm packages …');
    run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  });
}

const SOURCES = ['core', 'motley', 'charts', 'protocol', 'client', 'service', 'cli', 'console', 'bench'];

function sourceFiles(folder) {
  const found = [];
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist', 'generated', 'test'].includes(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) found.push(...sourceFiles(path));
    else if (/\.(ts|vue|json|langium|motley|mjs|html|css|svg)$/.test(entry.name)) found.push(path);
  }
  return found;
}

/** Builds, when a source changed since the last time. */
export function needBuild() {
  const files = [
    ...SOURCES.flatMap((folder) => sourceFiles(join(ROOT, folder))),
    join(ROOT, 'package-lock.json'),
    join(ROOT, 'tsconfig.base.json'),
    join(ROOT, 'scripts/bundle.mjs'),
    join(ROOT, 'scripts/lib/bundles.mjs'),
  ];
  const state = createHash('sha256');
  for (const file of files.sort()) state.update(`${file}\n`).update(readFileSync(file));
  const missing =
    !existsSync(join(ROOT, 'service/dist/bundled/main.js')) || !existsSync(join(ROOT, 'console/dist/index.html'));
  const name = 'build';
  if (missing) rmSync(join(STAMPS, name), { force: true });
  stamp(name, state.digest('hex'), () => {
    say('Building …');
    run('npm', ['run', 'build', '--loglevel=error'], { quiet: true });
  });
}

/** Says what stopped a command, without a stack trace where a person can mend it. */
export function fail(error) {
  process.stderr.write(`${error instanceof Stop ? error.message : (error?.stack ?? String(error))}\n`);
  process.exit(1);
}
