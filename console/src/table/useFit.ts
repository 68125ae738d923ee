import { nextTick, onUnmounted, type Ref, ref, watch } from 'vue';

/** By so much everything is drawn smaller at a time, and never smaller than the least. */
const STEP = 0.94;
const LEAST = 0.42;
/** Edges may touch by so much, in pixels. */
const TOUCH = 1.5;

interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** Whether two zones of a table overlap, or one reaches out of it. */
function clashes(stage: HTMLElement): boolean {
  const whole = stage.getBoundingClientRect();
  const zones = [...stage.querySelectorAll<HTMLElement>('[data-zone]')]
    .map((zone) => zone.getBoundingClientRect())
    .filter(({ width, height }) => width > 0 && height > 0);
  const isOut = (box: Box): boolean =>
    box.left < whole.left - TOUCH ||
    box.right > whole.right + TOUCH ||
    box.top < whole.top - TOUCH ||
    box.bottom > whole.bottom + TOUCH;
  const isOver = (a: Box, b: Box): boolean =>
    a.left < b.right - TOUCH && b.left < a.right - TOUCH && a.top < b.bottom - TOUCH && b.top < a.bottom - TOUCH;
  return zones.some((zone, i) => isOut(zone) || zones.slice(i + 1).some((other) => isOver(zone, other)));
}

/**
 * Draws everything at a table so small that nothing lies on something else: no figures foresee what hands, notes and
 * names come to, so it is measured. It grows again only where room or seats change: within a game nothing jumps to and fro.
 * @param room what is drawn anew where it changes
 * @param drawn what may need more room each time that it changes
 * @returns how much smaller everything is drawn, and whether that is being found
 */
export function useFit(
  stage: Readonly<Ref<HTMLElement | null>>,
  room: () => string,
  drawn: () => unknown,
): { readonly fit: Readonly<Ref<number>>; readonly isMeasuring: Readonly<Ref<boolean>> } {
  const fit = ref(1);
  const isMeasuring = ref(false);
  let turn = 0;
  /** Zones grow by themselves as well: a font comes, a page turns narrow. */
  const observer = new ResizeObserver(() => void measure());
  async function measure(): Promise<void> {
    const mine = ++turn;
    await nextTick();
    const isCrowded = (): boolean => mine === turn && stage.value !== null && fit.value > LEAST && clashes(stage.value);
    if (isCrowded()) {
      // Nothing may be on its way while it is measured.
      isMeasuring.value = true;
      await nextTick();
      while (isCrowded()) {
        fit.value *= STEP;
        await nextTick();
      }
    }
    if (mine !== turn) return;
    isMeasuring.value = false;
    // Those that are watched already stay so; the first look at a new one only measures once more.
    for (const zone of stage.value?.querySelectorAll('[data-zone]') ?? []) observer.observe(zone);
  }
  onUnmounted(() => observer.disconnect());
  watch(room, () => {
    fit.value = 1;
    void measure();
  });
  watch([drawn, stage], () => void measure(), { immediate: true });
  return { fit, isMeasuring };
}
