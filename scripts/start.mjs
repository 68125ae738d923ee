// npm start: everything that is missing, a private database, the service with the demo, and its address.
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { DATABASE_PROGRAMS, startDatabase } from './lib/database.mjs';
import { Held, lockFolder } from './lib/lock.mjs';
import { checkNode, dyingWithUs, fail, needBuild, needModules, needPrograms, ROOT, Stop, say } from './lib/machine.mjs';
import { SERVICE } from './lib/service.mjs';
import { supervise } from './lib/supervise.mjs';

/** How long the service may take to stop, in milliseconds. */
const LONGEST_STOP = 10_000;
/** What the service ends with where its settings are wrong. */
const WRONG_SETTINGS = 2;
/** What this command ends with where another one holds the data folder. */
const HELD = 3;

const HELP = `npm start -- [--port N] [--data FOLDER] [--db-url mariadb://…]

Starts Wily Jester on this machine. The same can be said with WILY_PORT, WILY_DATA and WILY_DB_URL.
  --port N      where it listens (4790)
  --data FOLDER where its database and keys are (.data)
  --db-url URL  an existing MariaDB, instead of a private one`;

function readOptions() {
  try {
    const { values } = parseArgs({
      options: {
        port: { type: 'string' },
        data: { type: 'string' },
        'db-url': { type: 'string' },
        help: { type: 'boolean', short: 'h' },
      },
    });
    return values;
  } catch (error) {
    process.stderr.write(`${error.message}\n\n${HELP}\n`);
    process.exit(2);
  }
}

/** The address with a word in it that makes a page the developer's, once. */
async function linkTo(address, data) {
  const key = readFileSync(join(data, 'developer.key'), 'utf8').trim();
  const answer = await fetch(`${address}/api/logins`, {
    method: 'POST',
    headers: { authorization: `Bearer ${key}`, 'content-type': 'application/json' },
    body: JSON.stringify({ for: 'start' }),
  });
  const { word } = await answer.json();
  return `${address}/#open=${word}`;
}

/** Starts the service, as something that can be kept running; it says where it listens. */
function startServing({ port, data, url }, onAddress) {
  const [program, ...args] = dyingWithUs([process.execPath, ...SERVICE]);
  const service = spawn(program, args, {
    cwd: ROOT,
    // A group of its own: Ctrl-C reaches this process alone, which then stops both in the right order.
    detached: true,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      WILY_PORT: port,
      WILY_DATA: data,
      WILY_DB_URL: url,
      WILY_CONSOLE: join(ROOT, 'console/dist'),
      WILY_SHEETS: join(ROOT, 'sheets'),
      WILY_LOG: process.env.WILY_LOG ?? 'warn',
    },
  });
  const ended = new Promise((done) => service.once('exit', (code, signal) => done({ code, signal })));
  service.stdout.setEncoding('utf8');
  service.stdout.on('data', (text) => {
    const address = /serves on (\S+)/.exec(text)?.[1];
    if (address) onAddress(address);
    else process.stdout.write(text);
  });
  const stop = async () => {
    service.kill('SIGTERM');
    const late = setTimeout(() => service.kill('SIGKILL'), LONGEST_STOP);
    await ended;
    clearTimeout(late);
  };
  return { ended, stop };
}

async function main() {
  // Whoever reads what we say may go away; what we guard goes on.
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);
  const options = readOptions();
  if (options.help) return say(HELP);
  checkNode();
  const given = options['db-url'] || process.env.WILY_DB_URL || null;
  if (!given) needPrograms(DATABASE_PROGRAMS);
  // Tests that start it from a checkout that is ready must not have it installed anew under them.
  if (!process.env.WILY_PREPARED) {
    needModules();
    needBuild();
  }
  const data = resolve(options.data ?? process.env.WILY_DATA ?? join(ROOT, '.data'));
  const port = options.port ?? process.env.WILY_PORT ?? '4790';
  const lock = await lockFolder(data);
  let base = null;
  let url = given;
  if (!given) {
    say('Starting the database …');
    let first = await startDatabase(data, { diesWithUs: true });
    url = first.url;
    const start = () => {
      const ready = first;
      first = null;
      return ready ?? startDatabase(data, { diesWithUs: true });
    };
    base = supervise({ name: 'database', start, isFinal: () => false, say });
  }
  let hasServed = false;
  const service = supervise({
    name: 'service',
    start: () =>
      startServing({ port, data, url }, (address) => {
        lock.tell(new URL(address).port);
        if (hasServed) return say(`The service is back on ${address}.`);
        hasServed = true;
        say(`The first developer key is in ${join(data, 'developer.key')}. Ctrl-C stops everything.`);
        say('This link opens the console once, within ten minutes; ./wily open prints another:');
        linkTo(address, data).then(say, () => say(address));
      }),
    // One that never served, or that its settings stop, would end in the same way again.
    isFinal: (code) => !hasServed || code === WRONG_SETTINGS,
    say,
  });
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    void service.stop();
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, stop);
  const { code, signal } = await service.ended;
  await base?.stop();
  lock.release();
  if (!stopping)
    throw new Stop(
      `The service ended by itself (${signal ?? code}). Nothing that was acknowledged is lost: npm start goes on.`,
    );
}

main().then(
  () => process.exit(0),
  (error) => {
    if (error instanceof Held) {
      process.stderr.write(`${error.message}\n`);
      process.exit(HELD);
    }
    fail(error);
  },
);
