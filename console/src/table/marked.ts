import { computed, type InjectionKey, inject, type Ref, ref } from 'vue';

/** What the text beside a table marks at it: the name under the pointer, and figures that are others than they were. */
export interface Marked {
  readonly pointed: Readonly<Ref<string | null>>;
  /** What was, by where: `pot`, `2 chips`, `stock`. */
  readonly was: Readonly<Ref<ReadonlyMap<string, string>>>;
}

export const MARKED: InjectionKey<Marked> = Symbol('marked');

const NOTHING: Marked = { pointed: ref(null), was: ref(new Map()) };

/** What is marked at this table; nothing where no text stands beside it. */
export function useMarked() {
  const { pointed, was } = inject(MARKED, NOTHING);
  return { isPointed: (name: string): boolean => pointed.value === name, was: computed(() => was.value) };
}
