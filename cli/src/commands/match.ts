import {
  Match,
  type MatchResult,
  type Policy,
  type Program,
  SoloMatch,
  type Standing,
  sequenceRadius,
  UnknownPlace,
} from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { programIn } from '../files.js';
import { climb } from '../match/ladder.js';
import { policyOf, Timed } from '../match/players.js';
import { junitOf } from '../show/junit.js';
import { paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';
import { wholeNumber } from '../words.js';
import { settingsOf } from './seating.js';

interface MatchWishes {
  bots: string;
  games: string;
  seed: string;
  seats?: string;
  set?: string[];
  whole?: boolean;
  least?: string;
  ladder?: boolean;
  json?: boolean;
  junit?: boolean;
}

/** The policies of the first turn: the first bot in one seat (or on one side), the second in all others. */
function seated(program: Program, seats: number, [first, second]: readonly Policy[]): Policy[] {
  const isFirst = (seat: number): boolean => (program.teams > 0 ? seat % program.teams === 0 : seat === 0);
  return Array.from({ length: seats }, (_, seat) => (isFirst(seat) ? first : second) as Policy);
}

const two = (n: number): string => `${n < 0 ? '−' : '+'}${Math.abs(n).toFixed(2)}`;
const share = (n: number): string => `${(100 * n).toFixed(1)} %`;

/** The interval of the margin: the plain one of a whole match, the wider one that may be looked at often otherwise. */
function marginOf({ margin }: Standing, planned: number, isWhole: boolean): readonly [number, number] {
  if (isWhole) return margin.interval;
  const radius = sequenceRadius(margin, planned);
  return [margin.mean - radius, margin.mean + radius];
}

async function matchBots(file: string, wishes: MatchWishes): Promise<void> {
  const { program } = await programIn(file);
  const names = wishes.bots.split(',').map((name) => name.trim());
  if (wishes.ladder ? names.length < 2 : names.length !== 2)
    throw new Exit(
      wishes.ladder
        ? 'A ladder takes two bots or more, such as --bots thinking:200ms,patient,random.'
        : '--bots takes two of them, such as --bots thinking:200ms,patient; more of them play a --ladder.',
      WRONG_USE,
      botsOf(program),
    );
  if (wishes.ladder && (wishes.least !== undefined || wishes.junit))
    throw new Exit('--least and --junit are about two bots: leave them out, or --ladder.', WRONG_USE);
  const usual = program.seats.includes(2) ? 2 : Math.min(...program.seats);
  const seats =
    wishes.seats === undefined
      ? usual
      : wholeNumber('--seats', wishes.seats, Math.min(...program.seats), Math.max(...program.seats));
  const games = wholeNumber('--games', wishes.games, 2, 10_000_000);
  // Alone, each of both plays every deal.
  const deals = Math.max(2, Math.ceil(games / Math.max(2, seats)));
  const settings = settingsOf(program, wishes.set);
  const seed = wholeNumber('--seed', wishes.seed, 0, 1_000_000);
  const where = { program, seats, settings };
  const timed: Timed[] = [];
  for (const name of names) timed.push(new Timed(await policyOf(where, name)));
  if (wishes.ladder)
    return knownPlaces(() => climb(where, { seed, deals, players: timed, isJson: wishes.json === true }));
  const both = timed.map(({ policy }) => policy);
  const match =
    seats === 1
      ? new SoloMatch(program, { seed, policies: both, settings })
      : new Match(program, { seed, policies: seated(program, seats, both), settings });
  const began = performance.now();
  const isClear = (): boolean => {
    const { deals: done, standings } = match.result;
    const [from, to] = marginOf(standings[0] as Standing, deals, false);
    return done >= LEAST_DEALS && wishes.whole !== true && (from > 0 || to < 0);
  };
  let done = 0;
  knownPlaces(() => {
    do {
      match.playDeal();
      done++;
    } while (done < deals && !isClear());
  });
  const seconds = (performance.now() - began) / 1000;
  report(program, file, wishes, match.result, { deals, seconds, times: timed.map(({ each }) => each) });
}

/** Plays with strategies that may be of another game. @throws Exit which says so */
function knownPlaces(play: () => void): void {
  try {
    play();
  } catch (error) {
    if (error instanceof UnknownPlace) throw new Exit(error.message, NO);
    throw error;
  }
}

/** Before so many deals nothing is clear. */
const LEAST_DEALS = 30;

const botsOf = (program: Program): string =>
  `This sheet has ${[...program.bots.map((bot) => bot.name), 'thinking', 'random'].join(', ')}.`;

interface Around {
  readonly deals: number;
  readonly seconds: number;
  readonly times: readonly number[];
}

function report(program: Program, file: string, wishes: MatchWishes, result: MatchResult, around: Around): void {
  const [first] = result.standings;
  const second = result.standings.find(({ policy }) => policy !== first?.policy);
  if (!first || !second) return;
  const isWhole = result.deals >= around.deals;
  const interval = marginOf(first, around.deals, isWhole);
  const least = wishes.least === undefined ? null : Number(wishes.least);
  if (least !== null && !Number.isFinite(least)) throw new Exit('--least takes a number, such as 0.5.', WRONG_USE);
  const isEnough = least === null || interval[0] >= least;
  const title = `${first.policy.name} against ${second.policy.name}`;
  const failure = isEnough ? null : `The margin is surely above ${two(interval[0])} only, and ${least} was asked for.`;
  if (wishes.json)
    printJson({
      game: program.name,
      bots: [first.policy.name, second.policy.name],
      deals: result.deals,
      games: result.games,
      undecided: result.endless,
      whole: isWhole,
      margin: { mean: first.margin.mean, interval },
      bySeat: first.bySeat.map(({ count, mean }, i) => ({ seat: i + 1, games: count, mean })),
      wins: { share: first.wins, interval: first.winsInterval, even: 1 / Math.max(2, first.bySeat.length) },
      millisecondsForAChoice: around.times,
      seconds: around.seconds,
    });
  else if (wishes.junit)
    print(
      junitOf([
        {
          name: program.name,
          file,
          cases: [
            {
              title,
              line: 1,
              seconds: around.seconds,
              failure: failure === null ? null : { line: 1, message: failure },
            },
          ],
        },
      ]),
    );
  else lines(program, result, first, second, { interval, isWhole, ...around });
  if (failure !== null) throw new Exit(failure, NO);
}

function lines(
  program: Program,
  result: MatchResult,
  first: Standing,
  second: Standing,
  { interval, isWhole, times, seconds }: Around & { interval: readonly [number, number]; isWhole: boolean },
): void {
  const alone = first.bySeat.length === 1;
  const even = alone ? 1 / 2 : 1 / first.bySeat.length;
  print(`${paint.bold(program.name)}: ${first.policy.name} against ${second.policy.name}`);
  print(`  margin  ${two(first.margin.mean)} a game, 95 % from ${two(interval[0])} to ${two(interval[1])}`);
  const [from, to] = first.winsInterval;
  const evenly = program.teams > 0 ? 'half' : `${share(even)}`;
  print(`  wins    ${share(first.wins)}, 95 % from ${share(from)} to ${share(to)}; even would be ${evenly}`);
  if (alone) print(`  scores  ${first.scores.mean.toFixed(2)} and ${second.scores.mean.toFixed(2)} on average`);
  else print(`  seats   ${first.bySeat.map(({ mean }, i) => `${i + 1}: ${two(mean)}`).join('   ')}`);
  print(`  a choice takes ${times.map((ms) => `${ms < 10 ? ms.toFixed(2) : Math.round(ms)} ms`).join(' and ')}`);
  const undecided = result.endless > 0 ? `, ${result.endless} undecided` : '';
  const why = isWhole ? '' : ' Stopped early, for it was clear; the interval is the wider one that allows for that.';
  print(
    `  ${result.games.toLocaleString('en')} games of ${result.deals} deals${undecided}; ${seconds.toFixed(1)} s.${why}`,
  );
}

/** `match`: bots against each other. */
export function addMatchCommand(program: Command): void {
  program
    .command('match <file>')
    .description('play bots against each other: the same deals from every seat')
    .requiredOption(
      '--bots <names>',
      'who plays: bots of the sheet, random, thinking, thinking:200ms, thinking:400p, solved, solved:FILE',
    )
    .option('--ladder', 'all of them against each other, with ratings')
    .option('--games <count>', 'at most so many games', '400')
    .option('--seats <count>', 'how many seats; the first bot sits in one, the second in all others')
    .option('--set <setting...>', 'settings, such as rounds=5 stake=100')
    .option('--seed <number>', 'the same number gives the same deals', '1')
    .option('--whole', 'play all games, also where it is clear before')
    .option('--least <margin>', 'fail unless the margin is surely above it')
    .option('--json', 'as JSON')
    .option('--junit', 'as JUnit XML')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily match sheets/eights-aside.motley --bots thinking:50ms,tidy --set mostDeals=1\n  ./wily match sheets/long-pot.motley --bots patient,random --games 2000 --least 0\n  ./wily match sheets/three-card-duel.motley --bots solved,balanced,random --ladder',
    )
    .action(matchBots);
}
