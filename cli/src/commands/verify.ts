import { FairFormError, type FairLine, type FairVerdict, readFairness, verifyFairness } from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { readText } from '../files.js';
import { paint, print, printJson } from '../show/paint.js';

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
function chanceWords({ facts, took, voids }: FairVerdict): string {
  if (took.length === 0)
    return 'No seat gave chance of its own: the service alone chose the seed, and could not change it afterwards.';
  const names = took.map((seat) => facts.seats[seat - 1]).join(', ');
  const anew =
    voids === 0
      ? ''
      : ` It was drawn anew ${voids === 1 ? 'once' : `${voids} times`}, where a seat did not show what it had promised.`;
  return `${names} gave chance: neither the service nor a seat alone could choose the cards.${anew}`;
}

function printVerdict(verdict: FairVerdict): void {
  const { agrees, checks, facts, cards, shuffles, isWhole, head } = verdict;
  print(paint.bold(`Table ${facts.table}, ${facts.seats.join(', ')}`));
  for (const { what, agrees: does, wrong } of checks)
    print(does ? `  ${paint.green('✓')} ${what}` : `  ${paint.red('✗')} ${what}: ${wrong}`);
  const opened = `${cards.agree} of ${cards.opened} opened cards agree`;
  const others =
    cards.seenNotOpened > 0 ? `; ${cards.seenNotOpened} more were seen, and came by way of another hand` : '';
  print(`  ${opened}${others}.`);
  print(
    `  ${shuffles.promised} ${shuffles.promised === 1 ? 'shuffle was' : 'shuffles were'} promised before a card of it moved.`,
  );
  if (shuffles.earlier > 0)
    print(
      paint.dim(`  The first ${shuffles.earlier} are told no more: what was saved of them earlier can be checked.`),
    );
  print(paint.dim(`  ${chanceWords(verdict)}`));
  print(
    paint.dim(
      isWhole
        ? '  The seed was shown: all orders come from it.'
        : '  The seed was not shown: what was never opened cannot be checked.',
    ),
  );
  print(`  fingerprint ${head}${paint.dim(': whoever has the same was told the same')}`);
  print(agrees ? paint.green('  All of it agrees.') : paint.red('  It does not agree: this is not what was promised.'));
}

async function verify(file: string, { json }: { json?: boolean }): Promise<void> {
  const verdict = verifyFairness(givenIn(file, await readText(file)));
  if (json) printJson(verdict);
  else printVerdict(verdict);
  if (!verdict.agrees) process.exitCode = NO;
}

/** `verify`: whether the shuffles of a table are what was promised, without the service. */
export function addVerifyCommand(program: Command): void {
  program
    .command('verify <file>')
    .description(
      'check the shuffles of a table against what was promised, without the service (- reads standard input)',
    )
    .option('--json', 'as JSON')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily tables fairness TABLE --as 1 > fair.ndjson\n  ./wily verify fair.ndjson',
    )
    .action(verify);
}
