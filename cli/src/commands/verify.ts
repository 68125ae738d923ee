import { createHash } from 'node:crypto';
import {
  type Check,
  FairFormError,
  type FairLine,
  type FairVerdict,
  readFairness,
  verifyFairness,
  verifyRecord,
} from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { programIn, readText } from '../files.js';
import { recordIn } from '../records.js';
import { paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';

/** What was given, as it is written. @throws Exit */
function givenIn(file: string, text: string): FairLine[] {
  try {
    return readFairness(text);
  } catch (error) {
    if (!(error instanceof FairFormError)) throw error;
    throw new Exit(
      `${file} is not what ./wily tables fairness gives. ${error.message} Save it with ./wily tables fairness TABLE > fair.ndjson`,
      WRONG_USE,
    );
  }
}

/** Who could choose the shuffles, in words. */
function chanceWords({ facts, took, voids, isWhole }: FairVerdict): string {
  if (took.length === 0)
    return isWhole
      ? 'No seat gave chance of its own: the service alone chose the seed, and every order follows from it.'
      : 'No seat gave chance of its own: the service alone chose the seed.';
  const names = took.map((seat) => facts.seats[seat - 1]).join(', ');
  const anew =
    voids === 0
      ? ''
      : ` It was drawn anew ${voids === 1 ? 'once' : `${voids} times`}, where a seat did not show what it had promised.`;
  return isWhole
    ? `${names} gave chance, and every order follows from the seed and from that: neither the service nor a seat alone could choose the cards.${anew}`
    : `${names} gave chance. Whether the shuffles were made of it is not known before the seed is shown.${anew}`;
}

function printVerdict(verdict: FairVerdict): void {
  const { agrees, checks, facts, cards, shuffles, isWhole, bindsChoices, head } = verdict;
  print(paint.bold(`Table ${facts.table}, ${facts.seats.join(', ')}`));
  for (const { what, agrees: does, wrong } of checks)
    print(does ? `  ${paint.green('✓')} ${what}` : `  ${paint.red('✗')} ${what}: ${wrong}`);
  const opened = `${cards.agree} of ${cards.opened} opened cards agree`;
  const others =
    cards.seenNotOpened > 0 ? `; ${cards.seenNotOpened} more were seen, and came by way of another hand` : '';
  print(`  ${opened}${others}.`);
  print(
    `  ${shuffles.promised} ${shuffles.promised === 1 ? 'shuffle is' : 'shuffles are'} told of, each with its promise.`,
  );
  if (shuffles.earlier > 0)
    print(
      paint.dim(`  The first ${shuffles.earlier} are told no more: what was saved of them earlier can be checked.`),
    );
  if (agrees) print(paint.dim(`  ${chanceWords(verdict)}`));
  if (!bindsChoices) print(paint.dim('  Choices are not bound: an earlier release gave this.'));
  print(
    paint.dim(isWhole ? '  The seed was shown.' : '  The seed was not shown: what was never opened cannot be checked.'),
  );
  print(`  fingerprint ${head}${paint.dim(': whoever has the same was told the same')}`);
  print(
    agrees
      ? paint.green('  All that was checked agrees.')
      : paint.red('  It does not agree: this is not what was promised.'),
  );
}

interface VerifyOptions {
  json?: boolean;
  record?: string;
  sheet?: string;
}

/** What a record comes to on its sheet, besides what was given. */
async function recordChecks(lines: readonly FairLine[], { record, sheet }: VerifyOptions): Promise<Check[]> {
  if (record === undefined && sheet === undefined) return [];
  if (record === undefined || sheet === undefined)
    throw new Exit('A record is played again on its sheet: give both --record FILE and --sheet FILE.', WRONG_USE);
  const { program, text, hash } = await programIn(sheet);
  const whole = recordIn(record, await readText(record));
  // Parts were pasted in before the sheet was sent.
  const pasted = createHash('sha256').update(text).digest('hex');
  return verifyRecord(whole, program, whole.sheet === pasted ? pasted : hash, lines);
}

async function verify(file: string, options: VerifyOptions): Promise<void> {
  const lines = givenIn(file, await readText(file));
  const given = verifyFairness(lines);
  const checks = [...given.checks, ...(await recordChecks(lines, options))];
  const verdict = { ...given, checks, agrees: checks.every(({ agrees }) => agrees) };
  if (options.json) printJson(verdict);
  else printVerdict(verdict);
  if (!verdict.agrees) process.exitCode = NO;
}

const EXAMPLES = [
  'tables fairness TABLE --as 1 > fair.ndjson',
  'verify fair.ndjson',
  'tables record TABLE > record.ndjson',
  'verify fair.ndjson --record record.ndjson --sheet game.motley',
];

/** `verify`: whether the shuffles of a table are what was promised, without the service. */
export function addVerifyCommand(program: Command): void {
  program
    .command('verify <file>')
    .description(
      'check the shuffles of a table against what was promised, without the service (- reads standard input)',
    )
    .option('--record <file>', 'the whole record of the table, to be played again')
    .option('--sheet <file>', 'the sheet that it was played on')
    .option('--json', 'as JSON')
    .addHelpText('after', `\nExamples:${EXAMPLES.map((line) => `\n  ./wily ${line}`).join('')}`)
    .action(verify);
}
