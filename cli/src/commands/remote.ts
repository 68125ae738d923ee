import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import type { TableSummary } from '@wily-jester/protocol';
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { readSheet, readText, rehearsalsOf } from '../files.js';
import { clientFor, type RemoteOptions, remote, seatIn } from '../remote.js';
import { paint, sentence } from '../show/paint.js';
import { print, printJson, write } from '../show/print.js';
import { offerLines, tableLine, tableLines } from '../show/table.js';
import { argsFrom, plainArgs } from '../values.js';
import { gather } from './gathering.js';
import { seatsFrom, settingsFrom } from './seating.js';
import { addTogetherCommands, printOpened } from './together.js';

const seatsText = (seats: readonly number[]): string =>
  seats.length > 2
    ? `${seats[0]} to ${seats.at(-1)} seats`
    : `${seats.join(' or ')} ${seats.at(-1) === 1 ? 'seat' : 'seats'}`;

async function listSheets(options: RemoteOptions): Promise<void> {
  const sheets = await clientFor(options).sheets();
  if (options.json) return printJson(sheets);
  for (const sheet of sheets) {
    print(
      `${paint.bold(sheet.name)}  ${paint.dim(`${seatsText(sheet.seats)} · ${sheet.hash.slice(0, 12)} · ${sheet.tables} open ${sheet.tables === 1 ? 'table' : 'tables'}${sheet.versions > 1 ? ` · ${sheet.versions} versions` : ''}`)}`,
    );
    if (sheet.blurb) print(`  ${sheet.blurb}`);
  }
}

async function addSheet(file: string, options: RemoteOptions): Promise<void> {
  // Parts beside the file are known here alone; what is wrong with the sheet the service says as well.
  const { source, text, program } = await readSheet(file);
  const tests = rehearsalsOf(file);
  const rehearsals = existsSync(tests) ? await readText(tests) : undefined;
  const sheet = await clientFor(options).addSheet({
    source: program ? text : source,
    ...(rehearsals === undefined ? {} : { rehearsals }),
  });
  if (options.json) return printJson(sheet);
  print(`${paint.bold(sheet.name)} is on the shelf, version ${sheet.hash.slice(0, 12)}.`);
  print(paint.dim(`Next: ./wily tables open "${sheet.name}"`));
}

async function showSheet(name: string, options: RemoteOptions): Promise<void> {
  const sheet = await clientFor(options).sheet(name);
  if (options.json) return printJson(sheet);
  print(sheet.source.trimEnd());
}

interface OpenOptions extends RemoteOptions {
  seats?: string;
  set?: string[];
  seed?: string;
  showsSeed?: boolean;
  gather?: boolean;
  pace?: string;
  clocks: boolean;
  hints: boolean;
}

async function openTable(sheetName: string, options: OpenOptions): Promise<void> {
  const client = clientFor(options);
  const { plan, hash } = await client.sheet(sheetName);
  const wish = {
    sheet: hash,
    seats: seatsFrom(options.seats, plan.seats, plan.bots, 'people'),
    settings: settingsFrom(options.set ?? [], plan.settings),
    clocks: options.clocks,
    hints: options.hints,
    ...(options.showsSeed === undefined ? {} : { showsSeed: options.showsSeed }),
    ...(options.pace === undefined ? {} : { pace: Number(options.pace) }),
  };
  if (options.gather) {
    if (options.seed !== undefined)
      throw new Exit(
        'A table with a typed seed takes no chance from its seats.',
        WRONG_USE,
        'Leave out --seed or --gather.',
      );
    return gather(client, wish, options);
  }
  const opened = await client.openTable({ ...wish, ...(options.seed === undefined ? {} : { seed: options.seed }) });
  if (options.json) return printJson(opened);
  printOpened(opened, options);
}

interface ListOptions extends RemoteOptions {
  status?: TableSummary['status'];
  limit?: string;
  after?: string;
}

