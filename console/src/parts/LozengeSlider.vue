<script setup lang="ts">
import Slider from 'primevue/slider';

/** A slider whose handle is a lozenge. Its attributes are those of the slider. */
defineProps<{ slim?: boolean; tint?: string }>();
</script>

<template>
  <Slider class="lozenge" :class="{ slim }" :style="{ '--tint': tint ?? 'var(--marigold)' }" />
</template>

<style scoped>
.lozenge {
  --height: 21px;
  background: rgb(223 230 234 / 0.22);
  height: 5px;
}
.lozenge.slim {
  --height: 18px;
  height: 4px;
}
.lozenge :deep(.p-slider-range) {
  background: var(--tint);
}
.lozenge :deep(.p-slider-handle) {
  background: #fff;
  width: 15px;
  height: var(--height);
  margin-block-start: calc(var(--height) / -2);
  border-radius: 0;
  clip-path: polygon(50% 0, 100% 50%, 50% 100%, 0 50%);
}
.lozenge :deep(.p-slider-handle::before) {
  display: none;
}
</style>
