import { type Follow, ServiceError, type Viewer } from '@wily-jester/client';
import type {
  OfferedOption,
  Plan,
  ServerMessage,
  SpokenLine,
  Step,
  StepEvent,
  TableSummary,
  TableView,
} from '@wily-jester/protocol';
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import { client } from '../session';

/** What was said in one chapter, and how scores changed in it. */
export interface Chapter {
  readonly title: string;
  readonly lines: SpokenLine[];
  readonly result: { readonly name: string; readonly change: number }[];
}

/** A refusal, kept beside what was touched until the next touch. */
export interface Refused {
  readonly option: string;
  readonly reason: string;
}

const newWord = (): string =>
  typeof crypto.randomUUID === 'function'
    ? crypto.randomUUID()
    : [...crypto.getRandomValues(new Uint8Array(16))].map((b) => b.toString(16)).join('');

/** One table, followed live: its plan, view, clock and talk, and the way to choose. */
export function useTable(id: string) {
  const plan = shallowRef<Plan | null>(null);
  const table = shallowRef<TableSummary | null>(null);
  const view = shallowRef<TableView | null>(null);
  const steps = shallowRef<Step[]>([]);
  const clock = ref<{ ask: number; seconds: number; until: number } | null>(null);
  const connection = ref<'open' | 'lost' | 'new'>('new');
  const problem = ref('');
  const sent = ref<string | null>(null);
  const refused = ref<Refused | null>(null);
  const viewer = ref<Viewer>('watch');
  let following: Follow | null = null;
  let happened: (events: readonly StepEvent[]) => void = () => undefined;

  /** Follows the table with certain eyes. */
  function look(as: Viewer): void {
    following?.stop();
    viewer.value = as;
    refused.value = null;
    following = client.value.follow(id, {
      as,
      onView: (next, came, fresh) => {
        if (fresh && came[0]?.number === 0) steps.value = [...came];
        else steps.value = [...steps.value.filter((step) => !came.some((c) => c.number === step.number)), ...came];
        view.value = next;
        if (!fresh) happened(came.flatMap((step) => step.events));
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
  const offers = computed<readonly OfferedOption[]>(() => (isMine.value ? (view.value?.offers ?? []) : []));

  /** Chooses for the seat whose eyes we have. A second press while the first is on its way does nothing. */
  async function choose(
    option: string,
    args: Record<string, string | number | boolean | null | string[]> = {},
  ): Promise<void> {
    const { value: now } = view;
    if (!now || sent.value !== null || typeof viewer.value !== 'number') return;
    sent.value = option;
    refused.value = null;
    try {
      await following?.choose({ ask: now.waiting.ask ?? 0, option, args, once: newWord(), seat: viewer.value });
    } catch (error) {
      refused.value = {
        option,
        reason: error instanceof ServiceError ? error.message : 'The service did not answer. Try again.',
      };
    } finally {
      sent.value = null;
    }
  }

  const chapters = computed<Chapter[]>(() => {
    const names = table.value?.seats.map((seat) => seat.name) ?? [];
    const found: Chapter[] = [];
    let before: readonly number[] = names.map(() => 0);
    let latest = before;
    const close = (): void => {
      const chapter = found.at(-1);
      if (chapter)
        for (const [i, name] of names.entries())
          chapter.result.push({ name, change: (latest[i] ?? 0) - (before[i] ?? 0) });
      before = latest;
    };
    for (const step of [...steps.value].sort((a, b) => a.number - b.number)) {
      for (const line of step.lines) {
        if (line.kind === 'chapter') {
          latest = step.scores.length > 0 ? step.scores : latest;
          close();
          found.push({ title: line.text, lines: [], result: [] });
        } else {
          if (found.length === 0) found.push({ title: '', lines: [], result: [] });
          found.at(-1)?.lines.push(line);
        }
      }
      if (step.scores.length > 0) latest = step.scores;
    }
    close();
    return found;
  });

  onUnmounted(() => following?.stop());
  return {
    plan,
    table,
    view,
    clock,
    connection,
    problem,
    sent,
    refused,
    viewer,
    isMine,
    offers,
    chapters,
    look,
    open,
    choose,
    onHappened: (work: (events: readonly StepEvent[]) => void) => {
      happened = work;
    },
  };
}