async function listTables(options: ListOptions): Promise<void> {
  const { status, after } = options;
  const limit = options.limit === undefined ? undefined : Number(options.limit);
  const { tables, next } = await clientFor(options).tablePage({ status, after, limit });
  if (options.json) return printJson(tables);
  if (tables.length === 0 && after === undefined && status === undefined)
    print('There is no table yet. Open one with: ./wily tables open "Lantern Twenty-One"');
  for (const table of tables) print(tableLine(table));
  if (next !== null) print(paint.dim(`There are more: ./wily tables list --after ${next}`));
}

interface LookOptions extends RemoteOptions {
  as?: string;
}

/** Whose eyes: the word given, else the first seat held by a person. */
function viewerFor(
  table: TableSummary,
  word: string | undefined,
  isSeatKey: boolean,
): number | 'watch' | 'open' | undefined {
  if (word === 'watch' || word === 'open') return word;
  if (word !== undefined) return seatIn(table, word);
  return isSeatKey ? undefined : (table.seats.find((seat) => seat.bot === null)?.seat ?? 'watch');
}

async function showTable(id: string, options: LookOptions & { at?: string }): Promise<void> {
  const client = clientFor(options);
  const table = await client.table(id);
  const { role } = await client.session();
  const viewer = viewerFor(table, options.as, role !== 'developer');
  if (options.at !== undefined && !/^\d+$/.test(options.at))
    throw new Exit(`--at is the number of a state, not "${options.at}".`, WRONG_USE);
  const view =
    options.at === undefined ? await client.view(id, viewer) : (await client.past(id, Number(options.at), viewer)).view;
  if (options.json) return printJson(view);
  for (const line of tableLines(view, await client.plan(id))) print(line);
  print();
  print(standing(table, view.waiting));
}

function standing(table: TableSummary, waiting: { kind: string; seats?: readonly number[] }): string {
  if (table.status === 'closed') return 'The table is closed.';
  if (table.status === 'fault') return `The sheet made a fault in line ${table.fault?.line}: ${table.fault?.message}`;
  if (waiting.kind === 'over') return 'The game is over.';
  if (waiting.kind === 'pause') return 'The table pauses for a moment.';
  const names = (waiting.seats ?? []).map((seat) => table.seats[seat - 1]?.name);
  return `${names.join(' and ')} ${names.length === 1 ? 'is' : 'are'} asked.`;
}

interface ChooseOptions extends RemoteOptions {
  seat?: string;
  once?: string;
}

async function choose(id: string, option: string | undefined, words: string[], options: ChooseOptions): Promise<void> {
  const client = clientFor(options);
  const table = await client.table(id);
  const { role } = await client.session();
  const seat = role === 'developer' ? await seatToPlay(client, table, options.seat) : undefined;
  const offered = await client.offers(id, seat);
  const name = table.seats[offered.seat - 1]?.name;
  if (option === undefined) {
    if (options.json) return printJson(offered);
    if (offered.offers.length === 0) {
      const { waiting } = await client.view(id, role === 'developer' ? 'watch' : undefined);
      return print(`${name} may choose nothing now. ${standing(table, waiting)}`);
    }
    print(`${paint.bold(name ?? '')} may choose:`);
    for (const line of offerLines(offered.offers)) print(line);
    return print(
      paint.dim(
        `Choose with: ./wily tables choose ${id} ${offered.offers.find((o) => o.legal)?.option ?? 'OPTION'}${offered.offers.find((o) => o.legal)?.params[0] ? ' VALUE' : ''}`,
      ),
    );
  }
  const legal = offered.offers.filter((offer) => offer.legal);
  const chosen =
    offered.offers.find((offer) => offer.option === option) ??
    (/^\d+$/.test(option) ? legal[Number(option) - 1] : undefined);
  const args = chosen?.legal ? argsFrom(chosen, words) : plainArgs(words);
  const done = await client.choose(id, {
    ask: offered.ask,
    option: chosen?.option ?? option,
    args,
    once: options.once ?? randomUUID(),
    ...(seat === undefined ? {} : { seat }),
  });
  if (options.json) return printJson(done);
  const steps = await client.steps(id, done.number - 1, seat);
  for (const step of steps) for (const line of step.lines) print(sentence(line.text));
  if (steps.every((step) => step.lines.length === 0))
    print(`Kept as number ${done.number}; the others have not answered yet.`);
}

