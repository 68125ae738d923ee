import { ServiceError } from '@wily-jester/client';
import type { Draft, DraftSummary } from '@wily-jester/protocol';
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import { client } from '../session';
import { newWord } from '../table/words';
import { type DraftTexts, isSame } from './files';

/** What is typed is kept after so long, in milliseconds; and tried again so long after it could not be. */
const REST = 600;
const AGAIN = 2_500;
const mirrorOf = (id: string): string => `wily-jester draft ${id}`;

/** What somebody else wrote meanwhile. */
export interface Meanwhile {
  readonly texts: DraftTexts;
  readonly number: number;
  readonly at: Date;
}

const textsOf = ({ sheet, rehearsals, parts }: Draft): DraftTexts => ({ sheet, rehearsals, parts });

/**
 * One draft, kept at the service as it is typed. What could not be kept stays in this browser until it can. Nobody's
 * text is overwritten: where two windows write, the later one is shown both.
 * @param isRead it is only looked at: nothing is kept, and nothing heard of it
 */
export function useDraft(id: string, isRead = false) {
  const texts = shallowRef<DraftTexts | null>(null);
  const summary = shallowRef<DraftSummary | null>(null);
  const problem = ref('');
  const state = ref<'kept' | 'typing' | 'keeping' | 'cut off'>('kept');
  const meanwhile = shallowRef<Meanwhile | null>(null);
  /** When a text of another window was taken over. */
  const takenOver = shallowRef<Date | null>(null);
  const keptAt = shallowRef(new Date());
  const now = shallowRef(new Date());
  const window_ = newWord().slice(0, 40);
  /** What is kept next begins an edition: what stood there was not typed over, but replaced. */
  let isAnew = false;
  let number = 0;
  let kept: DraftTexts | null = null;
  let timer = 0;
  const ticking = window.setInterval(() => {
    now.value = new Date();
  }, 10_000);
  const listening = new AbortController();

  async function load(): Promise<void> {
    problem.value = '';
    try {
      const draft = await client.value.draft(id);
      take(draft);
      if (isRead) return;
      const mirror = mirrorIn();
      if (mirror && !isSame(mirror.texts, textsOf(draft))) {
        // What this browser could not hand over goes on, unless somebody else has written since.
        if (mirror.number === draft.number) set(mirror.texts);
        else {
          meanwhile.value = { texts: textsOf(draft), number: draft.number, at: new Date(draft.changed) };
          texts.value = mirror.texts;
        }
      }
      void listen();
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error);
    }
  }

  function mirrorIn(): { texts: DraftTexts; number: number } | null {
    try {
      return JSON.parse(localStorage.getItem(mirrorOf(id)) ?? 'null') as { texts: DraftTexts; number: number } | null;
    } catch {
      return null;
    }
  }
  function mirror(): void {
    try {
      if (kept && texts.value && !isSame(kept, texts.value))
        localStorage.setItem(mirrorOf(id), JSON.stringify({ texts: texts.value, number }));
      else localStorage.removeItem(mirrorOf(id));
    } catch {
      // A browser without room keeps nothing: the service does.
    }
  }

  function take(draft: Draft): void {
    texts.value = textsOf(draft);
    kept = texts.value;
    ({ number } = draft);
    summary.value = draft;
    keptAt.value = new Date(draft.changed);
  }

  /** Takes a change of the texts: it is kept soon. */
  function set(next: DraftTexts): void {
    if (texts.value && isSame(texts.value, next)) return;
    texts.value = next;
    mirror();
    if (meanwhile.value) return;
    state.value = 'typing';
    window.clearTimeout(timer);
    timer = window.setTimeout(keep, REST);
  }

  async function keep(): Promise<void> {
    window.clearTimeout(timer);
    const wanted = texts.value;
    if (!wanted || meanwhile.value || state.value === 'keeping') return;
    if (kept && isSame(kept, wanted)) {
      state.value = 'kept';
      return;
    }
    state.value = 'keeping';
    try {
      const answer = await client.value.keepDraft(id, { after: number, ...wanted, window: window_, anew: isAnew });
      isAnew = false;
      ({ number } = answer);
      summary.value = answer;
      kept = wanted;
      keptAt.value = new Date();
      now.value = keptAt.value;
      state.value = 'kept';
      mirror();
      if (texts.value && !isSame(texts.value, wanted)) {
        state.value = 'typing';
        timer = window.setTimeout(keep, REST);
      }
    } catch (error) {
      if (error instanceof ServiceError && error.kind === 'changed') {
        state.value = 'typing';
        await meet();
        return;
      }
      if (error instanceof ServiceError && (error.kind === 'not-found' || error.status === 422)) {
        problem.value = error.message;
        state.value = 'cut off';
        return;
      }
      state.value = 'cut off';
      timer = window.setTimeout(keep, AGAIN);
    }
  }

  /** Finds what somebody else wrote meanwhile. Where nothing was typed here it is simply taken. */
  async function meet(): Promise<void> {
    const theirs = await client.value.draft(id).catch(() => null);
    if (!theirs || theirs.number <= number) return;
    if (!kept || !texts.value || isSame(kept, texts.value)) {
      take(theirs);
      takenOver.value = new Date(theirs.changed);
      state.value = 'kept';
      return;
    }
    if (isSame(texts.value, textsOf(theirs))) {
      take(theirs);
      state.value = 'kept';
      mirror();
      return;
    }
    meanwhile.value = { texts: textsOf(theirs), number: theirs.number, at: new Date(theirs.changed) };
  }
  /** Ends the meeting: with one of the two, or with what was made of both. */
  function settle(chosen: DraftTexts): void {
    const theirs = meanwhile.value;
    if (!theirs) return;
    number = theirs.number;
    kept = theirs.texts;
    meanwhile.value = null;
    texts.value = chosen;
    isAnew = true;
    mirror();
    state.value = 'typing';
    void keep();
  }
  /** Puts other texts in the place of these, which stay in the history. */
  async function replace(next: DraftTexts): Promise<void> {
    await keep();
    isAnew = true;
    set(next);
  }

  /** Hears of what other windows keep, as long as the page is open. */
  async function listen(): Promise<void> {
    while (!listening.signal.aborted) {
      try {
        for await (const heard of client.value.followDraft(id, listening.signal))
          if (heard.number > number && heard.window !== window_ && state.value !== 'keeping' && !meanwhile.value)
            await meet();
      } catch {
        if (listening.signal.aborted) return;
      }
      await new Promise((done) => window.setTimeout(done, AGAIN));
    }
  }

  const words = computed(() => {
    if (state.value === 'cut off') return 'Kept in this browser, not yet at the service.';
    if (state.value !== 'kept') return 'draft, being kept';
    const seconds = (now.value.getTime() - keptAt.value.getTime()) / 1_000;
    if (seconds < 60) return 'draft, kept just now';
    const when = keptAt.value.toLocaleString('en', {
      hour: '2-digit',
      minute: '2-digit',
      hour12: false,
      ...(seconds > 80_000 ? { day: 'numeric', month: 'short' } : {}),
    });
    return `draft, kept ${seconds > 80_000 ? '' : 'at '}${when}`;
  });

  /** Nothing that was typed is lost with the page: the browser has it already. */
  const onHide = (): void => {
    if (document.visibilityState === 'hidden') void keep();
  };
  document.addEventListener('visibilitychange', onHide);
  onUnmounted(() => {
    document.removeEventListener('visibilitychange', onHide);
    window.clearInterval(ticking);
    listening.abort();
    void keep();
    window.clearTimeout(timer);
  });
  return { texts, summary, problem, state, words, meanwhile, takenOver, load, set, replace, keep, settle };
}
