import type { Program, SoakReport, TrialFigures } from '@wily-jester/core';
import type { Reveal } from '@wily-jester/motley/reveals';
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import { Aside, Overdue } from './workers/aside';
import type { Read } from './workers/language.worker';
import type { Proof, Reach, Rehearsed } from './workers/proof.worker';

/** The longest that one rehearsal, or a handful of games, may take, in milliseconds. */
const LONGEST = 20_000;
/** So many games are soaked at a time: between them another text may come. */
const HANDFUL = 25;
const GAMES = 200;
const MORE_GAMES = 2_000;
/** So long after a text that checks its soak begins, in milliseconds. */
const REST = 700;

export interface Soaked {
  readonly games: number;
  readonly choices: number;
  readonly longest: number;
  readonly failures: SoakReport['failures'];
  readonly endless: number;
  /** Options that were never taken. */
  readonly never: readonly string[];
}

function added(before: Soaked | null, report: SoakReport, taken: Map<string, number>): Soaked {
  for (const [option, times] of Object.entries(report.taken)) taken.set(option, (taken.get(option) ?? 0) + times);
  return {
    games: (before?.games ?? 0) + report.games,
    choices: (before?.choices ?? 0) + report.choices,
    longest: Math.max(before?.longest ?? 0, report.longest),
    failures: [...(before?.failures ?? []), ...report.failures].slice(0, 20),
    endless: (before?.endless ?? 0) + report.endless.length,
    never: [...taken].filter(([, times]) => times === 0).map(([option]) => option),
  };
}

/** What holds of a draft: its rehearsals, random games, a small trial, what its course shows. */
export function useProofs() {
  const aside = new Aside<Proof>(
    () => new Worker(new URL('./workers/proof.worker.ts', import.meta.url), { type: 'module' }),
    LONGEST,
  );
  const results = shallowRef<readonly Rehearsed[]>([]);
  const reach = shallowRef<Reach>({ covered: [], missed: [] });
  const isRunning = ref(false);
  const soaked = shallowRef<Soaked | null>(null);
  const isSoaking = ref(false);
  const soakProblem = ref('');
  const trial = shallowRef<TrialFigures | null>(null);
  const trialProblem = ref('');
  const isTrying = ref(false);
  const reveals = shallowRef<readonly Reveal[]>([]);
  let turn = 0;
  let timer = 0;
  let current: Program | null = null;

  /** Takes a text that checks: rehearsals run at once, those that failed before first; a soak begins after a while. */
  async function take({ program, rehearsing }: Read): Promise<void> {
    const mine = ++turn;
    window.clearTimeout(timer);
    if (!program) return;
    current = program;
    trial.value = null;
    isRunning.value = true;
    try {
      const rules = rehearsing?.program ?? program;
      await aside.ask((proof) => proof.begin(rules));
      const failed = new Set(results.value.filter(({ failure }) => failure).map(({ title }) => title));
      const all = rehearsing?.rehearsals ?? [];
      const order = [...all.filter(({ title }) => failed.has(title)), ...all.filter(({ title }) => !failed.has(title))];
      const found: Rehearsed[] = [];
      for (const rehearsal of order) {
        const result = await aside.ask((proof) => proof.rehearse(rehearsal));
        if (mine !== turn) return;
        found.push(result);
      }
      results.value = found.sort((a, b) => Number(a.failure === null) - Number(b.failure === null) || a.line - b.line);
      reach.value = await aside.ask((proof) => proof.reach());
      reveals.value = await aside.ask((proof) => proof.reveals(program));
    } catch (error) {
      if (!(error instanceof Overdue)) throw error;
    } finally {
      if (mine === turn) isRunning.value = false;
    }
    if (mine === turn) timer = window.setTimeout(() => void soak(GAMES, true), REST);
  }

  /** Plays random games, and tells as they come. @param anew forgets what was played before */
  async function soak(games: number, anew = false): Promise<void> {
    const mine = turn;
    const rules = current;
    if (!rules) return;
    if (isSoaking.value) {
      // What is soaked of an older text ends soon.
      timer = window.setTimeout(() => void soak(games, anew), REST);
      return;
    }
    const taken = new Map<string, number>();
    let sum: Soaked | null = null;
    const from = anew ? 0 : (soaked.value?.games ?? 0);
    isSoaking.value = true;
    soakProblem.value = '';
    try {
      while ((sum?.games ?? 0) < games && mine === turn) {
        const first: number = from + (sum?.games ?? 0);
        const report = await aside.ask((proof) => proof.soak(rules, Math.min(HANDFUL, games), first));
        if (mine !== turn) return;
        sum = added(sum, report, taken);
        soaked.value = sum;
        if (sum.failures.length > 0) return;
      }
    } catch (error) {
      if (!(error instanceof Overdue)) throw error;
      soakProblem.value = 'These games take too long.';
    } finally {
      isSoaking.value = false;
    }
  }

  async function tryOut(): Promise<void> {
    const rules = current;
    if (!rules || isTrying.value) return;
    isTrying.value = true;
    trialProblem.value = '';
    try {
      const found = await aside.ask((proof) => proof.trial(rules, 1_000));
      if (rules !== current) return;
      trialProblem.value = found.problem;
      trial.value = found.figures;
    } catch (error) {
      if (!(error instanceof Overdue)) throw error;
      trialProblem.value = 'A thousand games of this take too long here: the Trials page has time.';
    } finally {
      isTrying.value = false;
    }
  }

  onUnmounted(() => {
    window.clearTimeout(timer);
    aside.stop();
  });
  const passed = computed(() => results.value.filter(({ failure }) => failure === null).length);
  return {
    results,
    passed,
    reach,
    isRunning,
    soaked,
    isSoaking,
    soakProblem,
    trial,
    trialProblem,
    isTrying,
    reveals,
    take,
    soakMore: () => soak(MORE_GAMES),
    tryOut,
  };
}
export type ProofsHere = ReturnType<typeof useProofs>;
