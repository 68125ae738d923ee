import { type Made, REGULARS, type SoakFailure } from '@wily-jester/core';
import type { Rehearsed } from './workers/proof.worker';
import type { BenchSetup } from './workers/table.worker';

/** A setup with the choices that lead somewhere. */
export interface Placed {
  readonly setup: Partial<BenchSetup>;
  readonly made: readonly Made[];
}

/** A choice as it came from elsewhere: by what names its cards there. */
const madeOf = (seat: number, option: string, given: Readonly<Record<string, unknown>>, words = option): Made => {
  const args = given as Made['args'];
  return { seat, by: seat < 0 ? 'table' : 'person', option, args, places: args, words };
};

/** What puts the table where a rehearsal ended: its seats, settings, cards and choices, all of them a person's. */
export function whereItEnded({ way }: Rehearsed): Placed {
  return {
    setup: {
      seats: way.seats.map((name) => ({ name, bot: null })),
      settings: way.settings,
      seed: way.seed,
      gets: Object.fromEntries(Object.entries(way.gets).map(([path, faces]) => [path, faces.split(' ')])),
      soaked: null,
    },
    made: way.rows.map(({ seat, option, args }) => madeOf(seat, option, args)),
  };
}

/** What puts the table to just before a soaked game went wrong: its own chance, and the choices up to there. */
export function justBefore({ way, seats }: SoakFailure): Placed {
  return {
    setup: {
      seats: REGULARS.slice(0, seats).map((name) => ({ name, bot: null })),
      settings: {},
      gets: {},
      soaked: way.seed,
    },
    made: way.choices.map(({ seat, choice }) =>
      choice ? madeOf(seat, choice.option, choice.args ?? {}) : madeOf(seat, 'time', {}, 'time is up'),
    ),
  };
}
