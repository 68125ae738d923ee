import type { Plan, TableView } from '@wily-jester/protocol';
import { computed, onUnmounted, type Ref, ref, watch } from 'vue';
import type { seatedAround } from './around';
import { type middleOf, seatPilesOf, type spottedOf } from './piles';
import { useFit } from './useFit';

/** Drawn smaller than this, seats are drawn tightly. */
const SMALL = 0.78;
/** Where a table is less wide than this, in pixels, it is drawn as on a phone. */
const NARROW = 560;

/** What stands on the table. */
interface Standing {
  /** One of several on a page. */
  isCompact(): boolean;
  readonly ownSeat: Ref<number>;
  readonly others: Ref<readonly number[]>;
  readonly around: Ref<ReturnType<typeof seatedAround>>;
  readonly plan: Ref<Plan | null>;
  readonly view: Ref<TableView | null>;
  readonly spotted: Ref<ReturnType<typeof spottedOf> | null>;
  readonly middle: Ref<ReturnType<typeof middleOf>>;
}

/** How large cards, seats and hands are drawn, so that all that stands on a table fits the stage that it is drawn on. Lengths in pixels. */
export function useSizes(
  stage: Ref<HTMLElement | null>,
  { isCompact, ownSeat, others, around, plan, view, spotted, middle }: Standing,
) {
  const size = ref({ width: isCompact() ? 400 : 900, height: 520 });
  const isNarrow = computed(() => size.value.width < NARROW);
  let observer: ResizeObserver | undefined;
  watch(stage, (element) => {
    observer?.disconnect();
    if (!element) return;
    observer = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0)
        size.value = { width: entry.contentRect.width, height: entry.contentRect.height };
    });
    observer.observe(element);
  });
  onUnmounted(() => observer?.disconnect());

  const crowd = computed(() => Math.max(around.value.left.length, 1));
  /** At most one sits left and one right: then one's own hand has the whole width below them. */
  const isFew = computed(() => around.value.left.length <= 1);
  const hasTop = computed(() => around.value.top.length > 0);
  /** The most piles that stand side by side in the middle. */
  const widest = computed(() =>
    Math.max(
      1,
      (spotted.value?.width ?? 0) / 2.44,
      ...middle.value.map((row) => row.reduce((sum, cell) => sum + (cell === null ? 0.3 : cell.length), 0)),
    ),
  );
  /** Seats are drawn with figures instead of counters, and beside their cards. */
  const isTight = computed(() => isCompact() || (isNarrow.value && others.value.length > 1) || isSmall.value);
  /** So much has to be drawn smaller that names and figures must be as well. */
  const isSmall = computed(() => !isNarrow.value && others.value.length > 0 && fit.value < SMALL);
  const isAlone = computed(() => others.value.length === 0);
  /** The most piles with cards that another seat has one below the other. */
  const seatRows = computed(() =>
    Math.max(
      1,
      ...others.value.map((seat) =>
        view.value && plan.value
          ? seatPilesOf(view.value, plan.value, seat).filter((pile) => pile.state.size > 0).length
          : 1,
      ),
    ),
  );
  /** How wide cards may be for the seats of one side to stand above each other. */
  const sideRoom = computed(() => (size.value.height - 40 - crowd.value * 118) / (crowd.value * seatRows.value * 1.42));
  /** On a phone, so many piles side by side have no room for their names. */
  const isCrowded = computed(() => isNarrow.value && spotted.value === null && widest.value > 5);
  /** How wide cards are drawn where there is room for them. */
  const wished = computed(() => {
    const { width, height } = size.value;
    const across = isCrowded.value
      ? (width * 0.96) / (widest.value * 1.16)
      : (width *
          (isAlone.value ? 0.9 : isNarrow.value ? 0.94 : hasTop.value && around.value.left.length === 0 ? 0.7 : 0.44)) /
        (widest.value * 1.22);
    if (isTight.value && !isSmall.value)
      return Math.max(20, Math.min(isCompact() ? 40 : 44, across, height / (crowd.value > 3 ? 11 : 10.5)));
    if (isNarrow.value)
      return Math.max(30, Math.min(others.value.length > 2 ? 36 : 46, across, height / (isCrowded.value ? 8.6 : 11.5)));
    if (spotted.value) return Math.max(34, Math.min(92, across, (height * 0.72) / ((spotted.value.height / 4) * 1.4)));
    const room = isAlone.value
      ? height / 7
      : Math.min(
          width / 12.5,
          height / (4.2 + crowd.value * 1.2 + (hasTop.value ? 0.9 : 0)),
          around.value.left.length > 0 ? sideRoom.value : 999,
        );
    return Math.max(40, Math.min(76, room, Math.max(across, isAlone.value ? 44 : 56)));
  });
  const { fit, isMeasuring } = useFit(
    stage,
    () =>
      `${Math.round(size.value.width)} ${Math.round(size.value.height)} ${others.value.length} ${plan.value?.name} ${ownSeat.value}`,
    () => view.value,
  );
  const cardWidth = computed(() => Math.round(wished.value * fit.value));
  const ownWidth = computed(() => {
    if (isTight.value && !isSmall.value) return Math.round(Math.min(cardWidth.value * 1.6, size.value.height * 0.165));
    return Math.round(cardWidth.value * (isNarrow.value ? (others.value.length > 2 ? 1.9 : 1.7) : 1.4));
  });
  const ownRoom = computed(() => {
    // The name stands beside a short hand, and above a long one.
    if (isNarrow.value) return size.value.width * 0.88 * Math.max(0.7, fit.value);
    return Math.min(size.value.width * (isFew.value ? 0.72 : 0.44), 640) * Math.max(0.6, fit.value);
  });

  /** On a phone there is more room below than beside: rows of places stand further apart, so that more of each card is seen. */
  const stretch = computed(() => {
    if (!spotted.value || !isNarrow.value) return 1;
    const quarter = (cardWidth.value * 1.4) / 4;
    const room = size.value.height * 0.72 - 4 * quarter;
    return Math.min(1.8, Math.max(1, room / (Math.max(1, spotted.value.height - 4) * quarter)));
  });
  const spotsHeight = computed(
    () => (((spotted.value?.height ?? 4) - 4) * stretch.value + 4) * ((cardWidth.value * 1.4) / 4),
  );
  return {
    size,
    isNarrow,
    isTight,
    isAlone,
    isFew,
    isCrowded,
    isMeasuring,
    fit,
    cardWidth,
    ownWidth,
    ownRoom,
    stretch,
    spotsHeight,
  };
}
