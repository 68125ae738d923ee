/** The table of a draft. Rules become code here, and nothing else can be reached from here. */
import {
  FaceError,
  Fault,
  type Header,
  lineWords,
  type Made,
  type NameNow,
  OPEN,
  ownLine,
  Playback,
  type Program,
  planOf,
  quickChance,
  type Refusal,
  SetupError,
  Values,
  WATCHER,
} from '@wily-jester/core';
import type { Kept, RefusedChoice } from '@wily-jester/motley/analysis';
import { expose } from 'comlink';

/** The language is large, and tables are played without it. */
const language = () => import('@wily-jester/motley/analysis');

/** Whose eyes: a seat from 0, all hands open, or those of whoever is asked. */
export type BenchEyes = number | 'open' | 'asked' | 'watch';
export interface Seating {
  readonly name: string;
  /** Who plays it; `null` is whoever sits before the page. */
  readonly bot: string | null;
}
/** How a table is laid. */
export interface BenchSetup {
  readonly seats: readonly Seating[];
  readonly settings: Readonly<Record<string, number | boolean | string>>;
  readonly seed: string;
  readonly gets: Readonly<Record<string, readonly string[]>>;
  /** The chance of a game that was soaked, instead of the seed's. */
  readonly soaked: number | null;
}
export interface SheetFault {
  readonly line: number | null;
  readonly where: string;
  readonly message: string;
}
/** How the table stands. */
export interface Look {
  readonly plan: ReturnType<typeof planOf>;
  readonly view: ReturnType<Playback['now']['view']>;
  /** The seat whose choices are offered, from 0; `null` where a bot is asked, or nobody. */
  readonly seat: number | null;
  /** Whose turn it is for a bot, from 0. */
  readonly botSeat: number | null;
  readonly isRace: boolean;
  readonly at: number;
  readonly last: number;
  readonly made: readonly { readonly seat: number; readonly words: string }[];
  readonly chapters: Playback['chapters'];
  readonly broken: Playback['broken'];
  readonly ran: readonly number[];
  /** Where it waits, in the sheet's own lines. */
  readonly waits: number | null;
  readonly said: readonly { readonly number: number; readonly text: string; readonly kind: string }[];
  readonly events: readonly unknown[];
  readonly milliseconds: number;
}
/** What the table answers: there is a look unless it could not be laid at all. */
export interface Answered {
  readonly look: Look | null;
  readonly refusal: Refusal | null;
  readonly fault: SheetFault | null;
}

let playback: Playback | null = null;
let values: Values | null = null;
let setup: BenchSetup | null = null;
let eyes: BenchEyes = 'asked';
/** The last choice that was tried and refused, for a rehearsal that expects it. */
let refusedLast: RefusedChoice | null = null;
/** The seat whose eyes were used last. */
let lastSeat = 0;

const headerOf = (given: BenchSetup): Header => {
  const gets = Object.entries(given.gets).filter(([, faces]) => faces.length > 0);
  return {
    seats: given.seats.map(({ name }) => name),
    settings: given.settings,
    seed: given.seed,
    ...(gets.length > 0 ? { gets: Object.fromEntries(gets.map(([path, faces]) => [path, faces.join(' ')])) } : {}),
  };
};
const thinkingIn = (given: BenchSetup): number[] =>
  given.seats.flatMap(({ bot }, seat) => (bot?.startsWith('thinking') ? [seat] : []));

function faultOf(error: unknown, program: Program | null): SheetFault {
  if (error instanceof Fault && program) {
    const own = ownLine(program, error.line);
    return {
      line: own.part === null && own.line > 0 ? own.line : null,
      where: lineWords(program, error.line),
      message: error.message,
    };
  }
  if (error instanceof SetupError || error instanceof FaceError)
    return { line: null, where: '', message: error.message };
  throw error;
}

/** The seats of people and of bots that are asked. */
function askedNow(): { person: number | null; bot: number | null } {
  const asked = playback?.now.asked ?? [];
  const isBot = (seat: number): boolean => setup?.seats[seat]?.bot !== null;
  return { person: asked.find((seat) => !isBot(seat)) ?? null, bot: asked.find(isBot) ?? null };
}

