<script setup lang="ts">
import jsonPatch from 'fast-json-patch';
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import LozengeSlider from '../parts/LozengeSlider.vue';
import SeatMark from '../parts/SeatMark.vue';
import { client } from '../session';
import TablePlay from '../table/TablePlay.vue';
import { useTable } from '../table/useTable';
import { newWord } from '../table/words';
import { RoughLine } from './roughLine';
import WireStrip from './WireStrip.vue';

/** One seat of a table with a connection of its own, which may be made as bad as one wishes. */
const props = defineProps<{ table: string; eyes: number | 'open'; latest: number; calm: number }>();
const emit = defineEmits<{ number: [number: number]; away: [] }>();

const line = RoughLine.make();
const differs = ref('');
const checked = ref(-1);
const outOfTurn = ref('');
let checking: ReturnType<typeof setTimeout> | undefined;
const live = useTable(props.table, { connect: (address) => line.connect(address), arrived: () => check() });
const { plan, table, view, connection } = live;
onMounted(() => void live.open(() => props.eyes));
onUnmounted(() => clearTimeout(checking));

/** Compares what this pane shows with what the service says its view is, at the same number. */
function check(): void {
  clearTimeout(checking);
  checking = setTimeout(async () => {
    const said = await client.value.view(props.table, props.eyes).catch(() => null);
    const here = view.value;
    if (!said || !here) return;
    if (said.number !== here.number) {
      if (said.number > here.number) emit('number', said.number);
      check();
      return;
    }
    const changes = jsonPatch.compare(here, said);
    differs.value = changes.length > 0 ? `${changes.length} differences, the first at ${changes[0]?.path}` : '';
    checked.value = said.number;
  }, 250);
}
watch(
  () => view.value?.number,
  (number) => {
    if (number !== undefined) emit('number', number);
  },
);
watch(
  () => props.calm,
  () => line.clear(),
);

const name = computed(() => (props.eyes === 'open' ? 'Open table' : (table.value?.seats[props.eyes - 1]?.name ?? '')));
const behind = computed(() => Math.max(0, props.latest - (view.value?.number ?? 0)));
const standing = computed(() => {
  if (line.isBroken) return 'cut off';
  if (connection.value === 'lost') return 'coming back';
  return behind.value > 0 ? `${behind.value} behind` : 'up to date';
});
const isAsked = computed(() => typeof props.eyes === 'number' && view.value?.waiting.seats?.includes(props.eyes) === true);
const firstOption = computed(() => plan.value?.options[0]?.name);

/** Sends a choice though it is another's turn: the service must say no. */
async function actOutOfTurn(): Promise<void> {
  const option = firstOption.value;
  if (option === undefined || typeof props.eyes !== 'number') return;
  try {
    await live.send({ ask: view.value?.waiting.ask ?? 0, option, args: {}, once: newWord(), seat: props.eyes });
    outOfTurn.value = 'It was carried out: that must never happen.';
  } catch (error) {
    outOfTurn.value = `Refused: ${error instanceof Error ? error.message : String(error)}`;
  }
}
const tally = computed(() => {
  const { came, lost, doubled } = line.tally;
  const parts = [`${came} came`];
  if (lost > 0) parts.push(`${lost} lost on the way`);
  if (doubled > 0) parts.push(`${doubled} sent twice`);
  return parts.length === 1 ? `${parts[0]}, nothing lost` : parts.join(', ');
});
/** How long the line can be cut, in seconds. */
const CUTS = [2, 5, 15, 60];
const seconds = ref(5);
</script>

