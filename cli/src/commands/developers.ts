import type { Command } from 'commander';
import { clientFor, type RemoteOptions, remote } from '../remote.js';
import { paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';

async function list(options: RemoteOptions): Promise<void> {
  const developers = await clientFor(options).developers();
  if (options.json) return printJson(developers);
  for (const { name, tables } of developers)
    print(`${paint.bold(name)}  ${paint.dim(`${tables} open ${tables === 1 ? 'table' : 'tables'}`)}`);
}

async function add(name: string, options: RemoteOptions): Promise<void> {
  const added = await clientFor(options).addDeveloper(name);
  if (options.json) return printJson(added);
  print(added.key);
  print(paint.dim(`The key of ${name}, shown this once: they set it as WILY_KEY.`));
}

async function end(name: string, options: RemoteOptions): Promise<void> {
  await clientFor(options).endDeveloper(name);
  if (options.json) return printJson({ ended: name });
  print(`The keys and sessions of ${name} have ended; sheets, tables and trials of theirs stay.`);
}

/** `developers`: who develops on a running service, each with a key and a share of the machine. */
export function addDeveloperCommands(program: Command): void {
  const developers = program
    .command('developers')
    .description('those who develop on a running service')
    .addHelpText('after', '\nExamples:\n  ./wily developers add heron\n  ./wily developers end heron');
  remote(developers.command('list').description('all of them, with their open tables')).action(list);
  remote(developers.command('add <name>').description('add one, and print their key')).action(add);
  remote(developers.command('end <name>').description('end their keys and sessions; what they made stays')).action(end);
}
