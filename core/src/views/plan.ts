import { deckFaces } from '../cards/deck.js';
import { faceText, RANKS, suited } from '../cards/face.js';
import { manyOf } from '../machine/layout.js';
import { demandKnown, limitsWith, type SettingLimits, type Setup, settingsRead } from '../machine/setup.js';
import { wordsOf } from '../machine/text.js';
import type { Program } from '../program/types.js';
import { keysOf } from '../rules/kept-for.js';
import { isDrawn } from './figures.js';

/** What a client needs to draw any game: piles, layout, labels, notes, counters, options. */
export interface TablePlan {
  readonly name: string;
  readonly blurb: string;
  readonly seats: readonly number[];
  readonly settings: readonly {
    readonly name: string;
    readonly type: 'int' | 'flag' | 'word';
    readonly help: string;
    readonly standard: number | boolean | string;
    readonly from?: number;
    readonly to?: number;
    /** The settings before it that limits and standard value follow from: what is given here holds for their standard values. */
    readonly follows?: readonly string[];
    readonly values?: readonly (number | string)[];
  }[];
  readonly piles: readonly {
    readonly name: string;
    readonly label: string;
    readonly facing: 'down' | 'up' | 'private';
    readonly shape: 'stack' | 'fan' | 'cascade' | 'row';
    readonly of: 'table' | 'seat' | 'suit' | 'rank' | 'team';
    readonly many: number | null;
    /** Only piles with cards are there. */
    readonly open: boolean;
    /** Where each pile is drawn: the left edge in half cards, the top in quarter cards. */
    readonly spots: readonly (readonly [number, number])[] | null;
    /** How it is drawn: `own` as the view's `orders` say. */
    readonly sorted: 'rank' | 'suit' | 'own' | null;
  }[];
  /** The faces of its deck, each once; where the deck depends on settings or seats, all that may be in it. */
  readonly faces: readonly string[];
  /** Ranks from low to high as this game compares them, and so hands are sorted. */
  readonly ranks: readonly string[];
  /** Suits likewise; empty where they tie. */
  readonly suits: readonly string[];
  /** Rows of pile names for the middle of the table; `null` is a gap. */
  readonly layout: readonly (readonly (string | null)[])[];
  readonly labels: {
    readonly table: Readonly<Record<string, string>>;
    readonly seat: Readonly<Record<string, string>>;
  };
  /** Variables drawn as stacks of counters. */
  readonly counters: readonly string[];
  /** Figures beside piles (by their names) or seats. */
  readonly notes: readonly {
    readonly name: string;
    readonly words: string;
    readonly beside: readonly string[] | 'seat';
  }[];
  readonly options: readonly { readonly name: string; readonly words: string }[];
  readonly bots: readonly string[];
  readonly winsLeast: boolean;
}

/**
 * The settings as a client offers them.
 * @param given values that limits and standard values of later settings may follow from
 * @throws SetupError where one of these does not do
 */
export function plannedSettings(program: Program, given: NonNullable<Setup['settings']> = {}): TablePlan['settings'] {
  demandKnown(program, given);
  const limits = limitsWith(program, given);
  return program.settings.map((setting, i) => {
    const { name, help, domain } = setting;
    const { from, to, standard } = limits[i] as SettingLimits;
    const follows = settingsRead(program, setting);
    switch (domain.k) {
      case 'range':
        return { name, help, type: 'int', standard, from, to, ...(follows.length > 0 ? { follows } : {}) };
      case 'numbers':
        return { name, help, type: 'int', standard, values: domain.values };
      case 'words':
        return { name, help, type: 'word', standard: domain.words[standard] ?? '', values: domain.words };
      case 'flag':
        return { name, help, type: 'flag', standard: standard !== 0 };
    }
  });
}

/** Makes the table plan of a program. */
export function planOf(program: Program): TablePlan {
  const labelled = (beside: 'table' | 'seat'): Record<string, string> =>
    Object.fromEntries(program.vars.filter((v) => isDrawn(v, beside)).map((v) => [v.name, v.label ?? v.name]));
  const besidePiles = program.vars.flatMap((v) => {
    const [of] = keysOf(v);
    const pile = isDrawn(v, 'pile') && of?.k === 'pile' ? program.piles[of.pile] : undefined;
    return pile ? [{ name: v.name, words: v.label ?? v.name, beside: [pile.name] }] : [];
  });
  const names = new Set(program.asks.flatMap((ask) => ask.options.map((option) => option.name)));
  return {
    name: program.name,
    blurb: program.blurb,
    seats: program.seats,
    settings: plannedSettings(program),
    piles: program.piles.map((pile) => ({
      name: pile.name,
      label: pile.label ?? pile.name,
      facing: pile.facing,
      shape: pile.shape,
      of: pile.perSeat ? 'seat' : (pile.by ?? 'table'),
      many: manyOf(program, pile),
      open: pile.open,
      spots: pile.spots,
      sorted: pile.ownOrder ? 'own' : pile.sorted,
    })),
    faces: facesIn(program),
    ranks: program.rankOrder.map((rank) => RANKS[rank] ?? ''),
    suits: program.suitOrder.map((suit) => faceText(suited(1, suit)).slice(-1)),
    layout: layoutOf(program),
    labels: { table: labelled('table'), seat: labelled('seat') },
    counters: program.counters.map((i) => program.vars[i]?.name ?? ''),
    notes: [
      ...besidePiles,
      ...program.notes.map((note) => ({
        name: note.name,
        words: wordsOf(note.name),
        beside: note.beside === 'seat' ? ('seat' as const) : note.beside.map((i) => program.piles[i]?.name ?? ''),
      })),
    ],
    options: [...names].map((name) => ({ name, words: wordsOf(name) })),
    bots: program.bots.map((bot) => bot.name),
    winsLeast: program.winsLeast,
  };
}

/** The sheet's layout, or all piles of the table in one row: those drawn largest last. */
function layoutOf(program: Program): (string | null)[][] {
  if (program.layout.length > 0)
    return program.layout.map((row) => row.map((i) => (i < 0 ? null : (program.piles[i]?.name ?? null))));
  const row = program.piles.filter((pile, i) => i > 0 && !pile.perSeat).map((pile) => pile.name);
  return row.length > 0 ? [row] : [['pack']];
}

/** So many jokers are shown where their number depends on something. */
const MOST_JOKERS = 2;

function facesIn(program: Program): string[] {
  const decks = program.decks.map(({ form, jokers }) => ({
    form,
    copies: 1,
    jokers: jokers === null ? 0 : jokers.k === 'lit' ? jokers.v : MOST_JOKERS,
  }));
  return [...new Set(deckFaces(decks).map(faceText))];
}