function lookNow(milliseconds: number): Look {
  const at = playback as Playback;
  const table = at.now;
  const { person, bot } = askedNow();
  const followed =
    person ??
    (setup?.seats[lastSeat]?.bot === null ? lastSeat : Math.max(0, setup?.seats.findIndex((s) => s.bot === null) ?? 0));
  const seat = typeof eyes === 'number' ? eyes : followed;
  if (eyes === 'asked') lastSeat = seat;
  const offering =
    typeof eyes === 'number' ? (table.asked.includes(eyes) && setup?.seats[eyes]?.bot === null ? eyes : null) : person;
  const viewer = eyes === 'open' ? OPEN : eyes === 'watch' ? WATCHER : seat;
  const own = table.view(viewer);
  const offers = offering === null ? [] : viewer === offering ? own.offers : table.view(offering).offers;
  return {
    plan: planOf(at.program),
    view: { ...own, offers: eyes === 'watch' ? [] : offers },
    seat: offering,
    botSeat: bot,
    isRace: table.isRace,
    at: at.at,
    last: at.last,
    made: at.made.map(({ seat: who, words }) => ({ seat: who, words })),
    chapters: at.chapters,
    broken: at.broken,
    ran: at.lines,
    waits: at.waits,
    said: at.said(viewer).map(({ number, text, kind }) => ({ number, text, kind })),
    events: at.happened.flatMap((step) => step.for(viewer)),
    milliseconds,
  };
}

function answered(work: () => Refusal | null): Answered {
  const from = performance.now();
  try {
    const refusal = playback && work();
    return { look: playback && lookNow(performance.now() - from), refusal, fault: null };
  } catch (error) {
    const fault = faultOf(error, playback?.program ?? null);
    return { look: playback && lookNow(performance.now() - from), refusal: null, fault };
  }
}

const bench = {
  /** Lays the table anew on rules, and plays choices as far as they are taken. */
  open(program: Program, given: BenchSetup, made: readonly Made[], at: number | null): Answered {
    const from = performance.now();
    try {
      playback = new Playback(program, headerOf(given), made, {
        ...(at === null ? {} : { at }),
        thinking: thinkingIn(given),
        ...(given.soaked === null ? {} : { chance: quickChance(given.soaked) }),
      });
      setup = given;
      values = new Values(playback.now.game);
      refusedLast = null;
      return { look: lookNow(performance.now() - from), refusal: null, fault: null };
    } catch (error) {
      playback = null;
      values = null;
      return { look: null, refusal: null, fault: faultOf(error, program) };
    }
  },
  /** The choices so far, those that broken rules do not take too. */
  made(): readonly Made[] {
    return playback?.made ?? [];
  },
  look(as: BenchEyes): Answered {
    eyes = as;
    return answered(() => null);
  },
  go(at: number): Answered {
    return answered(() => {
      playback?.goTo(Math.max(0, Math.min(playback.last, at)));
      return null;
    });
  },
  choose(seat: number, option: string, args: Record<string, unknown>): Answered {
    return answered(() => {
      const refusal = playback?.choose(seat, { option, args }) ?? null;
      refusedLast = refusal ? { seat, option, args: args as Made['args'], reason: refusal.reason } : null;
      return refusal;
    });
  },
  /** Lets a bot's seat be played, or ends a race that no bot wants to win. */
  play(seat: number, how: string): Answered {
    return answered(() => {
      const at = playback as Playback;
      const until = performance.now() + 400;
      const found = at.letPlay(seat, how, { playouts: 20_000, isOver: () => performance.now() > until });
      if (!found && at.now.isRace) at.endRace();
      else if (!found) throw new SetupError(`${setup?.seats[seat]?.name} finds nothing to choose.`);
      return null;
    });
  },
  /** What a name of the sheet is worth now, for these eyes. */
  value(name: string): NameNow | null {
    if (!playback || !values) return null;
    const viewer = eyes === 'open' ? OPEN : eyes === 'watch' ? WATCHER : typeof eyes === 'number' ? eyes : lastSeat;
    return values.of(playback.now.state, name, viewer);
  },
  /** The lines that a rehearsal may expect of the table as it stands, those that tell most first. */
  async expectations(): Promise<readonly string[]> {
    const { expectationsAt } = await language();
    return playback ? expectationsAt(playback, refusedLast) : [];
  },
  /** What was played, as a rehearsal, and what comes of it when it is run. */
  async keep(sheet: string, title: string, expected: readonly string[]): Promise<Kept> {
    const { keptAs } = await language();
    return keptAs(playback as Playback, sheet, title, expected);
  },
};

export type Bench = typeof bench;
expose(bench);
