import { layoutOf } from '../machine/layout.js';
import { type Setup, SetupError } from '../machine/setup.js';
import { REGULARS } from '../program/names.js';
import type { Program } from '../program/types.js';
import { type TrialArm, trialPolicy, usualBot } from './trial.js';

/** What is held against each other. */
export interface Comparison {
  /** A setting's name, or `bots`. */
  readonly name: string;
  readonly values: readonly (number | boolean | string)[];
}

/** What a trial of one sheet is asked for. */
export interface TrialWish {
  readonly settings?: Setup['settings'];
  readonly seats?: number | undefined;
  /** One bot for all seats, or one for each. */
  readonly bots?: readonly string[] | undefined;
  readonly compare?: Comparison | undefined;
}

const MOST_ARMS = 8;

/** How many seats there are where nothing is said: the fewest, but two where that may be and one may not. */
function seatsOf(program: Program, wanted: number | undefined): number {
  const fewest = Math.min(...program.seats);
  const seats = wanted ?? (program.seats.includes(2) && fewest > 1 ? 2 : fewest);
  if (!program.seats.includes(seats))
    throw new SetupError(`"${program.name}" is for ${program.seats.join(', ')} seats, not ${seats}.`);
  return seats;
}

/** Who plays each seat. @throws SetupError where the sheet has no such bot, or they are not as many as seats */
function botsOf(program: Program, seats: number, bots: readonly string[] | undefined): string[] {
  const named = bots ?? [usualBot(program)];
  for (const name of named) trialPolicy(program, name);
  if (named.length !== 1 && named.length !== seats)
    throw new SetupError(`Name one bot for all seats, or one for each of ${seats}.`);
  return Array.from({ length: seats }, (_, seat) => named[seat % named.length] as string);
}

const wordFor = (value: number | boolean | string): string =>
  value === true ? 'yes' : value === false ? 'no' : String(value);

/**
 * The arms of a trial: one, or as many as are compared.
 * @throws SetupError where something does not fit the sheet
 */
export function trialArms(program: Program, wish: TrialWish): TrialArm[] {
  const arms = armsOf(program, wish);
  // Settings that do not fit are refused before anything is played.
  for (const { settings, bots } of arms)
    layoutOf(program, { seats: REGULARS.slice(0, bots.length), ...(settings ? { settings } : {}) });
  return arms;
}

function armsOf(program: Program, wish: TrialWish): TrialArm[] {
  const seats = seatsOf(program, wish.seats);
  const bots = botsOf(program, seats, wish.bots);
  const { settings = {}, compare } = wish;
  if (!compare) return [{ label: program.name, program, settings, bots }];
  const { name, values } = compare;
  if (values.length < 2 || values.length > MOST_ARMS)
    throw new SetupError(`Two to ${MOST_ARMS} values are held against each other, not ${values.length}.`);
  if (name === 'bots')
    return values.map((value) => ({
      label: String(value),
      program,
      settings,
      bots: botsOf(program, seats, [String(value)]),
    }));
  if (!program.settings.some((setting) => setting.name === name))
    throw new SetupError(
      `"${program.name}" has no setting "${name}". It has ${program.settings.map((one) => one.name).join(', ') || 'none'}; "bots" compares who plays.`,
    );
  return values.map((value) => ({
    label: `${name} ${wordFor(value)}`,
    program,
    settings: { ...settings, [name]: value },
    bots,
  }));
}