/** With a developer key: the seat that was named, or the person who is asked. */
async function seatToPlay(
  client: ReturnType<typeof clientFor>,
  table: TableSummary,
  word: string | undefined,
): Promise<number> {
  if (word !== undefined) return seatIn(table, word);
  const { waiting } = await client.view(table.id, 'watch');
  const people = table.seats.filter((seat) => seat.bot === null);
  const asked = people.find((seat) => waiting.seats?.includes(seat.seat));
  const seat = asked ?? people[0];
  if (!seat) throw new Exit('All seats of this table are held by bots.', NO, 'Watch it with: ./wily tables watch');
  return seat.seat;
}

async function watch(id: string, options: LookOptions): Promise<void> {
  const client = clientFor(options);
  const table = await client.table(id);
  const { role } = await client.session();
  const as = viewerFor(table, options.as, role !== 'developer');
  await new Promise<void>((done, failed) => {
    const follow = client.follow(id, {
      as,
      onView: (view, steps) => {
        for (const step of steps)
          for (const line of step.lines) {
            if (options.json) print(JSON.stringify(line));
            else
              print(
                line.kind === 'chapter'
                  ? paint.bold(line.text)
                  : `${paint.dim(String(line.number).padStart(4))} ${sentence(line.text)}`,
              );
          }
        if (view.waiting.kind === 'over') end();
      },
      onStatus: (now) => {
        if (now.status !== 'open') end();
      },
      onProblem: failed,
    });
    const end = (): void => {
      follow.stop();
      done();
    };
    process.once('SIGINT', end);
  });
}

async function record(id: string, options: RemoteOptions): Promise<void> {
  write(await clientFor(options).record(id));
}

/** What a viewer may check of the shuffles, to be kept and verified anywhere. */
async function fairness(id: string, options: RemoteOptions & { as?: string }): Promise<void> {
  const client = clientFor(options);
  const as = viewerFor(await client.table(id), options.as, (await client.session()).role !== 'developer');
  write(await client.fairness(id, as));
}

async function close(id: string, options: RemoteOptions): Promise<void> {
  const table = await clientFor(options).closeTable(id);
  if (options.json) return printJson(table);
  print(`Table ${table.id} is ${table.status}.`);
}

async function deleteTable(id: string, options: RemoteOptions): Promise<void> {
  await clientFor(options).deleteTable(id);
  if (options.json) return printJson({ deleted: id });
  print(`Table ${id} is deleted, with its record and its keys.`);
}

async function retryTable(id: string, options: RemoteOptions): Promise<void> {
  const table = await clientFor(options).retryTable(id);
  if (options.json) return printJson(table);
  print(`Table ${table.id} can be played again: it stands at choice ${table.number}.`);
}

async function deleteSheet(name: string, options: RemoteOptions): Promise<void> {
  await clientFor(options).deleteSheet(name);
  if (options.json) return printJson({ deleted: name });
  print(`The sheet ${name} is deleted.`);
}

async function looks(id: string, options: RemoteOptions): Promise<void> {
  const found = await clientFor(options).looks(id);
  if (options.json) return printJson(found);
  if (found.length === 0) print('Nobody has looked at this table with other eyes than their own.');
  for (const { what, by, number, at } of found)
    print(`${paint.dim(at)}  ${by === undefined ? '' : `${by}: `}${what} ${paint.dim(`at number ${number}`)}`);
}

async function endWatching(id: string, options: RemoteOptions): Promise<void> {
  await clientFor(options).endWatchKeys(id);
  if (options.json) return printJson({ ended: 'watch' });
  print(`All keys to watch ${id} have ended.`);
}

