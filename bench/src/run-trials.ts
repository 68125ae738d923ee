/**
 * What trials cost: `npm run bench:trials`. Games of a trial against the same games without counting, in turn in one
 * process, and two threads of `./wily trial` against one, by the wall clock. It prints rows for docs/trials.md.
 */
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import {
  type Policy,
  REGULARS,
  ScriptedPolicy,
  Simulator,
  type TrialFigures,
  type TrialPlan,
  TrialPlayer,
  trialArms,
} from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { median, ratesInTurn } from './timing.js';

const ROOT = new URL('../../', import.meta.url);

interface Tried {
  readonly sheet: string;
  readonly bot: string;
  readonly settings: Readonly<Record<string, number | string>>;
  /** How many games take some ten seconds. */
  readonly games: number;
}
const TRIED: readonly Tried[] = [
  { sheet: 'lantern-twenty-one', bot: 'steady', settings: { rounds: 100, stake: 100_000 }, games: 6_000 },
  { sheet: 'quayside-twenty-one', bot: 'chart', settings: { rounds: 1, stake: 100_000 }, games: 120_000 },
  { sheet: 'long-war', bot: 'anyone', settings: { byHand: 'no' }, games: 12_000 },
];

function programOf(sheet: string) {
  const { program } = compileSheet(readFileSync(new URL(`sheets/${sheet}.motley`, ROOT), 'utf8'));
  if (!program) throw new Error(`${sheet} has errors`);
  return program;
}

/** Games a second of processor time: with what is counted, and without. */
function costOf({ sheet, bot, settings }: Tried): readonly [number, number] {
  const program = programOf(sheet);
  const plan: TrialPlan = {
    arms: trialArms(program, { settings, bots: [bot] }),
    seed: '1',
    games: 1e9,
    longest: 100_000,
  };
  const player = new TrialPlayer(plan);
  const seats = plan.arms[0]?.bots.length ?? 1;
  const plain = Simulator.of(program, { seats: REGULARS.slice(0, seats), settings });
  const policies = new Array<Policy>(seats).fill(new ScriptedPolicy({ program }, bot));
  const rates = ratesInTurn(
    [
      (turn) => player.playBlock(turn).games,
      (turn) => {
        for (let game = 0; game < 250; game++) plain.open(turn * 250 + game).play({ policies });
        return 250;
      },
    ],
    5,
    1,
  );
  return [median(rates[0] ?? []), median(rates[1] ?? [])];
}

/** Seconds that the command line says a trial took. */
function secondsOf(
  { sheet, bot, settings, games }: Tried,
  jobs: number,
): Promise<{ seconds: number; figures: TrialFigures }> {
  const set = Object.entries(settings).map(([name, value]) => `${name}=${value}`);
  const args = ['wily', 'trial', `sheets/${sheet}.motley`, '--bots', bot, '--games', String(games), '--json'];
  return new Promise((done, failed) => {
    const child = spawn(process.execPath, [...args, '--jobs', String(jobs), '--set', ...set], { cwd: ROOT });
    let out = '';
    child.stdout.on('data', (data) => {
      out += String(data);
    });
    child.on('close', (code) => (code === 0 ? done(JSON.parse(out)) : failed(new Error(`${sheet}: ${code}`))));
  });
}

for (const tried of TRIED) {
  const [counted, plain] = costOf(tried);
  const [one, two] = [await secondsOf(tried, 1), await secondsOf(tried, 2)];
  if (JSON.stringify(one.figures) !== JSON.stringify(two.figures)) throw new Error(`${tried.sheet}: figures differ`);
  process.stdout.write(
    `| ${tried.sheet} | ${Math.round(counted).toLocaleString('en')} | ${(counted / plain).toFixed(2)} | ${(one.seconds / two.seconds).toFixed(2)} |\n`,
  );
}
