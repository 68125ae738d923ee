import type { StepEvent } from '@wily-jester/protocol';
import { nextTick, type Ref } from 'vue';
import { travelFrom } from '../motion/motion';

/** So many unseen cards that move together are not shown on their way. */
const TOO_MANY = 8;

/** Lets cards travel from where they lay to where they lie now, in the order in which they moved. */
export function useTravel(stage: Readonly<Ref<HTMLElement | null>>): (events: readonly StepEvent[]) => void {
  const placeOf = (path: string): Element | null => stage.value?.querySelector(`[data-pile="${path}"]`) ?? null;
  return (events) => {
    const from = new Map<string, DOMRect>();
    const counts = new Map<string, number>();
    for (const event of events) {
      if (event.kind !== 'moved' || event.from === undefined || event.to === undefined) continue;
      const rect = placeOf(event.from)?.getBoundingClientRect();
      if (rect && !from.has(event.from)) from.set(event.from, rect);
      counts.set(event.to, (counts.get(event.to) ?? 0) + (event.count ?? 1));
    }
    void nextTick().then(() => {
      const done = new Map<string, number>();
      let order = 0;
      for (const event of events) {
        if (event.kind !== 'moved' || event.from === undefined || event.to === undefined) continue;
        const cards = placeOf(event.to)?.querySelectorAll('[data-at]');
        const rect = from.get(event.from);
        if (!cards || !rect || (event.count ?? 1) > TOO_MANY) continue;
        const nth = done.get(event.to) ?? 0;
        done.set(event.to, nth + 1);
        const element = cards[Math.max(0, cards.length - (counts.get(event.to) ?? 0) + nth)];
        if (element) travelFrom(element, rect, order++);
      }
    });
  };
}
