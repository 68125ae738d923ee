import type { Made, Program } from '@wily-jester/core';
import type { OfferedOption, Plan, StepEvent, TableSummary, TableView } from '@wily-jester/protocol';
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import type { ChosenArgs, Refused, Shown } from '../table/shown';
import { type Change, changesBetween } from './changes';
import { firstSetup, fittingSetup } from './setup';
import { Aside, Overdue } from './workers/aside';
import type { Answered, Bench, BenchEyes, BenchSetup, Look, SheetFault } from './workers/table.worker';

/** The longest that the table may take, in milliseconds: all choices played again, at most. */
const LONGEST = 8_000;
/** A bot's choice is seen for so long before the next one, in milliseconds. */
const PACE = 350;
/** What changed with the text is marked for so long, in milliseconds. */
const MARKED = 4_000;

const FREE: Pick<TableSummary, 'status' | 'fault' | 'clocks' | 'pace' | 'commitment' | 'promisesFairness'> = {
  status: 'open',
  fault: null,
  clocks: false,
  pace: 0,
  commitment: '',
  promisesFairness: false,
};

/** A draft's table: the game of the text as it stands, and what may be done with it. */
export function useBench() {
  const aside = new Aside<Bench>(
    () => new Worker(new URL('./workers/table.worker.ts', import.meta.url), { type: 'module' }),
    LONGEST,
  );
  const program = shallowRef<Program | null>(null);
  const setup = shallowRef<BenchSetup | null>(null);
  const look = shallowRef<Look | null>(null);
  const fault = shallowRef<SheetFault | null>(null);
  const eyes = ref<BenchEyes>('asked');
  const refused = ref<Refused | null>(null);
  /** Where the sheet refuses what was refused last. */
  const refusedLine = ref<number | null>(null);
  const sent = ref<string | null>(null);
  const changes = shallowRef<readonly Change[]>([]);
  /** When the table was last played on a text, and how that went. */
  const played = shallowRef<{ readonly at: number; readonly choices: number; readonly milliseconds: number } | null>(
    null,
  );
  const botsRest = ref(false);
  let happened: (events: readonly StepEvent[]) => void = () => undefined;
  /** What was made so far; kept here too, so that a worker that was ended loses nothing. */
  let made: readonly Made[] = [];
  let turn = 0;
  let botTimer = 0;
  let markTimer = 0;

  /** Lays the table as it stood in a new worker, where the one before was ended: it knows nothing. */
  async function layAgain(): Promise<void> {
    const [rules, given] = [program.value, setup.value];
    if (aside.isUp || !rules || !given) return;
    await aside.ask((bench) => bench.look(eyes.value));
    await aside.ask((bench) => bench.open(rules, given, made, look.value?.at ?? null));
  }

  async function run(
    work: (bench: Aside<Bench>) => Promise<Answered>,
    { shows = true, lays = false } = {},
  ): Promise<Answered | null> {
    const mine = ++turn;
    window.clearTimeout(botTimer);
    let answered: Answered;
    try {
      if (!lays) await layAgain();
      answered = await work(aside);
    } catch (error) {
      if (!(error instanceof Overdue)) throw error;
      fault.value = {
        line: null,
        where: '',
        message: 'The table takes too long: what stands in this text runs on. It was stopped.',
      };
      return null;
    }
    if (mine !== turn) return null;
    fault.value = answered.fault;
    if (answered.look) {
      const before = look.value;
      look.value = answered.look;
      if (shows && before && answered.look.at > before.at) happened(answered.look.events as readonly StepEvent[]);
      made = await aside.ask((bench) => bench.made());
      if (mine !== turn) return null;
      letBotsPlay();
    } else look.value = null;
    return answered;
  }

  /** A bot that is asked plays after a moment. */
  function letBotsPlay(): void {
    const now = look.value;
    const seat = now?.botSeat ?? null;
    if (!now || seat === null || fault.value || now.broken || botsRest.value || now.at < now.last) return;
    if (now.seat !== null && now.isRace) return;
    const how = setup.value?.seats[seat]?.bot;
    if (!how) return;
    const pace = matchMedia('(prefers-reduced-motion: reduce)').matches ? 0 : PACE;
    botTimer = window.setTimeout(() => void run((bench) => bench.ask((table) => table.play(seat, how))), pace);
  }

  /** Lays the table on rules: the choices so far are played again, and shown where the table then stands. */
  async function lay(rules: Program, isNewText: boolean): Promise<void> {
    const before = look.value;
    program.value = rules;
    const fitting = setup.value ? fittingSetup(setup.value, rules) : firstSetup(rules);
    setup.value = fitting;
    const at = before && before.at < before.last ? before.at : null;
    const wanted = made;
    const answered = await run(
      async (bench) => {
        await bench.ask((table) => table.look(eyes.value));
        return bench.ask((table) => table.open(rules, fitting, wanted, at));
      },
      { shows: false, lays: true },
    );
    if (!answered?.look || !isNewText) return;
    played.value = { at: Date.now(), choices: answered.look.last, milliseconds: answered.look.milliseconds };
    changes.value = before ? changesBetween(before.view as TableView, answered.look.view as TableView) : [];
    window.clearTimeout(markTimer);
    markTimer = window.setTimeout(() => {
      changes.value = [];
    }, MARKED);
  }

  /** Lays it anew with another setup, or other choices. */
  async function relay(given: Partial<BenchSetup>, choices: readonly Made[] = made): Promise<void> {
    if (!program.value || !setup.value) return;
    setup.value = { ...setup.value, ...given };
    made = choices;
    look.value = null;
    refused.value = null;
    await lay(program.value, false);
  }

  async function go(at: number): Promise<void> {
    refused.value = null;
    refusedLine.value = null;
    await run((bench) => bench.ask((table) => table.go(at)), { shows: false });
  }
  async function see(as: BenchEyes): Promise<void> {
    eyes.value = as;
    await run((bench) => bench.ask((table) => table.look(as)), { shows: false });
  }
  /** Goes on to the next eyes: whoever is asked, each seat, all hands open. */
  function nextEyes(): Promise<void> {
    const order: BenchEyes[] = ['asked', ...(setup.value?.seats.keys() ?? []), 'open'];
    return see(order[(order.indexOf(eyes.value) + 1) % order.length] ?? 'asked');
  }
  /** Begins anew with the same seats and settings. @param seed another shuffle */
  const beginAnew = (seed?: string): Promise<void> =>
    relay({ ...(seed === undefined ? {} : { seed }), soaked: null }, []);
  /** Forgets the choices from one on. */
  const backTo = (choice: number): Promise<void> => relay({}, made.slice(0, choice));

  async function choose(option: string, args: ChosenArgs = {}): Promise<void> {
    const seat = look.value?.seat;
    if (seat === null || seat === undefined || sent.value !== null) return;
    sent.value = option;
    refused.value = null;
    refusedLine.value = null;
    try {
      const answered = await run((bench) => bench.ask((table) => table.choose(seat, option, args)));
      if (answered?.refusal) {
        refused.value = { option, reason: answered.refusal.reason };
        refusedLine.value = answered.refusal.line ?? null;
      }
    } finally {
      sent.value = null;
    }
  }

  const plan = computed(() => (look.value?.plan ?? null) as Plan | null);
  const view = computed(() => (look.value?.view ?? null) as TableView | null);
  const table = computed<TableSummary | null>(() => {
    const now = look.value;
    if (!now || !setup.value) return null;
    return {
      ...FREE,
      id: '',
      game: now.plan.name,
      sheet: '',
      number: now.view.number,
      chapter: now.view.chapter.title,
      opened: '',
      changed: '',
      seats: setup.value.seats.map(({ name, bot }, i) => ({
        seat: i + 1,
        name,
        bot,
        held: bot === null ? 'person' : 'bot',
        present: true,
        away: false,
      })),
    } as unknown as TableSummary;
  });
  const isStill = computed(() => fault.value !== null || (look.value?.broken ?? null) !== null);
  const shown: Shown = {
    plan,
    table,
    view,
    offers: computed(() =>
      isStill.value || look.value?.seat === null ? [] : ((view.value?.offers ?? []) as readonly OfferedOption[]),
    ),
    clock: ref(null),
    sent,
    refused,
    isMine: computed(() => look.value?.seat !== null),
    standIn: computed(() => null),
    takeSeat: async () => undefined,
    choose,
    onHappened: (work) => {
      happened = work;
    },
  };
  /** Other cards are promised to piles: the table begins anew. */
  const stack = (gets: Readonly<Record<string, readonly string[]>>): void => void relay({ gets, soaked: null }, []);
  onUnmounted(() => {
    window.clearTimeout(botTimer);
    window.clearTimeout(markTimer);
    aside.stop();
  });
  return {
    shown,
    stack,
    program,
    setup,
    look,
    fault,
    eyes,
    refusedLine,
    changes,
    played,
    isStill,
    lay,
    relay,
    go,
    see,
    nextEyes,
    beginAnew,
    backTo,
    choose,
    made: (): readonly Made[] => made,
    /** Marks the line of what is explained: why it may not be chosen now. */
    explain: (line: number | null): void => {
      refusedLine.value = line;
    },
    ask: aside.ask.bind(aside),
    rest: (isResting: boolean): void => {
      botsRest.value = isResting;
      if (!isResting) letBotsPlay();
      else window.clearTimeout(botTimer);
    },
  };
}
export type BenchHere = ReturnType<typeof useBench>;
