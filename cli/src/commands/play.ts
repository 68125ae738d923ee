import { randomBytes } from 'node:crypto';
import { Fault, planOf } from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, NO } from '../exit.js';
import { programIn } from '../files.js';
import { type Opening, Session } from '../play/session.js';
import { faultWords } from '../show/places.js';
import { seatsFrom, settingsFrom } from './seating.js';

interface PlayOptions {
  seats?: string;
  set?: string[];
  seed?: string;
  open?: boolean;
  watch?: boolean;
}

async function play(file: string, options: PlayOptions): Promise<void> {
  const { program, source } = await programIn(file);
  const plan = planOf(program);
  const seats = seatsFrom(options.seats, plan.seats, plan.bots);
  const opening: Opening = {
    file,
    source,
    program,
    seats,
    settings: settingsFrom(options.set ?? [], plan.settings),
    seed: options.seed ?? randomBytes(8).toString('hex'),
    open: options.open === true,
    watch: options.watch === true,
  };
  try {
    await new Session(opening).run();
  } catch (error) {
    if (error instanceof Fault) throw new Exit(faultWords(program, error), NO);
    throw error;
  }
}

/** `play`: a game in the terminal, without any service. */
export function addPlayCommand(program: Command): void {
  program
    .command('play <file>')
    .description('play a sheet in the terminal; no service is needed')
    .option(
      '--seats <list>',
      'who sits where: names, with a bot or a strength behind them, such as Wren,Otter:steady,Heron:thinking; small games: solved',
    )
    .option('--set <setting...>', 'settings, such as rounds=5 stake=100')
    .option('--seed <word>', 'the same word gives the same game')
    .option('--open', 'lay everything open, the piles that nobody sees included')
    .option('--watch', 'check the sheet at every save, and replay the choices made so far on the new text')
    .addHelpText(
      'after',
      '\nAt the prompt: a number, an option with its values (bet 20), hint, undo,\nlog, help, quit.\n\nExamples:\n  ./wily play sheets/lantern-twenty-one.motley\n  ./wily play river-nines.motley --seats Wren,Otter,Heron:plain --seed lantern --watch',
    )
    .action(play);
}
