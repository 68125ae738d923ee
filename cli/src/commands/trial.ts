import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { figureWords, trialCharts, trialCsv } from '@wily-jester/charts';
import {
  BLOCK,
  SEMANTICS,
  type TrialFigures,
  type TrialPlan,
  TrialTotals,
  trialFigures,
  type Until,
  UntilError,
} from '@wily-jester/core';
import { RELEASE } from '@wily-jester/protocol';
import type { Command } from 'commander';
import { Exit, WRONG_USE } from '../exit.js';
import { complain, harmless, print, printJson } from '../show/print.js';
import { printTrial } from '../trial/lines.js';
import { planOfTrial, type TrialWishes } from '../trial/plan.js';
import { runTrial } from '../trial/run.js';
import { wholeNumber } from '../words.js';

interface Wishes extends TrialWishes {
  jobs: string;
  json?: boolean;
  csv?: boolean;
  svg?: string;
  report?: string;
}

const MOST_JOBS = 64;
/** Progress is shown so often, in milliseconds. */
const SHOWN_EVERY = 200;
/** Where there is no terminal, it is told so often. */
const TOLD_EVERY = 10_000;

function totalsFor(plan: TrialPlan, until: Until | null): TrialTotals {
  try {
    return new TrialTotals(plan, until);
  } catch (error) {
    if (error instanceof UntilError) throw new Exit(error.message, WRONG_USE);
    throw error;
  }
}

/**
 * How far it is, how quick, and how long it takes yet, on stderr: one line that is written over on a terminal, and
 * elsewhere a line now and then.
 */
class Progress {
  private next = 0;
  private readonly began = performance.now();
  private readonly isTerminal = process.stderr.isTTY === true;

  constructor(
    private readonly plan: TrialPlan,
    private readonly totals: TrialTotals,
  ) {}

  show(): void {
    const now = performance.now();
    if (now < this.next) return;
    this.next = now + (this.isTerminal ? SHOWN_EVERY : TOLD_EVERY);
    if (this.isTerminal) process.stderr.write(`\r\u001b[K${harmless(this.words(now))}`);
    else complain(this.words(now));
  }

  private words(now: number): string {
    const { totals, plan } = this;
    const rate = totals.games / ((now - this.began) / 1000);
    const needed = totals.gamesNeeded ?? plan.games;
    const left = Math.max(0, Math.ceil((needed - totals.games) / rate));
    const point = totals.points.at(-1);
    const form = totals.arms[0]?.tallies[totals.headline.tally]?.form ?? 'number';
    const figure = point
      ? ` · ${totals.headline.name} ${figureWords({ value: point.value, interval: [point.value - point.half, point.value + point.half], doubt: null }, form)}`
      : '';
    return `${totals.games.toLocaleString('en')} of ${needed.toLocaleString('en')} games · ${Math.round(rate).toLocaleString('en')} a second · ${left} s left${figure}`;
  }

  end(): void {
    if (this.isTerminal && this.next > 0) process.stderr.write('\r\u001b[K');
  }
}

/** What was tried, so that it can be tried again. */
function headerOf(plan: TrialPlan, hash: string, totals: TrialTotals) {
  return {
    format: 'wily-jester-trial/1',
    version: RELEASE,
    semantics: SEMANTICS,
    sheet: plan.arms[0]?.program.name,
    hash,
    arms: plan.arms.map(({ label, settings, bots }) => ({ label, settings, bots })),
    seed: plan.seed,
    asked: plan.games,
    played: totals.games,
    block: BLOCK,
    until: totals.until,
    longest: plan.longest,
  };
}

async function writePictures(folder: string, figures: TrialFigures): Promise<string[]> {
  const { svgOf } = await import('@wily-jester/charts/svg');
  await mkdir(folder, { recursive: true });
  const charts = trialCharts(figures);
  for (const chart of charts) await writeFile(join(folder, `${chart.id}.svg`), svgOf(chart));
  return charts.map(({ id }) => join(folder, `${id}.svg`));
}

async function trial(file: string, wishes: Wishes): Promise<void> {
  const { plan, until, hash } = await planOfTrial(file, wishes);
  const totals = totalsFor(plan, until);
  const jobs = wholeNumber('--jobs', wishes.jobs, 1, MOST_JOBS);
  const stop = new AbortController();
  const interrupted = (): void => stop.abort();
  process.once('SIGINT', interrupted);
  const progress = new Progress(plan, totals);
  const began = performance.now();
  try {
    await runTrial(plan, totals, { jobs, signal: stop.signal, onBlock: () => progress.show() });
  } finally {
    process.removeListener('SIGINT', interrupted);
    progress.end();
  }
  const seconds = (performance.now() - began) / 1000;
  if (totals.games === 0)
    throw new Exit('Stopped before the first games were over: there is nothing to tell.', WRONG_USE);
  const figures = trialFigures(totals, plan);
  const [first] = plan.arms;
  const title = `${first?.program.name}: ${first?.bots.length === 1 ? 'one seat' : `${first?.bots.length} seats`}, played by ${[...new Set(first?.bots)].join(' and ')}`;
  if (wishes.svg !== undefined) for (const path of await writePictures(wishes.svg, figures)) complain(path);
  if (wishes.report !== undefined) {
    const how = `Seed ${plan.seed}, Wily Jester ${RELEASE}, sheet ${hash.slice(0, 16)}; ${plan.arms.map(({ label, settings }) => `${label}: ${JSON.stringify(settings)}`).join('; ')}`;
    const { reportOf } = await import('../trial/report.js');
    await writeFile(wishes.report, reportOf(title, figures, trialCharts(figures), how));
    complain(wishes.report);
  }
  if (wishes.json) printJson({ header: headerOf(plan, hash, totals), figures, seconds });
  else if (wishes.csv) print(trialCsv(figures).trimEnd());
  else printTrial(title, figures, seconds);
}

/** `trial`: very many games, and what they come to. */
export function addTrialCommand(program: Command): void {
  program
    .command('trial <file>')
    .description('play very many games, and tell what they come to, with the errors')
    .option('--games <number>', 'how many games', '10000')
    .option('--seats <number>', 'how many seats')
    .option('--bots <names>', 'who plays: one for all seats, or one each; bots of the sheet, random, thinking:100p')
    .option('--set <setting...>', 'settings, such as rounds=1 stake=100000')
    .option('--compare <values>', 'hold settings or bots against each other: softHit=no,yes or bots=steady,random')
    .option('--with <file>', 'hold another sheet against this one')
    .option('--until <figure...>', 'stop once it is known: "return" 0.001, or "return" differs')
    .option('--seed <text>', 'the same text gives the same games', '1')
    .option('--longest <steps>', 'most choices and pauses of one game', '100000')
    .option('--jobs <number>', 'how many threads', '1')
    .option('--json', 'all figures as JSON')
    .option('--csv', 'all figures as CSV')
    .option('--svg <folder>', 'pictures, as SVG files')
    .option('--report <file>', 'pictures and figures as one HTML page')
    .addHelpText(
      'after',
      '\nWhat is counted, the sheet says with tally (see docs/motley.md). Ctrl-C tells what is known so far.\n\nExamples:\n  ./wily trial sheets/long-war.motley --games 20000\n  ./wily trial sheets/quayside-twenty-one.motley --bots chart --set rounds=1 stake=100000 insures=no surrenders=no --compare softHit=no,yes --games 1000000 --jobs 2',
    )
    .action(trial);
}
