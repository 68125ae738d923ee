import type { StepEvent } from '@wily-jester/protocol';
import { nextTick, type Ref } from 'vue';
import { travelFrom } from '../motion/motion';

/** So many unseen cards that move together are not shown on their way. */
const TOO_MANY = 8;

/** Lets cards travel from where they lay to where they lie now, in the order in which they moved. */
export function useTravel(stage: Readonly<Ref<HTMLElement | null>>): (events: readonly StepEvent[]) => void {
  const placeOf = (path: string): Element | null => stage.value?.querySelector(`[data-pile="${path}"]`) ?? null;
  return (events) => {
    /** Where each move begins: at the card's own place where it is known and nothing before it left that pile. */
    const begins = new Map<StepEvent, DOMRect>();
    const left = new Set<string>();
    const counts = new Map<string, number>();
    for (const event of events) {
      if (event.kind !== 'moved' || event.from === undefined || event.to === undefined) continue;
      const pile = placeOf(event.from);
      const card = left.has(event.from) ? null : pile?.querySelector(`[data-at="${event.fromPlace}"]`);
      const rect = (card ?? pile)?.getBoundingClientRect();
      if (rect) begins.set(event, rect);
      left.add(event.from);
      counts.set(event.to, (counts.get(event.to) ?? 0) + (event.count ?? 1));
    }
    void nextTick().then(() => {
      const done = new Map<string, number>();
      let order = 0;
      for (const event of events) {
        if (event.kind !== 'moved' || event.from === undefined || event.to === undefined) continue;
        const cards = placeOf(event.to)?.querySelectorAll('[data-at]');
        const rect = begins.get(event);
        if (!cards || !rect || (event.count ?? 1) > TOO_MANY) continue;
        const nth = done.get(event.to) ?? 0;
        done.set(event.to, nth + 1);
        // One card alone lies where the event says; of several the last ones came.
        const own =
          counts.get(event.to) === 1 ? placeOf(event.to)?.querySelector(`[data-at="${event.toPlace}"]`) : null;
        const element = own ?? cards[Math.max(0, cards.length - (counts.get(event.to) ?? 0) + nth)];
        if (element) travelFrom(element, rect, order++);
      }
    });
  };
}