<template>
  <article class="pane" :class="{ late: standing !== 'up to date' }" :data-pane="eyes">
    <header>
      <SeatMark v-if="typeof eyes === 'number'" :seat="eyes" :width="26" />
      <b class="serif">{{ name }}</b>
      <span class="standing">{{ standing }} · <span class="mono">{{ view?.number ?? '–' }}</span></span>
      <button type="button" class="quiet" :aria-label="`Close the pane of ${name}`" @click="emit('away')">×</button>
    </header>
    <div class="table"><TablePlay v-if="view && plan && table" :shown="live" :eyes="eyes === 'open' ? 'watch' : eyes" :open="eyes === 'open'" compact :still="eyes === 'open'" /></div>
    <div class="line">
      <WireStrip :moving="line.moving" :broken="line.isBroken" :lost="connection === 'lost'" :name="name" />
      <div class="knob"><label :id="`delay-${eyes}`">Delay</label><LozengeSlider slim tint="var(--mist-2)" v-model="line.delay" :min="0" :max="3000" :step="20" :aria-labelledby="`delay-${eyes}`" /><output>{{ line.delay }} ms</output></div>
      <div class="knob"><label :id="`jitter-${eyes}`">Jitter</label><LozengeSlider slim tint="var(--mist-2)" v-model="line.jitter" :min="0" :max="3000" :step="20" :aria-labelledby="`jitter-${eyes}`" /><output>{{ line.jitter }} ms</output></div>
      <div class="acts">
        <span class="cut"><button type="button" @click="line.breakFor(seconds)">Cut off for {{ seconds }} s</button><select v-model.number="seconds" :aria-label="`Seconds for which ${name} is cut off`"><option v-for="cut in CUTS" :key="cut" :value="cut">{{ cut }} s</option></select></span>
        <template v-if="typeof eyes === 'number'">
          <button type="button" :aria-pressed="line.doubles" @click="line.doubles = !line.doubles">Next choice twice</button>
          <button type="button" :disabled="isAsked || !firstOption" @click="actOutOfTurn">Act out of turn</button>
        </template>
      </div>
      <p class="foot">
        <span v-if="differs" class="wrong" role="alert">Differs from the service: {{ differs }}</span>
        <span v-else-if="checked >= 0" class="right">as the service says, at {{ checked }}</span>
        <span>{{ tally }}</span>
      </p>
      <p v-if="outOfTurn" class="told" role="status">{{ outOfTurn }}</p>
    </div>
  </article>
</template>

<style scoped>
.pane {
  display: flex;
  flex-direction: column;
  min-width: 0;
  border-radius: 20px;
  overflow: hidden;
  background: #1d3347;
  color: var(--mist);
}
header {
  display: flex;
  align-items: center;
  gap: 9px;
  padding: 10px 12px 0 14px;
}
header b {
  font-size: 18px;
  color: var(--paper);
}
.standing {
  margin-left: auto;
  color: var(--soft-teal);
  font-weight: 600;
  font-size: 13px;
}
.late .standing {
  color: var(--soft-red);
}
header button {
  color: var(--mist-2);
  font-size: 20px;
  line-height: 20px;
  min-width: 24px;
}
.table {
  display: flex;
  flex-direction: column;
  height: 434px;
  padding: 0 10px 10px;
}
.line {
  flex: 1;
  display: grid;
  align-content: start;
  gap: 8px;
  padding: 10px 14px 12px;
  background: var(--abyss);
}
.knob {
  display: grid;
  grid-template-columns: 52px 1fr 66px;
  align-items: center;
  gap: 14px;
  font-size: 13px;
}
output {
  text-align: right;
  color: #fff;
  font-weight: 600;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.acts button {
  min-height: 34px;
  padding: 4px 10px;
  border: 1px solid rgb(223 230 234 / 0.3);
  border-radius: 10px;
  background: none;
  color: var(--mist);
  font-size: 13px;
  cursor: pointer;
}
.acts button[aria-pressed="true"] {
  background: var(--mist);
  color: var(--ink);
}
.acts button:disabled {
  opacity: 0.45;
  cursor: default;
}
.cut {
  display: flex;
}
.cut button {
  border-radius: 10px 0 0 10px;
}
.cut select {
  width: 22px;
  border: 1px solid rgb(223 230 234 / 0.3);
  border-left: 0;
  border-radius: 0 10px 10px 0;
  background: none;
  color: var(--mist);
  cursor: pointer;
}
.cut option {
  color: var(--ink);
}
.foot {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 2px 12px;
  font-size: 12px;
  line-height: 16px;
  color: var(--mist-3);
}
.right {
  color: var(--soft-teal);
}
.wrong,
.told {
  color: var(--soft-red);
  font-size: 13px;
}
@media (max-width: 900px) {
  .table {
    height: 520px;
  }
}
</style>
