// npm start: everything that is missing, a private database, the service with the demo, and its address.
import { spawn } from 'node:child_process';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { DATABASE_PROGRAMS, startDatabase } from './lib/database.mjs';
import { checkNode, fail, needBuild, needModules, needPrograms, ROOT, Stop, say } from './lib/machine.mjs';
import { SERVICE } from './lib/service.mjs';

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

async function main() {
  const options = readOptions();
  if (options.help) return say(HELP);
  checkNode();
  const url = options['db-url'] || process.env.WILY_DB_URL || null;
  if (!url) needPrograms(DATABASE_PROGRAMS);
  // Tests that start it from a checkout that is ready must not have it installed anew under them.
  if (!process.env.WILY_PREPARED) {
    needModules();
    needBuild();
  }
  const data = resolve(options.data ?? process.env.WILY_DATA ?? join(ROOT, '.data'));
  const port = options.port ?? process.env.WILY_PORT ?? '4790';
  let database;
  if (!url) {
    say('Starting the database …');
    database = await startDatabase(data);
  }
  const service = spawn(process.execPath, SERVICE, {
    cwd: ROOT,
    // A group of its own: Ctrl-C reaches this process alone, which then stops both in the right order.
    detached: true,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      WILY_PORT: port,
      WILY_DATA: data,
      WILY_DB_URL: url ?? database.url,
      WILY_CONSOLE: join(ROOT, 'console/dist'),
      WILY_SHEETS: join(ROOT, 'sheets'),
      WILY_LOG: process.env.WILY_LOG ?? 'warn',
    },
  });
  let stopping = false;
  const ended = new Promise((done) => service.once('exit', (code, signal) => done({ code, signal })));
  const stop = () => {
    if (stopping) return;
    stopping = true;
    service.kill('SIGTERM');
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
  process.on('SIGHUP', stop);
  service.stdout.setEncoding('utf8');
  service.stdout.on('data', (text) => {
    const address = /serves on (\S+)/.exec(text)?.[1];
    if (!address) return process.stdout.write(text);
    say(`The first developer key is in ${join(data, 'developer.key')}. Ctrl-C stops everything.`);
    say(address);
  });
  const { code, signal } = await ended;
  await database?.stop();
  if (!stopping)
    throw new Stop(
      `The service ended by itself (${signal ?? code}). Nothing that was acknowledged is lost: npm start goes on.`,
    );
}

main().then(() => process.exit(0), fail);
