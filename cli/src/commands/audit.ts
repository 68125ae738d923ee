import { writeFile } from 'node:fs/promises';
import { auditCharts, auditCsv, foundWords, probability } from '@wily-jester/charts';
import { type AuditReport, SHUFFLE_NAMES } from '@wily-jester/core';
import type { Command } from 'commander';
import { auditLines, auditNamed, startOf } from '../audit/orders.js';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { INPUT } from '../files.js';
import { padded, paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';
import { wholeNumber } from '../words.js';

interface Wishes {
  of?: string;
  shuffles: string;
  cards: string;
  start?: string;
  seed: string;
  all?: boolean;
  json?: boolean;
  csv?: boolean;
  svg?: string;
  report?: string;
}

const whole = (n: number): string => n.toLocaleString('en');

function smallestWords({ smallest, cards }: AuditReport): string[] {
  const starts = smallest.starts < 1e6 ? whole(Math.floor(smallest.starts)) : smallest.starts.toExponential(1);
  return [
    `  So many shuffles would have shown: one place that is off by ${(100 * smallest.oneCell).toFixed(1)} in a hundred, all of them by ${(100 * smallest.allCells).toFixed(1)};`,
    `  ${smallest.fixed.toFixed(3)} more cards a shuffle that stay, ${smallest.inversions.toFixed(1)} of ${((cards * (cards - 1)) / 4).toFixed(0)} pairs out of order, a seed with fewer than ${starts} starts.`,
  ];
}

function printReport(title: string, report: AuditReport, all: boolean): void {
  const color =
    report.verdict === 'nothing found' ? paint.green : report.verdict === 'suspicious' ? paint.yellow : paint.red;
  print(paint.bold(title));
  print(`  ${color(report.sentence)}`);
  const order = [...report.tests].sort((a, b) => a.p - b.p);
  const shown = all ? order : order.filter(({ corrected }) => corrected < 0.05).slice(0, 8);
  for (const test of shown) {
    const mark = test.corrected < 0.05 ? paint.red('✗') : paint.dim('·');
    const eye = test.eye === 'places' ? '' : ', from the last order';
    print(
      `  ${mark} ${padded(`${test.words}${eye}`, 46)} ${padded(foundWords(test), 44)} by chance ${probability(test.p)}`,
    );
  }
  const failed = order.filter(({ corrected }) => corrected < 0.05).length;
  if (failed > shown.length) print(paint.dim(`    and ${failed - shown.length} more: --all`));
  for (const line of smallestWords(report)) print(paint.dim(line));
  print(
    paint.dim(
      `  ${whole(report.orders)} shuffles of ${report.cards} cards, ${report.tests.length} tests, corrected for all of them.`,
    ),
  );
}

async function auditShuffles(file: string | undefined, wishes: Wishes): Promise<void> {
  if ((file === undefined) === (wishes.of === undefined))
    throw new Exit(
      'Name a file with shuffles (- reads standard input), or a known shuffle with --of.',
      WRONG_USE,
      `Known are ${SHUFFLE_NAMES.join(', ')}.`,
    );
  const shuffles = wholeNumber('--shuffles', wishes.shuffles, 2, 100_000_000);
  const cards = wholeNumber('--cards', wishes.cards, 2, 2_000);
  const start = await startOf(wishes.start);
  const { audit, title } = wishes.of
    ? (({ audit, words }) => ({ audit, title: `${wishes.of}: ${words}` }))(
        auditNamed(wishes.of, cards, shuffles, wishes.seed),
      )
    : { audit: await auditLines(file ?? INPUT, start), title: file === INPUT ? 'standard input' : (file ?? '') };
  const report = audit.report();
  if (wishes.svg !== undefined) {
    const [heat] = auditCharts(report);
    const { svgOf } = await import('@wily-jester/charts/svg');
    if (heat) await writeFile(wishes.svg, svgOf(heat, 400));
  }
  if (wishes.report !== undefined) {
    const { pageOf } = await import('../audit/page.js');
    await writeFile(wishes.report, pageOf(title, report));
  }
  if (wishes.json) printJson(report);
  else if (wishes.csv) print(auditCsv(report).trimEnd());
  else printReport(title, report, wishes.all === true);
  if (report.verdict === 'not fair') process.exitCode = NO;
}

/** `audit`: whether a shuffle is fair, of any program. */
export function addAuditCommand(program: Command): void {
  program
    .command('audit [file]')
    .description('say whether shuffles are fair: those of a file or a pipe, one a line, or a known one')
    .option(
      '--of <name>',
      `a known shuffle: ${SHUFFLE_NAMES.join(', ')}; goes-on: before it goes on from the last order`,
    )
    .option('--shuffles <number>', 'how many of a known one', '10000')
    .option('--cards <number>', 'how many cards a known one has', '52')
    .option('--seed <text>', 'the same text gives the same shuffles of a known one', '1')
    .option(
      '--start <order>',
      'how the cards lie before each shuffle: first (as in the first line), numbers, deck, or a file',
    )
    .option('--all', 'show all tests')
    .option('--json', 'as JSON')
    .option('--csv', 'the tests as CSV')
    .option('--svg <file>', 'the picture of cards and places, as SVG')
    .option('--report <file>', 'pictures and tests as one HTML page')
    .addHelpText(
      'after',
      '\nA line holds the cards from the first place on: 4♠ 10♥ … or 4S 10H … or 0 1 2 …, with blanks or commas, or a JSON array.\n\nExamples:\n  ./wily audit --of swap-anywhere\n  ./wily audit --of riffle:7 --shuffles 2000 --report riffles.html\n  my-program --shuffles 10000 | ./wily audit -',
    )
    .action(auditShuffles);
}
