import { ServiceError } from '@wily-jester/client';
import type { NewTrial, Trial, TrialSummary } from '@wily-jester/protocol';
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import { client } from '../session';

const reasonOf = (error: unknown): string =>
  error instanceof ServiceError ? error.message : 'The service does not answer. Try again.';

/** The trials of the service, and the one that is looked at, as it grows. */
export function useTrials() {
  const trials = ref<TrialSummary[]>([]);
  const shown = shallowRef<Trial | null>(null);
  const wrong = ref('');
  let following: AbortController | null = null;

  const isGoingOn = computed(() => {
    const status = shown.value?.trial.status;
    return status === 'waiting' || status === 'running';
  });

  async function load(): Promise<void> {
    try {
      trials.value = await client.value.trials();
      wrong.value = '';
    } catch (error) {
      wrong.value = reasonOf(error);
    }
  }

  function note({ trial }: Trial): void {
    trials.value = trials.value.map((one) => (one.id === trial.id ? trial : one));
  }

  /** Looks at a trial, and goes on looking while it is played. */
  async function show(id: string): Promise<void> {
    following?.abort();
    const turn = new AbortController();
    following = turn;
    wrong.value = '';
    try {
      for await (const trial of client.value.followTrial(id, turn.signal)) {
        if (turn.signal.aborted) return;
        shown.value = trial;
        note(trial);
      }
    } catch (error) {
      if (!turn.signal.aborted) wrong.value = reasonOf(error);
    }
  }

  async function open(wish: NewTrial): Promise<boolean> {
    wrong.value = '';
    try {
      const trial = await client.value.openTrial(wish);
      trials.value = [trial, ...trials.value];
      shown.value = { trial, figures: null };
      void show(trial.id);
      return true;
    } catch (error) {
      wrong.value = reasonOf(error);
      return false;
    }
  }

  async function stop(): Promise<void> {
    const id = shown.value?.trial.id;
    if (id === undefined) return;
    try {
      const stopped = await client.value.stopTrial(id);
      shown.value = stopped;
      note(stopped);
    } catch (error) {
      wrong.value = reasonOf(error);
    }
  }

  async function remove(id: string): Promise<void> {
    try {
      await client.value.deleteTrial(id);
      trials.value = trials.value.filter((one) => one.id !== id);
      if (shown.value?.trial.id === id) {
        following?.abort();
        shown.value = null;
      }
    } catch (error) {
      wrong.value = reasonOf(error);
    }
  }

  onUnmounted(() => following?.abort());
  return { trials, shown, wrong, isGoingOn, load, show, open, stop, remove };
}
