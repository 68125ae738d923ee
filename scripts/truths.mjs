// npm run truths: figures that anybody can look up or work out, reproduced by trials. `-- --short` takes a twentieth of the games.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { holm, kindAt, normalTails, quickChance, startingHands, startWords, summaryOf } from '@wily-jester/core';
import { QuaysideByHand } from '../bench/dist/by-hand/quayside.js';
import { weighChart } from '../bench/dist/by-hand/quayside-chart.js';
import { WarByHand } from '../bench/dist/by-hand/war.js';
import { ROOT } from './lib/machine.mjs';

const { values } = parseArgs({
  options: {
    short: { type: 'boolean', default: false },
    seed: { type: 'string', default: 'truths' },
    jobs: { type: 'string', default: '2' },
  },
});
const share = values.short ? 20 : 1;

/** Runs a trial, and gives its figures. */
function trial(sheet, games, options) {
  const many = String(Math.max(1_000, Math.round(games / share)));
  const args = [
    'trial',
    `sheets/${sheet}.motley`,
    '--games',
    many,
    '--seed',
    values.seed,
    '--jobs',
    values.jobs,
    '--json',
  ];
  return new Promise((done, failed) => {
    const child = spawn(join(ROOT, 'wily'), [...args, ...options], { cwd: ROOT, stdio: ['ignore', 'pipe', 'ignore'] });
    let out = '';
    child.stdout.on('data', (data) => {
      out += String(data);
    });
    child.on('close', (code) =>
      code === 0 ? done(JSON.parse(out).figures) : failed(new Error(`${args.join(' ')}: ${code}`)),
    );
  });
}

const half = ({ interval }) => (interval ? (interval[1] - interval[0]) / 2 : Number.NaN);
const figure = (of, scale, places) => `${(of.value * scale).toFixed(places)} ± ${(half(of) * scale).toFixed(places)}`;
const cellOf = (figures, name, arm = 0) => figures.arms[arm].tallies.find((tally) => tally.name === name).cells[0];
const differenceOf = (figures, name) => figures.differences.find(({ tally }) => tally === name);
const row = (...cells) => process.stdout.write(`| ${cells.join(' | ')} |\n`);

const TWENTY_ONE = ['--bots', 'chart', '--set', 'rounds=1', 'stake=100000', 'insures=no', 'surrenders=no'];
/** By an exact sum, in a hundred first bets: 0.3 · P(the seat has a natural and the house none). */
const SIX_TO_FIVE = (100 * 0.3 * 4608 * (1 - 4370 / 95790)) / 97032;

/** Rounds of twenty-one by hand: what the house keeps of a hundred first bets. */
function keptByHand(rounds) {
  const game = new QuaysideByHand({ softHit: false, natural: 1.5 });
  const generator = quickChance(1).stream('truths', 0);
  return intervalOf(rounds, () => -game.play(generator));
}
/** The same, of both houses on the same cards: what drawing on soft 17 costs, each with its own chart. */
function softByHand(rounds) {
  const games = [true, false].map((softHit) => new QuaysideByHand({ softHit, natural: 1.5 }));
  const [draws, stands] = games;
  let round = 0;
  return intervalOf(rounds, () => {
    const seed = round++;
    return stands.play(quickChance(seed).stream('shuffle', 0)) - draws.play(quickChance(seed).stream('shuffle', 0));
  });
}
function intervalOf(rounds, played) {
  let [sum, squares] = [0, 0];
  for (let i = 0; i < rounds; i++) {
    const value = played();
    sum += value;
    squares += value * value;
  }
  const mean = sum / rounds;
  const reach = 1.959964 * Math.sqrt((squares / rounds - mean * mean) / rounds);
  return `${(100 * mean).toFixed(4)} ± ${(100 * reach).toFixed(4)} (by hand, ${rounds.toLocaleString('en')})`;
}

row('figure', 'trial', 'known', 'games');
row('---', '---', '---', '---');
const soft = await trial('quayside-twenty-one', 4_000_000, [...TWENTY_ONE, '--compare', 'softHit=no,yes']);
const games = (of) => of.games.toLocaleString('en');
row(
  'twenty-one: the house keeps, of 100 first bets',
  figure(cellOf(soft, 'house keeps'), 100, 3),
  keptByHand(200_000_000 / share),
  games(soft),
);
row(
  'drawing on soft 17 costs',
  figure(differenceOf(soft, 'house keeps'), 100, 4),
  softByHand(100_000_000 / share),
  games(soft),
);
const pays = await trial('quayside-twenty-one', 1_000_000, [...TWENTY_ONE, '--compare', 'pays=threeToTwo,sixToFive']);
row(
  '6 to 5 costs',
  figure(differenceOf(pays, 'house keeps'), 100, 4),
  `${SIX_TO_FIVE.toFixed(4)} (exact)`,
  games(pays),
);

