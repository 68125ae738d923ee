import { signed } from '@wily-jester/charts';
import type { Hint } from '@wily-jester/protocol';
import { type InjectionKey, inject, type Ref, ref } from 'vue';

type Hinted = Hint['choices'][number];

/** What a hint says of a card, or of a button. */
export interface HintMark {
  /** What the choice is worth; nothing where it was not weighed. */
  readonly words: string;
  readonly isBest: boolean;
}

/** The hint for the question at hand, for all that is drawn at a table. */
export const HINTED: InjectionKey<Readonly<Ref<Hint | null>>> = Symbol('hinted');

const NONE = ref<Hint | null>(null);
export const useHinted = (): Readonly<Ref<Hint | null>> => inject(HINTED, NONE);

const markOf = (hint: Hint, choice: Hinted): HintMark => ({
  words: choice.mean === null ? '' : signed(choice.mean, 1),
  isBest: choice === hint.choices[0],
});

/** The mark of an option: of its best choice, or of the one with these values where they are given. */
export function markOfOption(hint: Hint | null, option: string, args?: Hinted['args']): HintMark | null {
  const wanted = args && JSON.stringify(args);
  const choice = hint?.choices.find(
    (one) => one.option === option && (wanted === undefined || JSON.stringify(one.args) === wanted),
  );
  return hint && choice ? markOf(hint, choice) : null;
}

/** The mark of a card, by its handle: of the best choice that takes it; of several at once only the best ones are marked. */
export function markOfCard(hint: Hint | null, handle: string): HintMark | null {
  if (!hint) return null;
  const first = ({ args }: Hinted) => Object.values(args)[0];
  const choice = hint.choices.find((one) => first(one) === handle);
  if (choice) return markOf(hint, choice);
  const [best] = hint.choices;
  const cards = best && first(best);
  return Array.isArray(cards) && cards.includes(handle) ? { words: '', isBest: true } : null;
}

/** So many choices of a hint, the best first: that of each option before further ones of the same. */
export function rowsOf({ choices }: Hint, most: number): Hinted[] {
  const options = choices.filter((one, i) => choices.findIndex(({ option }) => option === one.option) === i);
  const chosen = new Set([...new Set([...options, ...choices])].slice(0, most));
  return choices.filter((one) => chosen.has(one));
}
