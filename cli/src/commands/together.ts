import type { Opened, TableSummary } from '@wily-jester/protocol';
import type { Command } from 'commander';
import { Exit, WRONG_USE } from '../exit.js';
import { readText } from '../files.js';
import { addressFor, clientFor, type RemoteOptions, remote, seatIn } from '../remote.js';
import { paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';
import { tableLine } from '../show/table.js';

/** A newly opened table with its keys, which are shown this once, and where each of them opens it. */
export function printOpened(opened: Opened, options: RemoteOptions): void {
  const link = (key: string): string => `${addressFor(options)}/join/${opened.table.id}#${key}`;
  print(tableLine(opened.table));
  for (const { seat, key } of opened.keys.seats)
    print(`  key of seat ${seat}, ${opened.table.seats[seat - 1]?.name}: ${key}\n    ${link(key)}`);
  print(`  key to watch: ${opened.keys.watch}\n    ${link(opened.keys.watch)}`);
  print(`  key of the host: ${opened.keys.host}`);
  print(paint.dim('  Keys are shown this once. Whoever opens such a link sits down with its key.'));
  print(paint.dim(`Next: ./wily tables choose ${opened.table.id}`));
}

/** Who holds a seat, in words. */
function holding({ name, held, bot, present, away }: TableSummary['seats'][number]): string {
  if (held === 'bot') return `${name} is played by the bot ${bot}.`;
  if (held === 'free') return `${name} has left; the clock answers for that seat at once.`;
  return `${name} is played by a person, ${present ? 'who is here' : away ? 'who is away' : 'who is not here'}.`;
}

async function seat(
  id: string,
  word: string | undefined,
  what: string | undefined,
  bot: string | undefined,
  options: RemoteOptions,
): Promise<void> {
  const client = clientFor(options);
  let table = await client.table(id);
  if (word !== undefined) {
    const number = seatIn(table, word);
    if (what === 'take') table = await client.takeSeat(id, number);
    else if (what === 'leave') table = await client.leaveSeat(id, number);
    else if (what === 'bot') table = await client.botSeat(id, number, bot);
    else if (what !== undefined)
      throw new Exit(
        `A seat is taken with "take", left with "leave", or handed over with "bot", not "${what}".`,
        WRONG_USE,
      );
  }
  if (options.json) return printJson(table.seats);
  for (const one of table.seats) print(holding(one));
}

async function invite(id: string, word: string | undefined, options: RemoteOptions): Promise<void> {
  const client = clientFor(options);
  const table = await client.table(id);
  const number = word === undefined ? undefined : seatIn(table, word);
  const made = await client.newKey(id, number === undefined ? { role: 'watch' } : { role: 'seat', seat: number });
  if (options.json) return printJson(made);
  const who = number === undefined ? 'watches' : `plays ${table.seats[number - 1]?.name}`;
  print(`Whoever opens this ${who}:`);
  print(`  ${client.options.address}/join/${id}#${made.key}`);
  print(
    paint.dim(
      number === undefined ? '  It is shown this once.' : '  It is shown this once; older keys of the seat have ended.',
    ),
  );
}

async function load(file: string, options: RemoteOptions & { bots?: boolean }): Promise<void> {
  const opened = await clientFor(options).loadRecord(await readText(file), options.bots === true);
  if (options.json) return printJson(opened);
  print(`All ${opened.table.number} choices were carried out again, and every digest agrees.`);
  printOpened(opened, options);
}

async function branch(id: string, number: string, options: RemoteOptions & { same?: boolean }): Promise<void> {
  if (!/^\d+$/.test(number)) throw new Exit(`NUMBER is how many choices are kept, not "${number}".`, WRONG_USE);
  const opened = await clientFor(options).branch(id, { number: Number(number), same: options.same === true });
  if (options.json) return printJson(opened);
  print(options.same ? 'Every card lies as it lay.' : 'What no player had seen is dealt anew.');
  printOpened(opened, options);
}

/** Commands about a table that several people share, its past, and its record. */
export function addTogetherCommands(tables: Command): void {
  remote(
    tables
      .command('seats <table> [seat] [what] [bot]')
      .description('who holds which seat; with a seat: take it, leave it, or hand it to a bot'),
  ).action(seat);
  remote(
    tables
      .command('invite <table> [seat]')
      .description('a link for a seat, whose older keys end; without one, to watch'),
  ).action(invite);
  remote(
    tables
      .command('load <file>')
      .description('open a record again as a new table, comparing every digest')
      .option('--bots', 'bots go on where bots had played'),
  ).action(load);
  remote(
    tables
      .command('branch <table> <number>')
      .description('go on from a number as a new table; unseen cards are dealt anew')
      .option('--same', 'every card lies as it lay'),
  ).action(branch);
}
