<script setup lang="ts">
import type { Plan, TableSummary } from '@wily-jester/protocol';
import Dialog from 'primevue/dialog';
import { computed, reactive, ref } from 'vue';
import { RouterLink } from 'vue-router';
import SeatMark from '../parts/SeatMark.vue';
import { client, role, seatHeld } from '../session';
import { type Eyes, eyesIn } from './eyes';
import { botsOf } from './setup';
import TableLooks from './TableLooks.vue';

/** Looking after a table: who sits where, invitations, the record, the end. */
const props = defineProps<{ table: TableSummary; plan: Plan; eyes: Eyes }>();
const shown = ref(false);
const wrong = ref('');
const busy = ref('');
/** Links that were made here, by seat; 0 for watching. They are shown this once. */
const links = reactive(new Map<number, string>());
const copied = ref(-1);
const isHost = computed(() => role.value === 'developer' || role.value === 'host');
const isDeveloper = computed(() => role.value === 'developer');
const isOpen = computed(() => props.table.status === 'open' || props.table.status === 'fault');
const mayManage = (seat: number): boolean => isOpen.value && (isHost.value || seatHeld.value === seat);
const bots = computed(() => botsOf(props.plan));
/** Hands a seat to the bot that was chosen; the list stands empty again. */
function handOver(seat: number, event: Event): void {
  const list = event.target as HTMLSelectElement;
  const { value } = list;
  list.value = '';
  if (value !== '') run('bot', () => client.value.botSeat(id, seat, value));
}

async function run(what: string, work: () => Promise<unknown>): Promise<void> {
  busy.value = what;
  wrong.value = '';
  try {
    await work();
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  } finally {
    busy.value = '';
  }
}
const { id } = props.table;
const invite = (seat: number): Promise<void> =>
  run(`invite ${seat}`, async () => {
    const { key } = await client.value.newKey(id, seat === 0 ? { role: 'watch' } : { role: 'seat', seat });
    links.set(seat, `${location.origin}/join/${id}#${key}`);
  });
const endWatching = (): Promise<void> =>
  run('end watching', async () => {
    await client.value.endWatchKeys(id);
    links.delete(0);
  });
async function copy(seat: number): Promise<void> {
  await navigator.clipboard?.writeText(links.get(seat) ?? '').catch(() => undefined);
  copied.value = seat;
}
const save = (): Promise<void> =>
  run('record', async () => {
    const file = new Blob([await client.value.record(id)], { type: 'application/x-ndjson' });
    const link = Object.assign(document.createElement('a'), { href: URL.createObjectURL(file), download: `${id}.ndjson` });
    link.click();
    URL.revokeObjectURL(link.href);
  });
const HELD = { person: 'a person', bot: 'the bot', free: 'nobody' } as const;
const holding = (seat: TableSummary['seats'][number]): string => {
  if (seat.held === 'bot') return bots.value.find((b) => b.bot === seat.bot && seat.bot !== b.name)?.name ?? `the bot “${seat.bot}”`;
  return `${HELD[seat.held]}${seat.held === 'person' ? (seat.present ? ', here' : seat.away ? ', away' : ', not here') : ''}`;
};
</script>