async function openConsole(options: RemoteOptions): Promise<void> {
  const client = clientFor(options);
  const { word, until } = await client.makeLogin();
  const link = `${client.options.address}/#open=${word}`;
  if (options.json) return printJson({ link, until });
  print(link);
  print(paint.dim('It opens the console once, within two minutes.'));
}

/** `sheets` and `tables`: against a service that runs. */
export function addRemoteCommands(program: Command): void {
  const sheets = program
    .command('sheets')
    .description('the sheets of a running service')
    .addHelpText('after', '\nExamples:\n  ./wily sheets list\n  ./wily sheets add river-nines.motley');
  remote(sheets.command('list').description('all sheets, newest version of each')).action(listSheets);
  remote(sheets.command('add <file>').description('add a sheet with its rehearsals')).action(addSheet);
  remote(sheets.command('delete <name>').description('delete a version of a sheet that no table uses')).action(
    deleteSheet,
  );
  remote(sheets.command('show <name>').description("a sheet's text, by name or hash")).action(showSheet);

  remote(program.command('open').description('print a link that opens the console, once')).action(openConsole);

  const tables = program
    .command('tables')
    .description('the tables of a running service')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily tables open "Lantern Twenty-One" --seats Wren,Otter:steady\n  ./wily tables list\n  ./wily tables choose TABLE\n  ./wily tables choose TABLE bet 20\n  ./wily tables invite TABLE Otter\n  ./wily tables branch TABLE 12',
    );
  remote(
    tables
      .command('open <sheet>')
      .description('open a table')
      .option('--seats <list>', 'who sits where: names, with :bot for a bot, such as Wren,Otter:steady')
      .option('--set <setting...>', 'settings, such as rounds=5 stake=100')
      .option('--seed <word>', 'fixes every shuffle; such a table promises no fairness')
      .option('--shows-seed', 'once the game is over its seed is shown, and with it all hands')
      .option('--no-shows-seed', 'it is not, whatever the sheet says')
      .option('--gather', 'every seat gives chance to the shuffle before anything is dealt')
      .option('--pace <milliseconds>', 'how long bots wait before they play')
      .option('--no-clocks', 'turn clocks do not run')
      .option('--no-hints', 'seats may not ask what thinking would choose'),
  ).action(openTable);
  remote(
    tables
      .command('list')
      .description('tables, the newest first, a page at a time')
      .option('--status <status>', 'only those that are open, over, closed or fault')
      .option('--limit <number>', 'how many, 50 unless it is said and 200 at most')
      .option('--after <place>', 'where the page before ended'),
  ).action(listTables);
  remote(tables.command('looks <table>').description('who looked with other eyes than their own')).action(looks);
  remote(tables.command('end-watching <table>').description('end all keys to watch a table')).action(endWatching);
  remote(tables.command('delete <table>').description('delete a table with its record and its keys')).action(
    deleteTable,
  );
  remote(
    tables.command('retry <table>').description('try once more to load a table that could not be played again'),
  ).action(retryTable);
  remote(
    tables
      .command('show <table>')
      .description('how a table stands, or stood')
      .option('--as <viewer>', 'a seat, watch or open')
      .option('--at <number>', 'after so many choices'),
  ).action(showTable);
  remote(
    tables
      .command('choose <table> [option] [values...]')
      .description('choose; without an option: what may be chosen, and what may not now with the reason')
      .option('--seat <seat>', 'with a developer key: for which seat')
      .option('--once <word>', 'your own word for this choice: sent twice, it counts once'),
  ).action(choose);
  remote(
    tables
      .command('watch <table>')
      .description('follow a table, sentence by sentence')
      .option('--as <viewer>', 'a seat, watch or open'),
  ).action(watch);
  remote(tables.command('record <table>').description('the record, as NDJSON')).action(record);
  remote(
    tables
      .command('fairness <table>')
      .description('what may be checked of the shuffles, for ./wily verify')
      .option('--as <viewer>', 'a seat, or watch'),
  ).action(fairness);
  addTogetherCommands(tables);
  remote(tables.command('close <table>').description('close a table')).action(close);
}
