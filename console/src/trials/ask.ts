import type { NewTrial, Plan } from '@wily-jester/protocol';

type Value = number | boolean | string;
type Setting = Plan['settings'][number];

/** What is asked on the page: a form that a trial is made from. */
export interface Question {
  sheet: string;
  seats: number;
  bot: string;
  games: number;
  settings: Record<string, Value>;
  /** The setting that is held against itself, `bots`, or {@link NOTHING}. */
  compare: string;
  values: Value[];
}

/** Nothing is compared: no setting can be called so. */
export const NOTHING = 'nothing';

/** How many games may be chosen. */
export const GAMES = [1_000, 10_000, 100_000, 1_000_000, 10_000_000] as const;

export const valueWords = (value: Value): string => (value === true ? 'yes' : value === false ? 'no' : String(value));

/** Who may play: bots of the sheet, chance, and thinking that is counted. */
export const trialBots = (plan: Pick<Plan, 'bots'>): readonly { readonly name: string; readonly bot: string }[] => [
  ...plan.bots.map((bot) => ({ name: bot, bot })),
  { name: 'plays at random', bot: 'random' },
  { name: 'thinks, 100 playouts', bot: 'thinking 100 playouts' },
];

/** The question at first: the sheet's own bot, ten thousand games, nothing compared. */
export function firstQuestion(hash: string, plan: Plan): Question {
  const fewest = Math.min(...plan.seats);
  return {
    sheet: hash,
    seats: plan.seats.includes(2) && fewest > 1 ? 2 : fewest,
    bot: plan.bots[0] ?? 'random',
    games: 10_000,
    settings: {},
    compare: NOTHING,
    values: [],
  };
}

/** The question that a trial was asked with. */
export function questionOf({ seats, bots, games, settings, compare }: NewTrial, hash: string, plan: Plan): Question {
  const first = firstQuestion(hash, plan);
  return {
    ...first,
    games,
    seats: seats ?? first.seats,
    bot: bots?.[0] ?? first.bot,
    settings: { ...settings },
    compare: compare?.name ?? NOTHING,
    values: [...(compare?.values ?? [])],
  };
}

/** The values of a setting that are held against each other at first. */
export function firstValues(plan: Plan, name: string): Value[] {
  if (name === 'bots')
    return trialBots(plan)
      .slice(0, 2)
      .map(({ bot }) => bot);
  const setting = plan.settings.find((one) => one.name === name);
  if (!setting) return [];
  if (setting.type === 'flag') return [false, true];
  if (setting.values) return [...setting.values].slice(0, 8);
  const standard = Number(setting.standard);
  const other = setting.to !== undefined && standard + 1 > setting.to ? standard - 1 : standard + 1;
  return [standard, other];
}

/** Reads numbers that were typed, such as `2, 4, 6`; what is none is left out. */
export const numbersIn = (text: string): number[] =>
  text
    .split(/[\s,;]+/)
    .filter((part) => /^-?\d{1,9}$/.test(part))
    .map(Number);

/** What can be compared: who plays, and each setting. */
export const comparable = (plan: Plan): readonly { readonly name: string; readonly words: string }[] => [
  { name: NOTHING, words: 'nothing' },
  { name: 'bots', words: 'who plays' },
  ...plan.settings.map(({ name }) => ({ name, words: name })),
];

/** What is asked, in words that are told in lists. */
export function titleOf(question: Question, game: string): string {
  const { compare, values } = question;
  if (compare === NOTHING) return `What is ${game} like?`;
  const list = values.map(valueWords).join(' or ');
  return compare === 'bots' ? `${list}: who plays ${game} better?` : `What does ${compare} change: ${list}?`;
}

/** What is sent to the service. */
export function trialWish(question: Question, game: string, seed: string): NewTrial {
  const { sheet, seats, bot, games, settings, compare, values } = question;
  const isCompared = compare !== NOTHING && values.length > 1;
  const kept = Object.fromEntries(Object.entries(settings).filter(([name]) => name !== compare));
  return {
    sheet,
    games,
    seats,
    title: titleOf(question, game).slice(0, 120),
    ...(compare === 'bots' ? {} : { bots: [bot] }),
    ...(Object.keys(kept).length > 0 ? { settings: kept } : {}),
    ...(isCompared ? { compare: { name: compare, values: [...values] } } : {}),
    ...(seed === '' ? {} : { seed }),
  };
}

export type { Setting, Value };
