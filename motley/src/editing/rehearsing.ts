import {
  type ArgValue,
  cardsThatCame,
  type Header,
  type Made,
  OPEN,
  type Param,
  type Playback,
  type Program,
  RANKS,
  rehearse,
  SUITS,
  TIME,
  type Type,
  Values,
} from '@wily-jester/core';
import { compileRehearsals } from '../compile/rehearsal.js';

/** What a rehearsal is written from: who sat there, what came, what was chosen, and what is expected at the end. */
export interface Rehearsed {
  readonly title: string;
  readonly header: Pick<Header, 'seats' | 'settings'>;
  /** Cards that came to piles by chance, by path, in their order. */
  readonly came: Readonly<Record<string, readonly string[]>>;
  readonly made: readonly Made[];
  /** Lines of the language, such as `expect pot == 9`. */
  readonly expected: readonly string[];
}

/** More cards than this are not promised on one line. */
const CARDS_A_LINE = 8;

/**
 * Writes what was played as a rehearsal. Settings are left out where the sheet says the same.
 * @param byPlaces whether cards are named by where they lie: a face may be that of several
 */
export function rehearsalText(
  program: Program,
  { title, header, came, made, expected }: Rehearsed,
  byPlaces = false,
): string {
  const settings = Object.entries(header.settings ?? {});
  const lines = [
    `rehearse ${quoted(title)} {`,
    `  seats ${header.seats.join(', ')}`,
    ...(settings.length > 0
      ? [`  settings ${settings.map(([name, value]) => `${name} = ${worded(value)}`).join(', ')}`]
      : []),
    ...Object.entries(came).flatMap(([path, faces]) => promised(pileWords(program, header.seats, path), faces)),
    ...made.flatMap((choice) => {
      if (choice.seat >= 0)
        return [`  ${choiceWords(program, header.seats, byPlaces ? { ...choice, args: choice.places } : choice)}`];
      return choice.option === TIME ? ['  clock plays'] : [];
    }),
    ...expected.map((line) => `  ${line}`),
    '}',
    '',
  ];
  return lines.join('\n');
}

/** A choice as a rehearsal words it, such as `Wren: bet(20)`. */
export function choiceWords(
  program: Program,
  seats: readonly string[],
  { seat, option, args }: Pick<Made, 'seat' | 'option' | 'args'>,
): string {
  const params = paramsOf(program, option);
  const values = params.map((param) => valueWords(program, seats, param.t, args[param.name] ?? null));
  return `${seats[seat]}: ${option}${values.length > 0 ? `(${values.join(', ')})` : ''}`;
}

const paramsOf = (program: Program, name: string): readonly Param[] =>
  program.asks.flatMap(({ options }) => options).find((option) => option.name === name)?.params ?? [];

function valueWords(program: Program, seats: readonly string[], t: Type, value: ArgValue): string {
  const cardWords = (card: string): string => {
    const [path = '', position] = card.split('#');
    return position === undefined ? quoted(card) : `${pileWords(program, seats, path)}[${position}]`;
  };
  if (typeof value === 'object' && value !== null) return `[${value.map(cardWords).join(', ')}]`;
  switch (t) {
    case 'card':
    case 'list:card':
      return cardWords(String(value));
    case 'seat':
      return seats[Number(value) - 1] ?? 'nothing';
    case 'team':
      return `teams[${value}]`;
    case 'pile':
      return pileWords(program, seats, String(value));
    default:
      return worded(value);
  }
}

const worded = (value: ArgValue): string =>
  value === true ? 'yes' : value === false ? 'no' : value === null ? 'nothing' : String(value);

/** A text of the language: no brace in it is read as one of its values. */
export const quoted = (text: string): string => `"${text.replace(/[\\"{}]/g, (sign) => `\\${sign}`)}"`;

/** A pile as a rehearsal names it: `hand/2` is `Otter.hand`. */
export function pileWords(program: Program, seats: readonly string[], path: string): string {
  const [name = '', ...steps] = path.split('/');
  const pile = program.piles.find((declared) => declared.name === name);
  const owner = pile?.perSeat ? `${seats[Number(steps[0]) - 1]}.${name}` : name;
  const rest = pile?.perSeat ? steps.slice(1) : steps;
  const [index] = rest;
  if (index === undefined) return owner;
  if (pile?.cells) return `${owner}[${(pile.cells.keys[Number(index) - 1] ?? []).join(', ')}]`;
  const word =
    pile?.by === 'suit'
      ? (SUITS[Number(index) - 1] ?? index)
      : pile?.by === 'rank'
        ? (RANKS[Number(index)] ?? index)
        : pile?.by === 'team'
          ? `teams[${index}]`
          : index;
  return `${owner}[${word}]`;
}