<template>
  <button type="button" class="open" @click="shown = true">Seats and more</button>
  <Dialog v-model:visible="shown" modal dismissable-mask :header="`Around ${table.game}`" class="host on-paper" :style="{ width: 'min(680px, calc(100vw - 24px))' }">
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <ul class="seats" aria-label="Seats">
      <li v-for="seat in table.seats" :key="seat.seat" :data-seat-row="seat.seat">
        <SeatMark :seat="seat.seat" :width="22" />
        <div class="who"><b>{{ seat.name }}</b><span>{{ holding(seat) }}</span></div>
        <div class="does">
          <button v-if="mayManage(seat.seat) && seat.held !== 'person'" type="button" :disabled="busy !== ''" @click="run('take', () => client.takeSeat(id, seat.seat))">{{ seatHeld === seat.seat ? 'Take it back' : 'Give it to a person' }}</button>
          <select v-if="mayManage(seat.seat)" class="bots" :disabled="busy !== ''" :aria-label="`Hand the seat of ${seat.name} to a bot`" @change="handOver(seat.seat, $event)">
            <option value="">Hand it to …</option>
            <option v-for="b in bots" :key="b.bot" :value="b.bot">{{ b.name }}</option>
          </select>
          <button v-if="seatHeld === seat.seat && seat.held === 'person' && isOpen" type="button" :disabled="busy !== ''" @click="run('leave', () => client.leaveSeat(id, seat.seat))">Leave it</button>
          <button v-if="isHost && isOpen" type="button" :disabled="busy !== ''" @click="invite(seat.seat)">{{ links.has(seat.seat) ? 'Make another link' : 'Invite' }}</button>
        </div>
        <p v-if="links.has(seat.seat)" class="link"><input readonly :value="links.get(seat.seat)" :aria-label="`Link for ${seat.name}`" @focus="($event.target as HTMLInputElement).select()" /><button type="button" @click="copy(seat.seat)">{{ copied === seat.seat ? 'Copied' : 'Copy' }}</button><small>Whoever opens it plays {{ seat.name }}. Older links for this seat have ended; this one is shown only here.</small></p>
      </li>
      <li v-if="isHost">
        <span class="eye" aria-hidden="true" />
        <div class="who"><b>Watchers</b><span>see what everybody sees</span></div>
        <div class="does">
          <button type="button" :disabled="busy !== ''" @click="endWatching">End all links to watch</button>
          <button type="button" :disabled="busy !== ''" @click="invite(0)">Make a link to watch</button>
        </div>
        <p v-if="links.has(0)" class="link"><input readonly :value="links.get(0)" aria-label="Link to watch" @focus="($event.target as HTMLInputElement).select()" /><button type="button" @click="copy(0)">{{ copied === 0 ? 'Copied' : 'Copy' }}</button></p>
      </li>
    </ul>
    <footer>
      <RouterLink v-if="isDeveloper" :to="`/tables/${id}/side`">Side by side</RouterLink>
      <RouterLink v-if="isDeveloper || !isOpen" :to="{ path: `/tables/${id}/past`, query: eyesIn(eyes) }">Look back</RouterLink>
      <button type="button" :disabled="busy !== ''" @click="save">Save the record</button>
      <button v-if="isHost && isOpen" type="button" class="end" :disabled="busy !== ''" @click="run('close', () => client.closeTable(id))">Close the table</button>
    </footer>
    <p v-if="table.parent" class="parent">This table went on from number {{ table.parent.number }} of <RouterLink :to="{ path: `/tables/${table.parent.table}/past`, query: { at: table.parent.number, ...eyesIn(eyes) } }">{{ table.parent.table }}</RouterLink>.</p>
    <TableLooks v-if="isDeveloper" :table="id" />
  </Dialog>
</template>

<style scoped>
.open {
  min-height: 34px;
  padding: 4px 14px;
  border: 1px solid rgb(223 230 234 / 0.35);
  border-radius: 10px;
  background: none;
  color: var(--mist);
  font-weight: 600;
  font-size: 13px;
  cursor: pointer;
  white-space: nowrap;
}
.bots {
  min-height: 34px;
  padding: 4px 8px;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 13px;
}
.seats {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 26px minmax(120px, 1fr) auto;
  align-items: center;
  gap: 6px 12px;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}
.who {
  display: grid;
}
.who b {
  font: 600 16px/19px var(--serif);
}
.who span,
small,
.parent {
  color: var(--ink-2);
  font-size: 13px;
  line-height: 18px;
}
.eye {
  width: 16px;
  height: 16px;
  margin: 0 3px;
  border: 2px solid var(--plum);
  transform: rotate(45deg);
}
.does {
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 6px;
}
li button,
footer button,
footer a {
  min-height: 36px;
  padding: 6px 12px;
  border: 1px solid var(--field);
  border-radius: 10px;
  background: none;
  color: var(--ink);
  font-weight: 600;
  font-size: 14px;
  line-height: 20px;
  text-decoration: none;
  cursor: pointer;
}
li button:hover,
footer button:hover,
footer a:hover {
  background: var(--paper-2);
}
.link {
  grid-column: 2 / 4;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 6px;
}
.link input {
  min-width: 0;
  padding: 6px 8px;
  border: 1px solid var(--field);
  border-radius: 10px;
  background: var(--code);
  color: var(--ink);
  font: 11px/20px var(--mono);
}
.link small {
  grid-column: 1 / 3;
}
footer {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding: 14px 0 4px;
}
footer .end {
  margin-left: auto;
  color: var(--red-text);
  border-color: currentcolor;
}
.wrong {
  color: var(--red-text);
}
@media (max-width: 560px) {
  .does {
    grid-column: 2 / 4;
    justify-content: flex-start;
  }
}
.host :deep(.p-dialog-title) {
  font: 560 22px/28px var(--serif);
}
</style>
