<script setup lang="ts">
import type { OfferedOption } from '@wily-jester/protocol';
import { computed } from 'vue';
import LozengeSlider from '../parts/LozengeSlider.vue';
import { marksOf } from './marks';

/** An amount to choose: a slider, landmarks, a step less or more, and the button that says it. */
const props = defineProps<{
  param: OfferedOption['params'][number] | undefined;
  amount: number;
  refused: boolean;
  /** Without slider and landmarks, where there is little room. */
  slim: boolean;
}>();
const emit = defineEmits<{ change: [amount: number] }>();

const from = computed(() => props.param?.from ?? 0);
const to = computed(() => props.param?.to ?? 0);
const by = computed(() => props.param?.by ?? 1);
const marks = computed(() => marksOf(props.param));

/** The nearest amount that may be chosen; the top always may. */
function change(value: number): void {
  const snapped = value >= to.value ? to.value : from.value + Math.round((value - from.value) / by.value) * by.value;
  emit('change', Math.min(to.value, Math.max(from.value, snapped)));
}
</script>

<template>
  <div class="amount" :class="{ refused }">
    <div v-if="!slim" class="slide">
      <LozengeSlider :model-value="amount" :min="from" :max="to" :step="1" :aria-label="param?.name" @update:model-value="change(Number($event))" />
      <div class="marks">
        <button v-for="mark in marks" :key="mark.value" type="button" class="quiet" :class="{ on: mark.value === amount }" @click="change(mark.value)">{{ mark.text }}</button>
      </div>
    </div>
    <div class="steps">
      <button type="button" class="step" aria-label="less" @click="change(amount - by)">−</button>
      <b>{{ amount }}</b>
      <button type="button" class="step" aria-label="more" @click="change(amount + by)">+</button>
    </div>
    <slot />
  </div>
</template>

<style scoped>
.amount {
  position: relative;
  display: flex;
  align-items: stretch;
  border: 2px solid var(--marigold);
  border-radius: 10px;
  background: rgb(223 230 234 / 0.07);
}
.amount.refused {
  box-shadow: 0 0 0 3px var(--refused);
}
.slide {
  min-width: 190px;
  padding: 14px 4px 4px 16px;
}
.marks {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  font-size: 12px;
  line-height: 16px;
  color: var(--mist-2);
  margin-top: 7px;
}
.marks button {
  min-height: 24px;
  padding: 0;
  white-space: nowrap;
}
.marks .on {
  color: #fff;
  font-weight: 600;
}
.steps {
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 8px;
  padding: 0 12px;
}
.steps b {
  font-size: 17px;
  min-width: 34px;
  text-align: center;
  color: #fff;
}
.step {
  width: 30px;
  height: 34px;
  border: 0;
  border-radius: 8px;
  background: rgb(223 230 234 / 0.14);
  color: #fff;
  font-size: 17px;
  cursor: pointer;
}
/* On a phone the slider has a row of its own, below the plain choices. */
@media (max-width: 700px) {
  .amount {
    order: 1;
    flex: 1 1 100%;
    flex-wrap: wrap;
  }
  .slide {
    flex: 1 1 100%;
    padding: 14px 16px 2px;
  }
  .steps {
    flex: 1;
  }
  .step {
    width: 44px;
    height: 44px;
  }
}
</style>