/** Lines that promise cards to a pile; several add up. */
function promised(pile: string, faces: readonly string[]): string[] {
  const lines: string[] = [];
  for (let i = 0; i < faces.length; i += CARDS_A_LINE)
    lines.push(
      `  ${pile} gets ${faces
        .slice(i, i + CARDS_A_LINE)
        .map(quoted)
        .join(' ')}`,
    );
  return lines;
}

/** A choice that was tried and refused. */
export type RefusedChoice = Pick<Made, 'seat' | 'option' | 'args'> & { readonly reason: string };

/** A rehearsal as it was written, and why it fails where it is run; `null` where it passes. */
export interface Kept {
  readonly text: string;
  readonly failure: string | null;
}

/** Writes what was played down as a rehearsal, and runs it. @param sheet its text with all parts in it */
export function keptAs(playback: Playback, sheet: string, title: string, expected: readonly string[]): Kept {
  const made = playback.made.slice(0, playback.at);
  const came = cardsThatCame(playback);
  const written = (byPlaces: boolean): Kept => {
    const text = rehearsalText(playback.program, { title, header: playback.header, came, made, expected }, byPlaces);
    const { program, rehearsals, problems } = compileRehearsals(text, sheet);
    const [first] = rehearsals;
    if (!program || !first) return { text, failure: problems[0]?.message ?? 'It cannot be read.' };
    return { text, failure: rehearse(program, first).failure?.message ?? null };
  };
  const byFaces = written(false);
  if (byFaces.failure === null) return byFaces;
  // Of several packs a face may be that of cards in several piles.
  const byPlaces = written(true);
  return byPlaces.failure === null ? byPlaces : byFaces;
}

/** Variables of these types are expected by their words. */
const TOLD: ReadonlySet<Type> = new Set<Type>(['int', 'flag', 'seat', 'rank', 'suit']);

/** So many lines are worth being looked through. */
const MOST_EXPECTED = 40;

/** The lines that a rehearsal may expect of a table as it stands, those that tell most first. */
export function expectationsAt(playback: Playback, refused: RefusedChoice | null): readonly string[] {
  const { now, program } = playback;
  const { game, state } = now;
  const { seats } = game.layout;
  const lines = now.asked.map((seat) => `expect asked ${seats[seat]}`);
  if (now.isOver) lines.push('expect finished');
  const said = playback.happened.flatMap((step) => step.for(OPEN)).findLast((event) => event.kind === 'said');
  if (said?.kind === 'said') lines.push(`expect said ${quoted(said.text)}`);
  if (refused) lines.push(refusal(choiceWords(program, seats, refused), refused.reason));
  for (const [seat, score] of now.scores().entries())
    if (score !== 0) lines.push(`expect ${seats[seat]}.score == ${score}`);
  const values = new Values(game);
  for (const { name, t, of } of program.vars) {
    if (!TOLD.has(t) || (of.k !== 'table' && of.k !== 'seat')) continue;
    for (const { of: whose, words } of values.of(state, name, OPEN)?.values ?? [])
      lines.push(`expect ${whose === null ? '' : `${whose}.`}${name} == ${words}`);
  }
  for (const [p, { path }] of game.layout.piles.entries()) {
    const size = game.rt.pileCards(state, p).length;
    if (size > 0) lines.push(`expect size(${pileWords(program, seats, path)}) == ${size}`);
  }
  for (const seat of now.asked)
    for (const { option, legal, reason, params } of now.view(seat).offers)
      if (!legal && reason !== null && params.length === 0 && paramsOf(program, option).length === 0)
        lines.push(refusal(`${seats[seat]}: ${option}`, reason));
  return [...new Set(lines)].slice(0, MOST_EXPECTED);
}

const refusal = (choice: string, reason: string): string => `expect refused ${choice} because ${quoted(reason)}`;
