<script setup lang="ts">
import type { Cells } from '@wily-jester/charts';
import { computed, ref } from 'vue';

/** Lies over a picture of cells: the pointer and the arrow keys walk them, and the one they are on is read. */
const props = defineProps<{ cells: Cells; width: number; height: number }>();

interface Cell {
  readonly row: number;
  readonly column: number;
}
const at = ref<Cell | null>(null);
/** The one that the keys left, so that they go on from there. */
let last: Cell = { row: 0, column: 0 };

const size = computed(() => {
  const { left, right, top, bottom, rows, columns } = props.cells;
  return { across: (props.width - left - right) / columns, down: (props.height - top - bottom) / rows };
});
const box = computed(() => {
  if (!at.value) return null;
  const { across, down } = size.value;
  const x = props.cells.left + at.value.column * across;
  const y = props.cells.top + at.value.row * down;
  // Words stand on the side where there is room for them.
  const beside = {
    ...(x > props.width / 2 ? { right: `${props.width - x - across}px` } : { left: `${x}px` }),
    ...(y > props.height / 2 ? { bottom: `${props.height - y + 4}px` } : { top: `${y + down + 4}px` }),
  };
  return { frame: { left: `${x}px`, top: `${y}px`, width: `${across}px`, height: `${down}px` }, beside };
});
const words = computed(() => (at.value ? props.cells.read(at.value.row, at.value.column) : ''));

function point(event: PointerEvent): void {
  const { left, top } = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const column = Math.floor((event.clientX - left - props.cells.left) / size.value.across);
  const row = Math.floor((event.clientY - top - props.cells.top) / size.value.down);
  const isInside = row >= 0 && row < props.cells.rows && column >= 0 && column < props.cells.columns;
  at.value = isInside ? { row, column } : null;
}

const STEPS: Readonly<Record<string, (cell: Cell, cells: Cells) => Cell>> = {
  ArrowLeft: ({ row, column }) => ({ row, column: column - 1 }),
  ArrowRight: ({ row, column }) => ({ row, column: column + 1 }),
  ArrowUp: ({ row, column }) => ({ row: row - 1, column }),
  ArrowDown: ({ row, column }) => ({ row: row + 1, column }),
  Home: ({ row }) => ({ row, column: 0 }),
  End: ({ row }, { columns }) => ({ row, column: columns - 1 }),
};
const within = (n: number, count: number): number => Math.max(0, Math.min(count - 1, n));

function walk(event: KeyboardEvent): void {
  if (event.key === 'Escape') {
    leave();
    return;
  }
  const step = STEPS[event.key];
  if (!step || event.ctrlKey || event.metaKey || event.altKey) return;
  event.preventDefault();
  const { rows, columns } = props.cells;
  const next = step(at.value ?? last, props.cells);
  last = { row: within(next.row, rows), column: within(next.column, columns) };
  at.value = last;
}
function enter(): void {
  // Whoever presses a cell begins there.
  last = at.value ?? last;
  last = { row: within(last.row, props.cells.rows), column: within(last.column, props.cells.columns) };
  at.value = last;
}
function leave(): void {
  at.value = null;
}
</script>

<template>
  <div class="walk" tabindex="0" role="group" aria-label="Cells of the picture: the arrow keys walk them" @pointermove="point" @pointerleave="leave" @focus="enter" @blur="leave" @keydown="walk">
    <template v-if="box">
      <div class="cell" :style="box.frame" aria-hidden="true" />
      <p class="reading" :style="box.beside" aria-hidden="true">{{ words }}</p>
    </template>
    <p class="visually-hidden" aria-live="polite">{{ words }}</p>
  </div>
</template>

<style scoped>
.walk {
  position: absolute;
  inset: 0;
}
.cell {
  position: absolute;
  border: 2px solid var(--abyss);
  border-radius: 3px;
  pointer-events: none;
}
.reading {
  position: absolute;
  z-index: 1;
  max-width: 280px;
  padding: 4px 10px;
  border-radius: 6px;
  background: var(--abyss);
  color: #fff;
  font-size: 13px;
  line-height: 18px;
  pointer-events: none;
}
</style>
