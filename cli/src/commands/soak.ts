import { writeFile } from 'node:fs/promises';
import { lineWords, type Program, type SoakReport, soak } from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { eachFile, programIn, sheetsAmong } from '../files.js';
import { junitOf, type Suite, soakSuite } from '../show/junit.js';
import { paint } from '../show/paint.js';
import { placeJson } from '../show/places.js';
import { print, printJson } from '../show/print.js';
import { wholeNumber } from '../words.js';
import { settingsOf } from './seating.js';

interface SoakOptions {
  games: string;
  seed: string;
  from: string;
  set?: string[];
  bot?: string;
  seats?: string;
  junit?: string;
  json?: boolean;
}

const figure = (n: number): string => n.toLocaleString('en');
const counted = (n: number, word: string): string => `${figure(n)} ${word}${n === 1 ? '' : 's'}`;

function report(program: Program, file: string, options: SoakOptions, found: SoakReport, seconds: number): void {
  const set = options.set ? ` --set ${options.set.join(' ')}` : '';
  for (const failure of found.failures.slice(0, 10)) {
    const at = failure.line === null ? '' : ` (${lineWords(program, failure.line)})`;
    print(
      `${paint.red('✗')} game ${failure.game}, ${counted(failure.seats, 'seat')}, after ${counted(failure.choice, 'choice')}: ${failure.what}${at}`,
    );
    print(paint.dim(`  again: ./wily soak ${file} --games 1 --from ${failure.game} --seed ${options.seed}${set}`));
  }
  if (found.failures.length > 10) print(`… and ${figure(found.failures.length - 10)} more.`);
  if (found.endless.length > 0)
    print(
      `${paint.yellow('!')} ${counted(found.endless.length, 'game')} did not end, such as game ${found.endless[0]}.`,
    );
  const never = Object.entries(found.taken).filter(([, times]) => times === 0);
  if (never.length > 0) print(`${paint.yellow('!')} never taken: ${never.map(([name]) => name).join(', ')}.`);
  const taken = Object.entries(found.taken).filter(([, times]) => times > 0);
  print(taken.map(([name, times]) => `${name} ${figure(times)}`).join(' · '));
  const { mean, least, best, games } = found.scores;
  if (best !== least)
    print(
      `Scores from ${figure(least)} to ${figure(best)}, ${mean.toFixed(2)} on average; ${figure(best)} was reached in ${counted(games, 'game')}.`,
    );
  print(
    `The heaviest step took ${counted(found.heaviest.operations, 'operation')} (${found.heaviest.line > 0 ? lineWords(program, found.heaviest.line) : 'where nobody chose'}); the longest game ${counted(found.longest, 'step')}.`,
  );
  const good = found.failures.length === 0;
  const mark = good ? paint.green('✓') : paint.red('✗');
  print(
    `${mark} ${counted(found.games, 'game')}, ${counted(found.choices, 'choice')}, ${figure(found.refused)} wrong ones refused, ${good ? 'no fault' : counted(found.failures.length, 'fault')}; ${seconds.toFixed(1)} s.`,
  );
}

async function soakFiles(named: readonly string[], options: SoakOptions): Promise<void> {
  const files = sheetsAmong(named);
  const several = files.length > 1;
  const done = await eachFile(files, (file) => soakSheet(file, options, several));
  if (options.junit !== undefined) await writeFile(options.junit, junitOf(done.map(({ suite }) => suite)));
  if (options.json) printJson(several ? done.map(({ json }) => json) : done[0]?.json);
  if (done.some(({ isGood }) => !isGood)) process.exitCode ||= NO;
}

async function soakSheet(
  file: string,
  options: SoakOptions,
  several: boolean,
): Promise<{ suite: Suite; json: object; isGood: boolean }> {
  const { program } = await programIn(file);
  const games = wholeNumber('--games', options.games, 1, 10_000_000);
  const seed = wholeNumber('--seed', options.seed, 0, 1_000_000);
  const from = wholeNumber('--from', options.from, 0, 100_000_000);
  const settings = settingsOf(program, options.set);
  const start = performance.now();
  const seats =
    options.seats === undefined
      ? undefined
      : wholeNumber('--seats', options.seats, Math.min(...program.seats), Math.max(...program.seats));
  const bot = options.bot === undefined ? undefined : program.bots.findIndex((b) => b.name === options.bot);
  if (bot === -1)
    throw new Exit(
      `This sheet has no bot "${options.bot}".`,
      WRONG_USE,
      `It has ${program.bots.map((b) => b.name).join(', ') || 'none'}.`,
    );
  const found = soak(program, {
    games,
    seed,
    from,
    settings,
    ...(bot === undefined ? {} : { bot }),
    ...(seats === undefined ? {} : { seats }),
  });
  const seconds = (performance.now() - start) / 1000;
  if (several && !options.json) print(paint.bold(program.name));
  if (!options.json) report(program, file, options, found, seconds);
  return {
    suite: soakSuite(file, found, seconds),
    json: several ? { file, ...forMachines(program, found) } : forMachines(program, found),
    isGood: found.failures.length === 0 && found.endless.length === 0,
  };
}

const forMachines = (program: Program, found: SoakReport): object => ({
  ...found,
  failures: found.failures.map((failure) =>
    failure.line === null ? failure : { ...failure, ...placeJson(program, failure.line) },
  ),
  heaviest: { ...found.heaviest, ...placeJson(program, found.heaviest.line) },
});

/** `soak`: many random games of a sheet. */
export function addSoakCommand(commands: Command): void {
  commands
    .command('soak <files...>')
    .description('play many random games of sheets, with random wrong choices, and report what goes wrong')
    .option('--games <number>', 'how many games', '1000')
    .option('--seed <number>', 'the same number gives the same games', '1')
    .option('--from <number>', 'the number of the first game', '0')
    .option('--set <setting...>', 'settings, such as rounds=5')
    .option('--bot <name>', "one of the sheet's bots plays, instead of chance")
    .option('--seats <number>', 'always so many seats')
    .option('--junit <file>', 'also write what goes wrong as JUnit XML')
    .option('--json', 'for machines')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily soak sheets/lantern-twenty-one.motley --games 2000\n  ./wily soak river-nines.motley --games 1 --from 17\n  ./wily soak sheets/*.motley --junit soaked.xml',
    )
    .action(soakFiles);
}
