import type { Viewer } from '@wily-jester/client';
import type { OfferedOption, Plan, Step, TableSummary, TableView } from '@wily-jester/protocol';
import { computed, ref, shallowRef } from 'vue';
import { client, role } from '../session';
import { chaptersOf } from '../table/chapters';
import type { Shown } from '../table/shown';

const NOTHING: readonly OfferedOption[] = [];

/** One table's past: the state after any number, as somebody saw it, or laid open. */
export function usePast(id: string) {
  const plan = shallowRef<Plan | null>(null);
  const table = shallowRef<TableSummary | null>(null);
  const view = shallowRef<TableView | null>(null);
  const step = shallowRef<Step | null>(null);
  const steps = shallowRef<Step[]>([]);
  const number = ref(0);
  const viewer = ref<Viewer>('watch');
  const problem = ref('');
  let wanted = 0;
  let answered = 0;

  const asked = (): Viewer | undefined => (role.value === 'developer' ? viewer.value : undefined);
  const said = (error: unknown): string => (error instanceof Error ? error.message : String(error));

  /** Shows the state after a number. Of several wishes in a row the last one stays; until it is answered, later answers stand for it. */
  async function go(to: number): Promise<void> {
    number.value = Math.min(Math.max(0, to), table.value?.number ?? 0);
    const mine = ++wanted;
    try {
      const past = await client.value.past(id, number.value, asked());
      if (mine < answered) return;
      answered = mine;
      view.value = past.view;
      step.value = past.step;
      problem.value = '';
    } catch (error) {
      if (mine === wanted) problem.value = said(error);
    }
  }

  let looked: Viewer | null = null;
  /** Looks with certain eyes. */
  async function look(as: Viewer): Promise<void> {
    if (looked === as) return;
    looked = as;
    viewer.value = as;
    try {
      steps.value = await client.value.steps(id, undefined, asked());
    } catch (error) {
      looked = null;
      problem.value = said(error);
      return;
    }
    await go(number.value);
  }

  async function open(first: (summary: TableSummary) => Viewer, at?: number): Promise<void> {
    try {
      const [summary, itsPlan] = await Promise.all([client.value.table(id), client.value.plan(id)]);
      table.value = summary;
      plan.value = itsPlan;
      number.value = Math.min(at ?? summary.number, summary.number);
      await look(first(summary));
    } catch (error) {
      problem.value = said(error);
    }
  }

  const shown: Shown = {
    plan,
    table,
    view,
    offers: computed(() => NOTHING),
    clock: ref(null),
    sent: ref(null),
    refused: ref(null),
    isMine: computed(() => false),
    standIn: computed(() => null),
    takeSeat: async () => undefined,
    choose: async () => undefined,
    onHappened: () => undefined,
  };
  const chapters = computed(() => chaptersOf(steps.value, table.value?.seats.map((seat) => seat.name) ?? []));
  /** What is shown is not yet what was asked for. */
  const isReading = computed(() => view.value !== null && view.value.number !== number.value);
  return { shown, isReading, plan, table, view, step, steps, number, viewer, problem, chapters, go, look, open };
}
