import { type Program, type TrialArm, type TrialPlan, trialPolicy, type Until, usualBot } from '@wily-jester/core';
import { settingsOf } from '../commands/seating.js';
import { Exit, WRONG_USE } from '../exit.js';
import { programIn } from '../files.js';
import { wholeNumber } from '../words.js';

/** What a trial is asked for. */
export interface TrialWishes {
  games: string;
  seats?: string;
  bots?: string;
  set?: string[];
  compare?: string;
  with?: string;
  until?: string[];
  seed: string;
  longest: string;
}

const MOST_GAMES = 1_000_000_000;
const MOST_ARMS = 8;

/** Who plays each seat: one word for all of them, or as many as there are seats. */
function botsFor(program: Program, seats: number, words: string | undefined): string[] {
  const named = (words ?? usualBot(program)).split(',').map((name) => name.trim());
  for (const name of named) trialPolicy(program, name);
  if (named.length !== 1 && named.length !== seats)
    throw new Exit(`--bots names one for all seats, or one for each of ${seats}.`, WRONG_USE);
  return Array.from({ length: seats }, (_, seat) => named[seat % named.length] as string);
}

function seatsFor(program: Program, words: string | undefined): number {
  const fewest = Math.min(...program.seats);
  if (words === undefined) return program.seats.includes(2) && fewest > 1 ? 2 : fewest;
  return wholeNumber('--seats', words, fewest, Math.max(...program.seats));
}

/** Reads `--compare softHit=no,yes`: what is compared, and its values. */
function comparison(words: string): { readonly name: string; readonly values: readonly string[] } {
  const [, name = '', list = ''] = /^(\w+)=(.+)$/.exec(words) ?? [];
  const values = list.split(',').map((value) => value.trim());
  if (name === '' || values.length < 2 || values.includes(''))
    throw new Exit(`"${words}" compares nothing: write it like softHit=no,yes or bots=steady,random.`, WRONG_USE);
  if (values.length > MOST_ARMS) throw new Exit(`--compare holds at most ${MOST_ARMS} values.`, WRONG_USE);
  return { name, values };
}

/** The arms of a trial: one, or as many as are compared. */
async function armsOf(program: Program, wishes: TrialWishes): Promise<TrialArm[]> {
  const settings = settingsOf(program, wishes.set);
  const seats = seatsFor(program, wishes.seats);
  const bots = botsFor(program, seats, wishes.bots);
  if (wishes.with !== undefined) {
    if (wishes.compare !== undefined) throw new Exit('Give --compare or --with, not both.', WRONG_USE);
    const other = (await programIn(wishes.with)).program;
    const label = other.name === program.name ? wishes.with : other.name;
    return [
      { label: program.name, program, settings, bots },
      {
        label,
        program: other,
        settings: settingsOf(other, wishes.set),
        bots: botsFor(other, seatsFor(other, wishes.seats), wishes.bots),
      },
    ];
  }
  if (wishes.compare === undefined) return [{ label: program.name, program, settings, bots }];
  const { name, values } = comparison(wishes.compare);
  if (name === 'bots')
    return values.map((value) => ({ label: value, program, settings, bots: botsFor(program, seats, value) }));
  const setting = program.settings.find((one) => one.name === name);
  if (!setting)
    throw new Exit(
      `"${program.name}" has no setting "${name}".`,
      WRONG_USE,
      `It has ${program.settings.map((one) => one.name).join(', ') || 'none'}; "bots" compares who plays.`,
    );
  return values.map((value) => ({
    label: `${name} ${value}`,
    program,
    settings: { ...settings, ...settingsOf(program, [`${name}=${value}`]) },
    bots,
  }));
}

/** Reads `--until "return" 0.001`, or `--until "return" differs`. */
function untilOf(words: readonly string[] | undefined): Until | null {
  if (words === undefined) return null;
  const [tally = '', how = ''] = words;
  if (words.length === 2 && how === 'differs') return { tally, differs: true };
  const within = Number(how);
  if (words.length !== 2 || !(within > 0))
    throw new Exit('--until takes a figure and how exactly it should be known, such as "return" 0.001.', WRONG_USE);
  return { tally, within };
}

/** Reads what a trial is asked for. @throws Exit, SetupError */
export async function planOfTrial(
  file: string,
  wishes: TrialWishes,
): Promise<{ readonly plan: TrialPlan; readonly until: Until | null; readonly hash: string }> {
  const { program, hash } = await programIn(file);
  const plan: TrialPlan = {
    arms: await armsOf(program, wishes),
    seed: wishes.seed,
    games: wholeNumber('--games', wishes.games, 1, MOST_GAMES),
    longest: wholeNumber('--longest', wishes.longest, 1, MOST_GAMES),
  };
  return { plan, until: untilOf(wishes.until), hash };
}
