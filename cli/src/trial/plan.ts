import { type Program, type TrialArm, type TrialPlan, type TrialWish, trialArms, type Until } from '@wily-jester/core';
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

/** Reads `--compare softHit=no,yes`: what is compared, and its values. */
function comparison(words: string): { readonly name: string; readonly values: readonly string[] } {
  const [, name = '', list = ''] = /^(\w+)=(.+)$/.exec(words) ?? [];
  const values = list.split(',').map((value) => value.trim());
  if (name === '' || values.length < 2 || values.includes(''))
    throw new Exit(`"${words}" compares nothing: write it like softHit=no,yes or bots=steady,random.`, WRONG_USE);
  return { name, values };
}

/** The arms of a trial: one, as many as are compared, or one for each of two sheets. */
async function armsOf(program: Program, wishes: TrialWishes): Promise<TrialArm[]> {
  const wishFor = (of: Program): TrialWish => ({
    settings: settingsOf(of, wishes.set),
    bots: wishes.bots?.split(',').map((name) => name.trim()),
    seats: wishes.seats === undefined ? undefined : wholeNumber('--seats', wishes.seats, 1, 12),
  });
  if (wishes.with !== undefined) {
    if (wishes.compare !== undefined) throw new Exit('Give --compare or --with, not both.', WRONG_USE);
    const other = (await programIn(wishes.with)).program;
    const label = other.name === program.name ? wishes.with : other.name;
    return [program, other].flatMap((of, i) =>
      trialArms(of, wishFor(of)).map((arm) => (i === 0 ? arm : { ...arm, label })),
    );
  }
  if (wishes.compare === undefined) return trialArms(program, wishFor(program));
  const { name, values } = comparison(wishes.compare);
  const isSetting = program.settings.some((setting) => setting.name === name);
  const read = (value: string): number | boolean | string =>
    isSetting ? (settingsOf(program, [`${name}=${value}`])[name] ?? value) : value;
  return trialArms(program, { ...wishFor(program), compare: { name, values: values.map(read) } });
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
