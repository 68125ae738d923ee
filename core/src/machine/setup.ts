import { eachExpr } from '../program/tree.js';
import type { Expr, Program, Setting } from '../program/types.js';

/** What one table may vary of a sheet. */
export interface Setup {
  /** Who sits where; as many names as the game has seats. */
  readonly seats: readonly string[];
  /** Settings by name: numbers, `true` or `false`, or one of the setting's words. Missing ones take the sheet's value. */
  readonly settings?: Readonly<Record<string, number | boolean | string>>;
}

/** Settings or seats that do not fit the sheet. */
export class SetupError extends Error {
  override readonly name = 'SetupError';
  constructor(
    message: string,
    /** The setting in question, where there is one. */
    readonly setting?: string,
  ) {
    super(message);
  }
}

/** What is known before anything is laid out. */
export interface Known {
  readonly settings: readonly number[];
  /** The number of seats; `null` where it is not known yet. */
  readonly seats: number | null;
}

const RESULTS: Partial<Record<Extract<Expr, { k: 'op' }>['op'], (a: number, b: number) => number>> = {
  '+': (a, b) => a + b,
  '-': (a, b) => a - b,
  '*': (a, b) => a * b,
  '==': (a, b) => Number(a === b),
  '!=': (a, b) => Number(a !== b),
  '<': (a, b) => Number(a < b),
  '<=': (a, b) => Number(a <= b),
  '>': (a, b) => Number(a > b),
  '>=': (a, b) => Number(a >= b),
  and: Math.min,
  or: Math.max,
};

/**
 * A number that is known before anything is laid out: made of numbers, settings and the number of seats.
 * @param otherwise what it is where the sheet says nothing
 * @throws SetupError where it holds anything else
 */
export function knownNumber(e: Expr | null, known: Known, otherwise: number): number {
  if (e === null) return otherwise;
  switch (e.k) {
    case 'lit':
      return e.v;
    case 'setting':
      return known.settings[e.i] ?? otherwise;
    case 'fn': {
      const args = e.args.map((arg) => (arg.k === 'seats' ? 0 : knownNumber(arg, known, otherwise)));
      if (e.f === 'size' && e.args[0]?.k === 'seats' && known.seats !== null) return known.seats;
      if (e.f === 'min2') return Math.min(...args);
      if (e.f === 'max2') return Math.max(...args);
      break;
    }
    case 'if':
      return knownNumber(knownNumber(e.c, known, 0) === 0 ? e.b : e.a, known, otherwise);
    case 'not':
      return knownNumber(e.a, known, 0) === 0 ? 1 : 0;
    case 'neg':
      return -knownNumber(e.a, known, 0);
    case 'op': {
      const a = knownNumber(e.a, known, 0);
      const b = knownNumber(e.b, known, 0);
      const result = RESULTS[e.op];
      if (result) return result(a, b);
      if (e.op === '/' && b !== 0) return Math.floor(a / b);
      if (e.op === '%' && b !== 0) return a - b * Math.floor(a / b);
      break;
    }
    default:
  }
  throw new SetupError(
    `Only numbers, settings${known.seats === null ? '' : ', size(seats)'} and what is reckoned from them can stand here.`,
  );
}

/** A setting's limit or standard value: a plain number, or one that follows from settings before it. */
const numberIn = (n: number | Expr, settings: readonly number[]): number =>
  typeof n === 'number' ? n : knownNumber(n, { settings, seats: null }, 0);

/** What a setting of one table may be, and is unless it is said, once the settings before it are known. */
export interface SettingLimits {
  readonly from: number;
  readonly to: number;
  readonly standard: number;
}

/** @param settings the values of the settings before it @throws SetupError where they leave no value */
export function limitsOf({ name, domain, standard }: Setting, settings: readonly number[]): SettingLimits {
  const value = numberIn(standard, settings);
  if (domain.k !== 'range') return { from: 0, to: 0, standard: value };
  const from = numberIn(domain.from, settings);
  const to = numberIn(domain.to, settings);
  if (from > to)
    throw new SetupError(`These settings leave nothing for ${name}: it would be from ${from} to ${to}.`, name);
  // Where others moved the limits, the nearest value within them stands.
  return { from, to, standard: Math.min(to, Math.max(from, value)) };
}

