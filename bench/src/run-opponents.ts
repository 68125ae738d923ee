/**
 * How strong thinking is against each bundled sheet's own bot, and how many games it plays on in a second:
 * `npm run bench:opponents -- --seconds 20 --milliseconds 25`. It prints rows for docs/opponents.md.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import {
  budgetOf,
  Match,
  type Policy,
  type Program,
  RandomPolicy,
  REGULARS,
  ScriptedPolicy,
  Simulator,
  SoloMatch,
  Thinker,
  ThinkingPolicy,
} from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';

const { values } = parseArgs({
  options: {
    seconds: { type: 'string', default: '20' },
    milliseconds: { type: 'string', default: '25' },
    sheets: { type: 'string' },
  },
});
const SECONDS = Number(values.seconds);
const THINKING = Number(values.milliseconds);
const MOST_PLAYOUTS = 100_000;
const SHEETS = new URL('../../sheets/', import.meta.url);

/** Settings that end a game soon, so that many are played: rounds, deals and goals at their least. */
const shortened = (program: Program): Record<string, number> =>
  Object.fromEntries(
    program.settings.flatMap(({ name, domain }): [string, number][] =>
      /^(rounds|deals|mostDeals|most|goal|target|handLimit)$/.test(name) && domain.k === 'range'
        ? [[name, Math.max(Number(domain.from), 1)]]
        : [],
    ),
  );

function policiesFor(program: Program, seats: number, thinking: Policy, other: Policy): Policy[] {
  if (seats === 1) return [thinking, other];
  const isFirst = (seat: number): boolean => (program.teams > 0 ? seat % program.teams === 0 : seat === 0);
  return Array.from({ length: seats }, (_, seat) => (isFirst(seat) ? thinking : other));
}

/** Playouts a second of one thought, after so many choices; 0 where there is nothing to think about there. */
function playoutsOf(program: Program, seats: number, settings: Record<string, number>, most: number): number {
  const simulator = Simulator.of(program, { seats: REGULARS.slice(0, seats), settings, tracking: true });
  const random = REGULARS.slice(0, seats).map(() => new RandomPolicy());
  simulator.open(5).play({ policies: random, most });
  const { game, state } = simulator;
  const [seat] = game.asked(state);
  if (seat === undefined) return 0;
  const thinker = new Thinker(game, seat, 1);
  const think = (playouts: number): number => {
    const began = performance.now();
    const thought = thinker.think(state, { playouts });
    return ((thought?.playouts ?? 0) / (performance.now() - began)) * 1000;
  };
  think(200);
  return Math.round(think(600));
}

const signed = (n: number): string => `${n < 0 ? '−' : '+'}${Math.abs(n).toFixed(1)}`;

const files = readdirSync(SHEETS).filter((file) => /(?<!rehearsal)\.motley$/.test(file));
console.log('| sheet | seats | against | margin a game | 95 % | games | games played on in a second |');
console.log('| --- | --- | --- | --- | --- | --- | --- |');
for (const file of files) {
  if (values.sheets !== undefined && !values.sheets.split(',').some((name) => file.startsWith(name))) continue;
  const { program } = compileSheet(readFileSync(new URL(file, SHEETS), 'utf8'));
  if (!program) throw new Error(`${file} does not compile`);
  const seats = program.seats.includes(2) ? 2 : Math.min(...program.seats);
  const [bot] = program.bots;
  const other = bot ? new ScriptedPolicy({ program }, bot.name) : new RandomPolicy();
  const thinking = new ThinkingPolicy('thinking', () => budgetOf(THINKING, MOST_PLAYOUTS, () => performance.now()));
  const settings = shortened(program);
  const options = { seed: 2_026, policies: policiesFor(program, seats, thinking, other), settings };
  const match = seats === 1 ? new SoloMatch(program, options) : new Match(program, options);
  const until = performance.now() + SECONDS * 1000;
  do match.playDeal();
  while (performance.now() < until || match.result.deals < 3);
  const { games, standings } = match.result;
  const margin = standings[0]?.margin;
  const [from = 0, to = 0] = margin?.interval ?? [];
  const speeds = [4, 8, 5, 12, 3, 2].map((most) => playoutsOf(program, seats, settings, most));
  const speed = Math.max(...speeds).toLocaleString('en');
  console.log(
    `| _${program.name}_ | ${seats} | ${other.name} | ${signed(margin?.mean ?? 0)} | ${signed(from)} to ${signed(to)} | ${games} | ${speed} |`,
  );
}
