import type { AuditReport } from '@wily-jester/core';
import { onUnmounted, ref, shallowRef } from 'vue';
import type { AuditAsked, AuditTold } from './audit.worker';

/** One shuffle that is audited: what it is called, and what was found. */
export function useAudit() {
  const report = shallowRef<AuditReport | null>(null);
  const name = ref('');
  const words = ref('');
  const problem = ref('');
  const busy = ref(false);
  let worker: Worker | null = null;
  let turn = 0;

  function ask(asked: AuditAsked): void {
    // What was asked before is of no use any more: its worker ends.
    worker?.terminate();
    worker = new Worker(new URL('./audit.worker.ts', import.meta.url), { type: 'module' });
    busy.value = true;
    problem.value = '';
    worker.addEventListener('message', ({ data }: MessageEvent<AuditTold>) => {
      if (data.id !== turn) return;
      busy.value = false;
      if ('problem' in data) {
        problem.value = data.problem;
        return;
      }
      report.value = data.report;
      words.value = data.words;
    });
    worker.addEventListener('error', () => {
      busy.value = false;
      problem.value = 'The audit could not be made.';
    });
    worker.postMessage(asked);
  }

  /** Audits a known shuffle. */
  function named(shuffle: string, shuffles: number): void {
    name.value = shuffle;
    ask({ id: ++turn, name: shuffle, shuffles });
  }
  /** Audits the shuffles of a file. */
  function file(given: File): void {
    name.value = given.name;
    ask({ id: ++turn, file: given });
  }
  onUnmounted(() => worker?.terminate());
  return { report, name, words, problem, busy, named, file };
}
