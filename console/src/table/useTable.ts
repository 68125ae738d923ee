import { type Follow, type LiveSocket, ServiceError, type Viewer } from '@wily-jester/client';
import type {
  Choice,
  Chosen,
  OfferedOption,
  Plan,
  ServerMessage,
  Step,
  StepEvent,
  TableSummary,
  TableView,
} from '@wily-jester/protocol';
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import { client, role, seatHeld } from '../session';
import { onBackAgain } from './backAgain';
import { chaptersOf } from './chapters';
import { type ChosenArgs, type Refused, type RunningClock, type Shown, TAKE_SEAT } from './shown';
import { newWord } from './words';

/** What a page may do to the line of a table that it follows. */
export interface LineOptions {
  /** Makes the line, where it is to be another one than the browser's own. */
  readonly connect?: (address: string) => LiveSocket;
  /** Called for each view that arrives, after it is drawn from. */
  readonly arrived?: (view: TableView) => void;
}

const reasonOf = (error: unknown): string =>
  error instanceof ServiceError ? error.message : 'The service did not answer. Try again.';

/** One table, followed live: its plan, view, clock and talk, and the way to choose. */
export function useTable(id: string, line: LineOptions = {}) {
  const plan = shallowRef<Plan | null>(null);
  const table = shallowRef<TableSummary | null>(null);
  const view = shallowRef<TableView | null>(null);
  const steps = shallowRef<Step[]>([]);
  const clock = ref<RunningClock | null>(null);
  const connection = ref<'open' | 'lost' | 'new'>('new');
  const problem = ref('');
  const sent = ref<string | null>(null);
  const refused = ref<Refused | null>(null);
  const viewer = ref<Viewer>('watch');
  let following: Follow | null = null;
  let happened: (events: readonly StepEvent[]) => void = () => undefined;

  /** Follows the table with certain eyes. */
  function look(as: Viewer): void {
    if (following && viewer.value === as) return;
    following?.stop();
    viewer.value = as;
    refused.value = null;
    // A seat's key, or one to watch, has eyes of its own.
    following = client.value.follow(id, {
      as: role.value === 'developer' ? as : undefined,
      connect: line.connect,
      onView: (next, came, fresh) => {
        if (fresh && came[0]?.number === 0) steps.value = [...came];
        else steps.value = [...steps.value.filter((step) => !came.some((c) => c.number === step.number)), ...came];
        view.value = next;
        if (!fresh) happened(came.flatMap((step) => step.events));
        line.arrived?.(next);
      },
      onClock: (now: ServerMessage['clock']) => {
        clock.value = now ? { ask: now.ask, seconds: now.seconds, until: Date.now() + now.left * 1000 } : null;
      },
      onStatus: (now) => {
        table.value = now;
      },
      onConnection: (state) => {
        connection.value = state;
      },
      onProblem: (error) => {
        problem.value = error.message;
      },
    });
  }

  async function open(first: (summary: TableSummary) => Viewer): Promise<void> {
    problem.value = '';
    try {
      const [summary, itsPlan] = await Promise.all([client.value.table(id), client.value.plan(id)]);
      table.value = summary;
      plan.value = itsPlan;
      look(first(summary));
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error);
    }
  }

  const isMine = computed(() => typeof viewer.value === 'number' && table.value?.seats[viewer.value - 1]?.bot === null);
  /** The view is that of the eyes that were asked for: another one is on its way until then. */
  const isSeen = computed(() => view.value?.viewer === viewer.value);
  const offers = computed<readonly OfferedOption[]>(() =>
    isMine.value && isSeen.value ? (view.value?.offers ?? []) : [],
  );

  const standIn = computed(() =>
    seatHeld.value === null || viewer.value !== seatHeld.value
      ? null
      : (table.value?.seats[seatHeld.value - 1]?.bot ?? null),
  );
  async function takeSeat(): Promise<void> {
    if (seatHeld.value === null) return;
    refused.value = null;
    await client.value.takeSeat(id, seatHeld.value).catch((error: unknown) => {
      refused.value = { option: TAKE_SEAT, reason: reasonOf(error) };
    });
  }

  /** Chooses for the seat whose eyes we have. A second press while the first is on its way does nothing. */
  async function choose(option: string, args: ChosenArgs = {}): Promise<void> {
    const { value: now } = view;
    if (!now || !isSeen.value || sent.value !== null || typeof viewer.value !== 'number') return;
    sent.value = option;
    refused.value = null;
    try {
      await following?.choose({ ask: now.waiting.ask ?? 0, option, args, once: newWord(), seat: viewer.value });
    } catch (error) {
      refused.value = {
        option,
        reason: reasonOf(error),
      };
    } finally {
      sent.value = null;
    }
  }

  const chapters = computed(() => chaptersOf(steps.value, table.value?.seats.map((seat) => seat.name) ?? []));

  onUnmounted(onBackAgain(() => following?.renew()));
  onUnmounted(() => following?.stop());
  const shown: Shown = {
    plan,
    table,
    view,
    offers,
    clock,
    sent,
    refused,
    isMine,
    standIn,
    takeSeat,
    choose,
    onHappened: (work: (events: readonly StepEvent[]) => void) => {
      happened = work;
    },
  };
  return {
    ...shown,
    connection,
    problem,
    chapters,
    look,
    open,
    /** Sends a choice as it is, whoever's turn it is. */
    send: (choice: Choice): Promise<Chosen> => following?.choose(choice) ?? Promise.reject(new Error('not followed')),
  };
}