/** Standard errors at which all alternatives of a chart are judged together, with more than 99 %. */
const TOGETHER = 5;
for (const softHit of [false, true]) {
  const alternatives = weighChart({ softHit, natural: 1.5 }, 0.005, TOGETHER, 1, 16);
  const most = ({ gain, error }) => gain + TOGETHER * error;
  const closest = alternatives.reduce((a, b) => (most(b) > most(a) ? b : a));
  row(
    `twenty-one, the house ${softHit ? 'draws' : 'stands'} on soft 17: ${alternatives.length} alternatives to the chart's cells`,
    `the closest is better by ${closest.gain.toFixed(4)} of a bet, surely by less than ${most(closest).toFixed(4)} (${closest.cell}: ${closest.instead})`,
    'less than 0.02',
    `${(alternatives.reduce((sum, { deals }) => sum + deals, 0) / 1e6).toFixed(1)} million deals, by hand`,
  );
}

/** Battles of a game of war by hand, with the same rules. */
function warByHand(staked, many) {
  const battles = [];
  for (let game = 0; game < many; game++) {
    const war = new WarByHand(quickChance(game + 1), 100_000, staked);
    while (war.wait !== 'over') {
      if (war.wait === 'pause') war.resume();
      else for (const seat of [0, 1]) war.answer(seat);
    }
    battles.push(war.battles);
  }
  const { mean, interval } = summaryOf(battles);
  return `${mean.toFixed(1)} ± ${((interval[1] - interval[0]) / 2).toFixed(1)} (by hand)`;
}
for (const staked of [3, 1, 0]) {
  const many = staked === 3 ? 60_000 : 25_000;
  const war = await trial('long-war', many, ['--set', 'limit=100000', 'byHand=no', `staked=${staked}`]);
  row(
    `war, ${staked} staked in a tie: battles`,
    figure(cellOf(war, 'battles'), 1, 1),
    warByHand(staked, Math.round((2 * many) / share)),
    games(war),
  );
}
const cut = await trial('long-war', 60_000, ['--set', 'byHand=no']);
row(
  'war: games that the limit of 400 battles cuts off, of 100',
  figure(cellOf(cut, 'cut off by the limit'), 100, 1),
  '22.2',
  games(cut),
);

// All 169 kinds of starting hands, all in before the cards: the largest distance of the family, judged together (Holm).
const shares = new Map(startingHands().map((one) => [startWords(one), one.share]));
const hands = await trial('long-pot', 1_000_000, [
  '--seats',
  '2',
  '--set',
  'stake=2',
  'bigBlind=2',
  'smallBlind=2',
  'handLimit=1',
]);
const ORDER = ['2', '3', '4', '5', '6', '7', '8', '9', '10', 'J', 'Q', 'K', 'A'];
const { cells } = hands.arms[0].tallies.find((tally) => tally.name === 'share of the pot');
const away = cells.map((cell) => {
  const [down, across] = cell.marks.map((mark) => ORDER.indexOf(mark) + 2);
  const words = startWords(kindAt(down, across));
  return { words, errors: Math.abs(cell.value - shares.get(words)) / (half(cell) / 1.959964) };
});
const corrected = holm(away.map(({ errors }) => normalTails(errors)));
const furthest = away.reduce((a, b) => (b.errors > a.errors ? b : a));
row(
  `hold’em: ${cells.length} starting hands against one that nobody knows`,
  `furthest ${furthest.errors.toFixed(2)} standard errors (${furthest.words}), p ${Math.min(...corrected).toFixed(2)} with all allowed for`,
  'exact: `./wily starts`',
  games(hands),
);

process.stdout.write('\n');
row('what a bot of the sheet does', 'trial', 'games');
row('---', '---', '---');
const machine = await trial('five-coin-machine', 20_000, ['--set', 'purse=100000']);
row(
  '*Five-Coin Machine*, plain: return, of 100 coins',
  figure(cellOf(machine, 'return'), 100, 2),
  `${games(machine)} of 100 deals`,
);
const made = machine.arms[0].tallies.find(({ name }) => name === 'hand');
row(
  '*Five-Coin Machine*, plain: the hands it comes to, of 100',
  made.cells.map((cell) => `${cell.category} ${figure(cell, 100, 3)}`).join('; '),
  `${games(machine)} of 100 deals`,
);
for (const [sheet, name] of [
  ['weir-patience', '*Weir Patience*, plain, comes out, of 100'],
  ['millpond-cells', '*Millpond Cells*, plain, comes out, of 100'],
]) {
  const found = await trial(sheet, 40_000, []);
  row(name, figure(cellOf(found, 'comes out'), 100, 2), games(found));
}
const greens = await trial('nine-greens', 20_000, []);
row('*Nine Greens*, a green is cleared, of 100', figure(cellOf(greens, 'cleared'), 100, 2), games(greens));
for (let seats = 1; seats <= 5; seats++) {
  const ladder = await trial('lock-ladder', 20_000, ['--seats', String(seats)]);
  row(
    `*Lock Ladder*, careful, ${seats} ${seats === 1 ? 'seat' : 'seats'}, comes out, of 100`,
    figure(cellOf(ladder, 'comes out'), 100, 1),
    games(ladder),
  );
}
