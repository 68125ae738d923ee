import { onUnmounted, ref } from 'vue';

const KEPT = 'wily-jester seam';
const [LEAST, USUAL, MOST, STEP] = [36, 50.6, 64, 2];
const within = (share: number): number => Math.min(MOST, Math.max(LEAST, share));

/** How much of the page the text has, in hundredths: dragged, moved by arrow keys, put back by a double press. */
export function useSeam() {
  const share = ref(within(Number(localStorage.getItem(KEPT) ?? USUAL) || USUAL));
  const set = (to: number): void => {
    share.value = within(to);
    localStorage.setItem(KEPT, String(share.value));
  };
  const drag = (event: PointerEvent): void => set((100 * event.clientX) / document.documentElement.clientWidth);
  const drop = (): void => {
    removeEventListener('pointermove', drag);
    removeEventListener('pointerup', drop);
  };
  function grab(event: PointerEvent): void {
    event.preventDefault();
    addEventListener('pointermove', drag);
    addEventListener('pointerup', drop);
  }
  function typed(event: KeyboardEvent): void {
    if (event.key === 'ArrowLeft') set(share.value - STEP);
    else if (event.key === 'ArrowRight') set(share.value + STEP);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  onUnmounted(drop);
  return { share, grab, typed, reset: (): void => set(USUAL) };
}
