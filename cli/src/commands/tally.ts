import { figuresOfRecord, ReplayError } from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, NO } from '../exit.js';
import { programIn, readText } from '../files.js';
import { recordIn } from '../records.js';
import { printJson } from '../show/print.js';
import { printGame } from '../trial/lines.js';

async function tally(file: string, { sheet, json }: { sheet: string; json?: boolean }): Promise<void> {
  const { program } = await programIn(sheet);
  const { header, rows } = recordIn(file, await readText(file));
  try {
    const figures = figuresOfRecord(program, header, rows);
    if (json) printJson(figures);
    else printGame(`${program.name}, ${header.seats.join(', ')}`, figures);
  } catch (error) {
    if (error instanceof ReplayError) throw new Exit(`${file} does not hold on ${sheet}: ${error.message}`, NO);
    throw error;
  }
}

/** `tally`: what a sheet counts, of one game that was played. */
export function addTallyCommand(program: Command): void {
  program
    .command('tally <record>')
    .description('what a sheet counts in one game that was played, out of its whole record')
    .requiredOption('--sheet <file>', 'the sheet that it was played on')
    .option('--json', 'as JSON')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily tables record TABLE > record.ndjson\n  ./wily tally record.ndjson --sheet game.motley',
    )
    .action(tally);
}
