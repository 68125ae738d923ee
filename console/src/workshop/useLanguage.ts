import { onUnmounted, type Ref, ref, shallowRef, watch } from 'vue';
import type { DraftTexts } from './files';
import { Aside, Overdue } from './workers/aside';
import type { Language, Read } from './workers/language.worker';

/** A pause in typing, in milliseconds, after which the text is read. */
const PAUSE = 40;
/** The longest that reading a text may take, in milliseconds. */
const LONGEST = 10_000;

/** What the language knows of a draft's texts as they are typed. */
export function useLanguage(texts: Readonly<Ref<DraftTexts | null>>) {
  const aside = new Aside<Language>(
    () => new Worker(new URL('./workers/language.worker.ts', import.meta.url), { type: 'module' }),
    LONGEST,
  );
  const read = shallowRef<Read | null>(null);
  /** The texts that were read: those that are typed may be on already. */
  const of = shallowRef<DraftTexts | null>(null);
  const isReading = ref(false);
  /** How long the last reading took, in milliseconds. */
  const took = ref(0);
  const problem = ref('');
  let timer = 0;
  let isBusy = false;
  let isStale = false;

  async function readNow(): Promise<void> {
    const now = texts.value;
    if (!now) return;
    if (isBusy) {
      isStale = true;
      return;
    }
    isBusy = true;
    isReading.value = true;
    const from = performance.now();
    try {
      const found = await aside.ask((language) => language.read(now));
      took.value = performance.now() - from;
      problem.value = '';
      // The sheet first: the table need not wait for the rehearsals.
      const before = read.value?.problems.rehearsals ?? [];
      if (!isStale) {
        of.value = now;
        read.value = { ...found, problems: { ...found.problems, rehearsals: before } };
      }
      if (!isStale) {
        const { rehearsing, problems } = await aside.ask((language) => language.rehearsals());
        if (!isStale)
          read.value = { ...found, problems: { ...found.problems, rehearsals: problems }, rehearsing, isWhole: true };
      }
    } catch (error) {
      if (!(error instanceof Overdue)) throw error;
      problem.value = 'Reading this text takes too long. Take the last change back.';
    } finally {
      isBusy = false;
      isReading.value = false;
    }
    if (isStale) {
      isStale = false;
      await readNow();
    }
  }
  watch(
    texts,
    (_, before) => {
      window.clearTimeout(timer);
      timer = window.setTimeout(readNow, before === null ? 0 : PAUSE);
    },
    { immediate: true },
  );
  onUnmounted(() => {
    window.clearTimeout(timer);
    aside.stop();
  });
  return { read, of, isReading, took, problem, ask: aside.ask.bind(aside) };
}
