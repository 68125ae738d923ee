/** How cards move: 240 ms on their way, 60 ms apart; not at all where less motion is wanted. */
const TRAVEL = 240;
const APART = 60;
const MOST_APART = 900;
const EASE = 'cubic-bezier(.2,.7,.2,1)';

const wantsLess = (): boolean => matchMedia('(prefers-reduced-motion: reduce)').matches;

/** Lets an element come from where something else stands (or stood). @param order its place in a row of moves */
export function travelFrom(element: Element, from: DOMRect, order = 0): void {
  if (wantsLess()) return;
  const to = element.getBoundingClientRect();
  const dx = from.x + from.width / 2 - (to.x + to.width / 2);
  const dy = from.y + from.height / 2 - (to.y + to.height / 2);
  if (Math.abs(dx) + Math.abs(dy) < 2) return;
  element.animate([{ transform: `translate(${dx}px, ${dy}px)` }, { transform: 'none' }], {
    duration: TRAVEL,
    delay: Math.min(order * APART, MOST_APART),
    easing: EASE,
    fill: 'backwards',
  });
}

/** Turns a card over where it lies. */
export function turnOver(element: Element): void {
  if (wantsLess()) return;
  element.animate([{ transform: 'scaleX(0)' }, { transform: 'none' }], { duration: 200, easing: EASE });
}

/** Moves elements from where they stood to where they stand now, after `change` has moved them. */
export async function glide(elements: () => Iterable<[string, Element]>, change: () => Promise<void>): Promise<void> {
  const before = new Map([...elements()].map(([key, element]) => [key, element.getBoundingClientRect()]));
  await change();
  let order = 0;
  for (const [key, element] of elements()) {
    const from = before.get(key);
    if (from) travelFrom(element, from, (order++ % 13) * 0.35);
  }
}
