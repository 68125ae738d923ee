import { botLines, type LineReport, type Program } from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { programIn } from '../files.js';
import { paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';
import { wholeNumber } from '../words.js';
import { settingsOf } from './seating.js';

interface BotsWishes {
  bot?: string;
  games: string;
  playouts: string;
  every: string;
  seats?: string;
  seed: string;
  set?: string[];
  json?: boolean;
}

/** The numbers of the bots that are meant. @throws Exit where the sheet has none, or none of that name */
function meant(program: Program, name: string | undefined): number[] {
  const all = program.bots.map((_, i) => i);
  if (all.length === 0) throw new Exit('This sheet has no bots: ./wily play gives it opponents that think.', NO);
  if (name === undefined) return all;
  const found = program.bots.findIndex((bot) => bot.name === name);
  if (found >= 0) return [found];
  const names = program.bots.map((bot) => bot.name).join(', ');
  throw new Exit(`This sheet has no bot "${name}".`, WRONG_USE, `It has ${names}.`);
}

async function reportBots(file: string, wishes: BotsWishes): Promise<void> {
  const { program, source } = await programIn(file);
  const options = {
    games: wholeNumber('--games', wishes.games, 1, 100_000),
    playouts: wholeNumber('--playouts', wishes.playouts, 10, 100_000),
    every: wholeNumber('--every', wishes.every, 1, 10_000),
    seed: wholeNumber('--seed', wishes.seed, 0, 1_000_000),
    settings: settingsOf(program, wishes.set),
    ...(wishes.seats === undefined
      ? {}
      : { seats: wholeNumber('--seats', wishes.seats, Math.min(...program.seats), Math.max(...program.seats)) }),
  };
  const reports = meant(program, wishes.bot).map((bot) => ({
    bot: program.bots[bot]?.name ?? '',
    lines: botLines(program, bot, options),
  }));
  if (wishes.json) {
    printJson(reports);
    return;
  }
  const text = source.split('\n');
  for (const { bot, lines } of reports) tell(bot, lines, text);
}

function tell(bot: string, lines: readonly LineReport[], text: readonly string[]): void {
  print(paint.bold(`bot ${bot}`));
  for (const { line, fired, looked, overruled, gain, example } of lines) {
    print(`  ${String(line).padStart(4)}  ${(text[line - 1] ?? '').trim()}`);
    if (fired === 0) {
      print(paint.yellow('        never fired'));
      continue;
    }
    const share = looked === 0 ? 'not looked at' : `clearly overruled at ${overruled} of ${looked}`;
    const cost = overruled === 0 ? '' : `, ${gain.toFixed(1)} points each`;
    print(paint.dim(`        fired ${fired.toLocaleString('en')} times; ${share}${cost}`));
    if (example)
      print(
        `        plays ${example.plays}, where ${paint.bold(example.better)} was worth ${example.gain.toFixed(1)} more`,
      );
  }
}

/** `bots`: how a sheet's own bots fare, line by line. */
export function addBotsCommand(program: Command): void {
  program
    .command('bots <file>')
    .description("a sheet's own bots, line by line: what never fires, and what thinking would do otherwise")
    .option('--bot <name>', 'this bot alone')
    .option('--games <count>', 'so many games against itself', '20')
    .option('--playouts <count>', 'so many games played on at each place', '400')
    .option('--every <count>', 'one place in so many is thought about', '10')
    .option('--seats <count>', 'how many seats')
    .option('--set <setting...>', 'settings, such as rounds=5')
    .option('--seed <number>', 'the same number gives the same games', '1')
    .option('--json', 'as JSON')
    .addHelpText('after', '\nExamples:\n  ./wily bots sheets/thorn-and-lady.motley --bot plain --set target=20')
    .action(reportBots);
}
