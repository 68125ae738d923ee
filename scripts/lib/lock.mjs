// The lock of a data folder: one start command at a time works on it, whatever becomes of the others.
import { spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { findProgram, Stop } from './machine.mjs';

/** What `flock` ends with where somebody else holds the lock. */
const HELD = 75;

/** Another start command holds the data folder. */
export class Held extends Stop {}

/** Who holds a folder, as it says itself. */
function holderOf(data) {
  try {
    return JSON.parse(readFileSync(join(data, 'running.json'), 'utf8'));
  } catch {
    return null;
  }
}

/**
 * Locks a data folder, until this process ends in whatever way. Gives what says where the service listens, and what lets go.
 * @throws Held which says who holds it; nothing was touched then
 */
export async function lockFolder(data) {
  mkdirSync(data, { recursive: true });
  chmodSync(data, 0o700);
  const flock = findProgram(['flock']);
  if (!flock) return { tell() {}, release() {} };
  // The lock is held by a process that reads from this one: it ends, and lets go, when this one does.
  const keeper = spawn(flock, ['-n', '-E', String(HELD), join(data, 'lock'), 'sh', '-c', 'echo held; cat'], {
    stdio: ['pipe', 'pipe', 'ignore'],
    // A signal to the whole group must not take the lock away before what it guards has ended.
    detached: true,
  });
  const isOurs = await new Promise((done) => {
    keeper.stdout.once('data', () => done(true));
    keeper.once('exit', () => done(false));
    keeper.once('error', () => done(false));
  });
  if (!isOurs) {
    const holder = holderOf(data);
    const who = holder
      ? `process ${holder.pid} since ${holder.since}${holder.port ? `, on port ${holder.port}` : ''}`
      : 'another process';
    throw new Held(
      `The data folder ${data} is in use: ${who}. Stop that one first, or give another folder: npm start -- --data …`,
    );
  }
  keeper.unref();
  keeper.stdin.unref();
  const file = join(data, 'running.json');
  const about = { pid: process.pid, since: new Date().toISOString() };
  writeFileSync(file, JSON.stringify(about));
  return {
    tell: (port) => writeFileSync(file, JSON.stringify({ ...about, port })),
    release: () => {
      if (existsSync(file)) rmSync(file);
      keeper.stdin.end();
    },
  };
}
