import type { OfferedOption, TableView } from '@wily-jester/protocol';
import { reactive } from 'vue';
import type { ChosenArgs } from './shown';
import { valueWords } from './words';

/** Types whose values are plain words on buttons. */
const PLAIN = ['seat', 'rank', 'suit', 'int', 'flag', 'team'];

/** Choosing several plain values, such as a seat and a rank, one after the other. @param ranks as the game orders them */
export function useSteps(view: () => TableView, ranks: () => readonly string[]) {
  /** What was chosen so far, by option. */
  const begun = reactive<Record<string, unknown[]>>({});

  const isByStep = (offer: OfferedOption): boolean =>
    offer.params.length > 1 &&
    offer.ways !== null &&
    offer.params.every(({ type, kind }) => kind !== 'range' && (PLAIN.includes(type) || type.startsWith('kind:')));
  const begunOf = (offer: OfferedOption): readonly unknown[] => begun[offer.option] ?? [];

  const wordsOf = (type: string, value: unknown): string => valueWords(view(), type, value);
  /** The values that may come next, after those that were chosen. */
  const nextValues = (offer: OfferedOption): { value: unknown; text: string }[] => {
    const chosen = begunOf(offer);
    const fitting = (offer.ways ?? []).filter((way) => chosen.every((value, i) => way[i] === value));
    const values = [...new Set(fitting.map((way) => way[chosen.length]))];
    const type = offer.params[chosen.length]?.type ?? '';
    if (type === 'rank') values.sort((a, b) => ranks().indexOf(String(a)) - ranks().indexOf(String(b)));
    return values.map((value) => ({ value, text: wordsOf(type, value) }));
  };
  /** The option's words as far as they are chosen, with a mark for what comes next. */
  const stepWords = (offer: OfferedOption): string => {
    const chosen = begunOf(offer);
    let isOpen = true;
    const words = offer.label.split(/(\{\w+\})/).flatMap((part) => {
      if (!isOpen) return [];
      const name = /^\{(\w+)\}$/.exec(part)?.[1];
      if (name === undefined) return [part];
      const i = offer.params.findIndex((param) => param.name === name);
      if (i < chosen.length) return [wordsOf(offer.params[i]?.type ?? '', chosen[i])];
      isOpen = false;
      return ['…'];
    });
    const text = words.join('');
    return text.charAt(0).toUpperCase() + text.slice(1);
  };

  /** Takes one more value. Gives all of them once none is left to choose. */
  function takeStep(offer: OfferedOption, value: unknown): ChosenArgs | null {
    const chosen = [...begunOf(offer), value];
    if (chosen.length < offer.params.length) {
      begun[offer.option] = chosen;
      return null;
    }
    delete begun[offer.option];
    return Object.fromEntries(offer.params.map((param, i) => [param.name, chosen[i] as string]));
  }
  const beginAgain = (offer: OfferedOption): void => {
    delete begun[offer.option];
  };
  const forgetAll = (): void => {
    for (const option of Object.keys(begun)) delete begun[option];
  };
  return { isByStep, begunOf, nextValues, stepWords, takeStep, beginAgain, forgetAll };
}
