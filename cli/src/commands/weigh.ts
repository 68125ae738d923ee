import { signed } from '@wily-jester/charts';
import { type Face, parseFaces, REGULARS, type WeighedOptions, weighOptions } from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { programIn } from '../files.js';
import { padded, paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';
import { wholeNumber } from '../words.js';
import { settingsOf } from './seating.js';

interface WeighWishes {
  at: string;
  bot?: string;
  cards?: string[];
  deals: string;
  seat: string;
  seats?: string;
  seed: string;
  set?: string[];
  json?: boolean;
}

/** Reads `hand/1/1=10S 6H`. */
function promisedBy(wishes: readonly string[]): Record<string, Face[]> {
  return Object.fromEntries(
    wishes.map((wish): [string, Face[]] => {
      const [, pile, faces] = /^([^=]+)=(.+)$/.exec(wish) ?? [];
      if (pile === undefined || faces === undefined)
        throw new Exit(`"${wish}" promises no cards.`, WRONG_USE, 'Write a pile and its cards, such as house="10C".');
      return [pile.trim(), parseFaces(faces)];
    }),
  );
}

async function weigh(file: string, wishes: WeighWishes): Promise<void> {
  const { program } = await programIn(file);
  const names = program.bots.map(({ name }) => name);
  const bot = wishes.bot ?? names[0];
  if (bot === undefined || !names.includes(bot))
    throw new Exit(
      bot === undefined ? 'This sheet has no bot to hold choices against.' : `This sheet has no bot "${bot}".`,
      WRONG_USE,
      ...(names.length > 0 ? [`It has ${names.join(', ')}.`] : []),
    );
  const options = new Set(program.asks.flatMap((ask) => ask.options.map(({ name }) => name)));
  if (!options.has(wishes.at))
    throw new Exit(`This sheet has no option "${wishes.at}".`, WRONG_USE, `It has ${[...options].join(', ')}.`);
  const [least, most] = [Math.min(...program.seats), Math.max(...program.seats)];
  const seats = wholeNumber('--seats', wishes.seats ?? String(least), least, most);
  const deals = wholeNumber('--deals', wishes.deals, 100, 10_000_000);
  const found = weighOptions({
    program,
    seats: REGULARS.slice(0, seats),
    settings: settingsOf(program, wishes.set),
    promised: promisedBy(wishes.cards ?? []),
    bot,
    seat: wholeNumber('--seat', wishes.seat, 1, seats) - 1,
    at: wishes.at,
    deals,
    seed: wishes.seed,
  });
  if (found.asked === 0)
    throw new Exit(
      `In none of ${deals.toLocaleString('en')} deals seat ${wishes.seat} was asked for "${wishes.at}".`,
      NO,
    );
  if (wishes.json) printJson(found);
  else tell(found, bot, deals);
}

const WIDTH = 7;
/** Errors on either side of an interval of 95 %. */
const WIDE = 1.96;

function tell({ asked, isCut, options }: WeighedOptions, bot: string, deals: number): void {
  const width = Math.max(...options.map(({ words }) => words.length));
  for (const { words, legal, chosen, gain, error } of options) {
    const isOwn = chosen === legal;
    const often = chosen > 0 ? `  ${bot} in ${Math.round((100 * chosen) / legal)} %` : '';
    const figure = signed(gain, 3).padStart(WIDTH);
    const note = isOwn ? `what ${bot} does` : `± ${(WIDE * error).toFixed(3)}${often}`;
    const seldom = legal < asked ? paint.dim(`  in ${legal.toLocaleString('en')} deals`) : '';
    print(`  ${padded(words, width)}  ${isOwn ? paint.bold(figure) : figure}  ${note}${seldom}`);
  }
  print(
    paint.dim(
      `Points beside what ${bot} chooses there, from the same cards; asked in ${asked.toLocaleString('en')} of ${deals.toLocaleString('en')} deals.${isCut ? ' Of options with many ways only the first are weighed.' : ''}`,
    ),
  );
}

/** `weigh`: what other choices would have been worth. */
export function addWeighCommand(program: Command): void {
  program
    .command('weigh <file>')
    .description("hold a bot's choice against the others that it had, from the same cards")
    .requiredOption('--at <option>', 'the first ask of the seat with this option is looked at')
    .option('--cards <pile=cards...>', 'cards that are dealt in any case, such as house="10C"')
    .option('--bot <name>', "a bot of the sheet; without it, the sheet's first")
    .option('--deals <number>', 'how many deals', '10000')
    .option('--seat <number>', 'whose choice', '1')
    .option('--seats <number>', 'how many seats; as few as the sheet allows')
    .option('--set <setting...>', 'settings, such as rounds=1')
    .option('--seed <text>', 'the same text gives the same deals', '1')
    .option('--json', 'as JSON')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily weigh sheets/quayside-twenty-one.motley --bot chart --at hit --set rounds=1 stake=1000 insures=no \\\n    --cards hand/1/1="10S 6H" house="10C"',
    )
    .action(weigh);
}