/** The limits of all settings, where every one has its standard value. */
export const standardLimits = (program: Pick<Program, 'settings'>): SettingLimits[] => limitsWith(program, {});

type Given = NonNullable<Setup['settings']>;

/** Each setting's limits and value, where some are given and the others have their standard value. */
function settingsWith(
  { settings }: Pick<Program, 'settings'>,
  given: Given,
): { readonly limits: SettingLimits; readonly value: number }[] {
  const values: number[] = [];
  return settings.map((setting) => {
    const limits = limitsOf(setting, values);
    const wanted = Object.hasOwn(given, setting.name) ? given[setting.name] : undefined;
    const value = wanted === undefined ? limits.standard : readSetting(setting, limits, wanted);
    values.push(value);
    return { limits, value };
  });
}

/**
 * The limits of all settings, where some are given and the others have their standard value.
 * @throws SetupError where a given value does not do, or leaves nothing for another setting
 */
export const limitsWith = (program: Pick<Program, 'settings'>, given: Given): SettingLimits[] =>
  settingsWith(program, given).map(({ limits }) => limits);

/** Reads settings as a table gives them. @throws SetupError which says what would do */
export function readSettings(program: Program, given: Given = {}): number[] {
  demandKnown(program, given);
  return settingsWith(program, given).map(({ value }) => value);
}

/** A table's settings by name, with the values that it runs on. @param values as {@link readSettings} gives them */
export function settingsByName(
  { settings }: Pick<Program, 'settings'>,
  values: readonly number[],
): Record<string, number | boolean | string> {
  const named = settings.map(({ name, domain }, i): [string, number | boolean | string] => {
    const value = values[i] ?? 0;
    return [name, domain.k === 'flag' ? value !== 0 : domain.k === 'words' ? (domain.words[value] ?? '') : value];
  });
  return Object.fromEntries(named);
}

/** @throws SetupError where something is given that is no setting of the game */
export function demandKnown(program: Program, given: Given): void {
  const unknown = Object.keys(given).find((name) => !program.settings.some((s) => s.name === name));
  if (unknown === undefined) return;
  const names = program.settings.map((s) => s.name).join(', ');
  throw new SetupError(`"${program.name}" has no setting "${unknown}".${names ? ` It has ${names}.` : ''}`, unknown);
}

function readSetting({ name, domain }: Setting, limits: SettingLimits, value: number | boolean | string): number {
  const wrong = (range: string): SetupError =>
    new SetupError(`${name} is ${range}, not ${JSON.stringify(value)}.`, name);
  switch (domain.k) {
    case 'flag':
      if (value === true || value === 'yes') return 1;
      if (value === false || value === 'no') return 0;
      throw wrong('yes or no');
    case 'words': {
      const word = domain.words.indexOf(String(value));
      if (word < 0) throw wrong(`one of ${domain.words.join(', ')}`);
      return word;
    }
    case 'numbers':
    case 'range': {
      const n = typeof value === 'string' && value.trim() !== '' ? Number(value) : value;
      const fits =
        typeof n === 'number' &&
        Number.isInteger(n) &&
        (domain.k === 'range' ? n >= limits.from && n <= limits.to : domain.values.includes(n));
      if (!fits)
        throw wrong(
          domain.k === 'range'
            ? `a whole number from ${limits.from} to ${limits.to}`
            : `one of ${domain.values.join(', ')}`,
        );
      return n as number;
    }
  }
}

/** The settings before it that a setting's limits or standard value follow from, by name. */
export function settingsRead(program: Pick<Program, 'settings'>, { domain, standard }: Setting): string[] {
  const found = new Set<number>();
  const limits = domain.k === 'range' ? [domain.from, domain.to, standard] : [standard];
  for (const limit of limits)
    if (typeof limit !== 'number')
      eachExpr(limit, (e) => {
        if (e.k === 'setting') found.add(e.i);
      });
  return [...found].sort((a, b) => a - b).map((i) => program.settings[i]?.name ?? '');
}
