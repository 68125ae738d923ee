import { type Program, REGULARS } from '@wily-jester/core';
import type { BenchSetup } from './workers/table.worker';

/** How a draft's table is laid at first: one person, and the sheet's first bot at all other seats; without one, a person for all. */
export function firstSetup(program: Pick<Program, 'seats' | 'bots'>): BenchSetup {
  const { seats, bots } = program;
  const count = seats.includes(2) ? 2 : Math.min(...seats);
  const bot = bots[0]?.name ?? null;
  return {
    seats: REGULARS.slice(0, count).map((name, i) => ({ name, bot: i === 0 ? null : bot })),
    settings: {},
    seed: 'workshop',
    gets: {},
    soaked: null,
  };
}

/** The same for other rules: as many seats as they allow, and nothing that they do not know. */
export function fittingSetup(setup: BenchSetup, program: Program): BenchSetup {
  const names = program.settings.map(({ name }) => name);
  const settings = Object.fromEntries(Object.entries(setup.settings).filter(([name]) => names.includes(name)));
  const isBot = (bot: string | null): boolean =>
    bot === null || bot === 'random' || bot.startsWith('thinking') || program.bots.some(({ name }) => name === bot);
  const known = setup.seats.map((seat) => (isBot(seat.bot) ? seat : { ...seat, bot: program.bots[0]?.name ?? null }));
  const wanted = program.seats.includes(known.length)
    ? known.length
    : program.seats.reduce(
        (best, n) => (Math.abs(n - known.length) < Math.abs(best - known.length) ? n : best),
        program.seats[0] ?? 1,
      );
  const seats = Array.from({ length: wanted }, (_, i) => {
    const found = known[i];
    if (found) return found;
    const name =
      REGULARS.find((regular) => !known.some((seat) => seat.name === regular) && REGULARS.indexOf(regular) >= i) ??
      `Guest ${i + 1}`;
    return { name, bot: program.bots[0]?.name ?? null };
  });
  return { ...setup, seats, settings };
}
