import { type FairVerdict, type Given, headOf, verifyFairness } from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { readText } from '../files.js';
import { paint, print, printJson } from '../show/paint.js';

/** What was given, as it is written: whether it has the right form is all that is believed of it. @throws Exit */
function givenIn(file: string, text: string): Given {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new Exit(`${file} is no JSON: save it with ./wily tables fairness TABLE > fairness.json`, WRONG_USE);
  }
  const given = value as Partial<Given> | null;
  const isGiven =
    given?.form === 'wily-jester-fair/1' &&
    Array.isArray(given.shuffles) &&
    Array.isArray(given.cards) &&
    given.cards.every((card) => Array.isArray(card?.path)) &&
    Array.isArray(given.facts?.seats) &&
    Array.isArray(given.facts?.deck);
  if (!isGiven) throw new Exit(`${file} is not what ./wily tables fairness gives.`, WRONG_USE);
  return given as Given;
}

/** Who could choose the shuffles, in words. */
function chanceWords({ facts, took = [], voids = [] }: Given): string {
  if (took.length === 0)
    return 'No seat gave chance of its own: the service alone chose the seed, and could not change it afterwards.';
  const names = took.map((seat) => facts.seats[seat - 1]).join(', ');
  const anew =
    voids.length === 0
      ? ''
      : ` It was drawn anew ${voids.length === 1 ? 'once' : `${voids.length} times`}, where a seat did not show what it had promised.`;
  return `${names} gave chance: neither the service nor a seat alone could choose the cards.${anew}`;
}

function printVerdict(given: Given, { agrees, checks, cards, isWhole }: FairVerdict): void {
  print(paint.bold(`Table ${given.facts.table}, ${given.facts.seats.join(', ')}`));
  for (const { what, agrees: does, wrong } of checks)
    print(does ? `  ${paint.green('✓')} ${what}` : `  ${paint.red('✗')} ${what}: ${wrong}`);
  const opened = `${cards.agree} of ${cards.opened} opened cards agree`;
  const others =
    cards.seenNotOpened > 0 ? `; ${cards.seenNotOpened} more were seen, and came by way of another hand` : '';
  print(`  ${opened}${others}.`);
  print(
    `  ${given.shuffles.length} ${given.shuffles.length === 1 ? 'shuffle was' : 'shuffles were'} promised before a card of it moved.`,
  );
  print(paint.dim(`  ${chanceWords(given)}`));
  print(
    paint.dim(
      isWhole
        ? '  The seed was shown: all orders come from it.'
        : '  The seed was not shown: what was never opened cannot be checked.',
    ),
  );
  print(`  fingerprint ${headOf(given)}${paint.dim(': whoever has the same was promised the same')}`);
  print(agrees ? paint.green('  All of it agrees.') : paint.red('  It does not agree: this is not what was promised.'));
}

async function verify(file: string, { json }: { json?: boolean }): Promise<void> {
  const given = givenIn(file, await readText(file));
  const verdict = verifyFairness(given);
  if (json) printJson({ ...verdict, fingerprint: headOf(given) });
  else printVerdict(given, verdict);
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
      '\nExamples:\n  ./wily tables fairness TABLE --as 1 > fairness.json\n  ./wily verify fairness.json',
    )
    .action(verify);
}
