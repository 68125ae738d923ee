// Copies of a data folder: made under play with the database's own tool, and put into another folder.
import { spawn } from 'node:child_process';
import {
  copyFileSync,
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  readFileSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import { startDatabase } from './database.mjs';
import { lockFolder } from './lock.mjs';
import { findProgram, Stop } from './machine.mjs';

export const BACKUP_PROGRAMS = [
  { programs: ['mariadb-dump'], packages: ['mariadb-client'] },
  { programs: ['mariadb'], packages: ['mariadb-client-core'] },
];

/** Runs one of the database's own tools against it. The password goes by the environment, where no list of processes shows it. */
function tool(name, { port, password }, args) {
  const child = spawn(
    findProgram([name]),
    ['--no-defaults', '--host=127.0.0.1', `--port=${port}`, '--user=wily', '--default-character-set=utf8mb4', ...args],
    { env: { PATH: process.env.PATH, MYSQL_PWD: password }, stdio: ['pipe', 'pipe', 'pipe'] },
  );
  let words = '';
  child.stderr.on('data', (text) => {
    words += String(text);
  });
  const ended = new Promise((done, failed) => {
    child.once('error', failed);
    child.once('close', (code) => {
      if (code === 0) done();
      else failed(new Stop(`${name} failed: ${words.trim() || `code ${code}`}`));
    });
  });
  return { child, ended };
}

/**
 * Copies the database of a data folder, as it stands at one moment, while play goes on: every choice that was
 * acknowledged before it begins is in it.
 */
export async function backup(data, to) {
  const file = join(data, 'mariadb.json');
  if (!existsSync(file)) throw new Stop(`There is no database in ${data}: give the folder with --data.`);
  if (existsSync(join(to, 'wily.sql.gz'))) throw new Stop(`There is a copy in ${to} already: give another folder.`);
  mkdirSync(to, { recursive: true, mode: 0o700 });
  const known = JSON.parse(readFileSync(file, 'utf8'));
  const at = new Date().toISOString();
  // One snapshot of all tables, and no lock that play would wait for.
  const { child, ended } = tool('mariadb-dump', known, ['--single-transaction', '--quick', '--no-tablespaces', 'wily']);
  child.stdin.end();
  const written = createWriteStream(join(to, 'wily.sql.gz'), { mode: 0o600 });
  await Promise.all([pipeline(child.stdout, createGzip(), written), ended]);
  if (existsSync(join(data, 'developer.key'))) copyFileSync(join(data, 'developer.key'), join(to, 'developer.key'));
  writeFileSync(join(to, 'about.json'), `${JSON.stringify({ at, of: data })}\n`);
  return { at };
}

/** Puts a copy into a data folder that holds no database yet. */
export async function restore(from, data) {
  const dump = join(from, 'wily.sql.gz');
  if (!existsSync(dump)) throw new Stop(`There is no copy in ${from}: it should hold wily.sql.gz.`);
  if (existsSync(join(data, 'mariadb')))
    throw new Stop(`${data} holds a database already, and nothing was changed: give a new folder with --data.`);
  const lock = await lockFolder(data);
  try {
    const database = await startDatabase(data);
    try {
      const known = JSON.parse(readFileSync(join(data, 'mariadb.json'), 'utf8'));
      const { child, ended } = tool('mariadb', known, ['wily']);
      child.stdout.resume();
      await Promise.all([pipeline(createReadStream(dump), createGunzip(), child.stdin), ended]);
    } finally {
      await database.stop();
    }
    if (existsSync(join(from, 'developer.key'))) copyFileSync(join(from, 'developer.key'), join(data, 'developer.key'));
  } finally {
    lock.release();
  }
}
