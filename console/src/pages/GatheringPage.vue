<script setup lang="ts">
import type { GatheringView } from '@wily-jester/protocol';
import Button from 'primevue/button';
import { computed, onMounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useGathering } from '../gathering/useGathering';
import PageNotice from '../parts/PageNotice.vue';
import SeatMark from '../parts/SeatMark.vue';
import { role, seatHeld } from '../session';

/** Seats give chance to a table before anything is dealt: who has promised, who has shown, and the links for those who are missing. */
const route = useRoute();
const router = useRouter();
const id = String(route.params.table);
const { view, problem, here, look, dealNow } = useGathering(id, () => void router.replace(`/tables/${id}`));

/** The keys come with the page that opened the table, and stay in its history alone. */
const keys = (history.state as { keys?: readonly { seat: number; key: string }[] } | null)?.keys ?? [];
const linkOf = (seat: number): string | null => {
  const key = keys.find((one) => one.seat === seat)?.key;
  return key === undefined ? null : `${location.origin}/join/${id}#${key}`;
};
const copied = ref(0);
async function copy(seat: number): Promise<void> {
  const link = linkOf(seat);
  if (link === null) return;
  await navigator.clipboard?.writeText(link).catch(() => undefined);
  copied.value = seat;
}

onMounted(() => {
  if (role.value === 'seat' && seatHeld.value !== null) here.add(seatHeld.value);
  void look();
});

const isDeveloper = computed(() => role.value === 'developer');
const people = computed(() => view.value?.seats.filter(({ state }) => state !== 'bot') ?? []);
const WORDS: Readonly<Record<GatheringView['seats'][number]['state'], string>> = {
  bot: 'a bot: gives no chance',
  waiting: 'has not come yet',
  promised: 'has promised',
  shown: 'has shown what was promised',
  absent: 'is left out',
};
const sentence = computed(() => {
  const now = view.value;
  if (!now) return '';
  const left = `${Math.ceil(now.left)} s`;
  if (now.phase === 'showing') return `All promises are frozen. Each seat shows what it promised; ${left} are left.`;
  return `Each seat promises a random number before anyone knows the others’. It goes on when all have, or in ${left}.`;
});
</script>

<template>
  <PageNotice v-if="!view && problem" tone="fault" title="Nobody gathers here" :text="problem"><RouterLink class="notice-button" :to="`/tables/${id}`">To the table</RouterLink></PageNotice>
  <PageNotice v-else-if="!view" tone="loading" title="Asking how it stands" text="Seat by seat." />
  <main v-else class="wrap">
    <section class="card on-paper">
      <h1>Everybody shuffles</h1>
      <p role="status">{{ sentence }}</p>
      <ul>
        <li v-for="seat in view.seats" :key="seat.seat" :data-seat="seat.seat" :class="seat.state">
          <SeatMark :seat="seat.seat" :width="22" />
          <span class="who"><b>{{ seat.name }}</b><span>{{ seat.state === 'shown' ? '✓ ' : '' }}{{ WORDS[seat.state] }}</span></span>
          <template v-if="seat.state === 'waiting'">
            <button
              v-if="linkOf(seat.seat)"
              type="button"
              class="quiet"
              :aria-label="`${copied === seat.seat ? 'Copied' : 'Copy the link'}: ${seat.name}`"
              @click="copy(seat.seat)"
            >
              {{ copied === seat.seat ? 'Copied' : 'Copy the link' }}
            </button>
            <button
              v-if="isDeveloper && !here.has(seat.seat)"
              type="button"
              class="quiet"
              :aria-label="`Take part here for ${seat.name}`"
              @click="here.add(seat.seat)"
            >
              Take part here
            </button>
          </template>
        </li>
      </ul>
      <p v-if="view.voids.length > 0" class="void">{{ view.voids.map((seat) => view?.seats[seat - 1]?.name).join(' and ') }} promised and showed nothing: all was drawn anew.</p>
      <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
      <p class="why">Neither the service nor a single seat can choose the cards: the shuffle hangs on what all of them gave. {{ people.length }} {{ people.length === 1 ? 'seat' : 'seats' }} may take part.</p>
      <Button v-if="isDeveloper && view.phase === 'promising'" label="Deal now" class="deal" @click="dealNow" />
    </section>
  </main>
</template>

<style scoped>
.wrap {
  display: grid;
  justify-items: center;
  padding: 32px 20px;
}
.card {
  display: flex;
  flex-direction: column;
  gap: 12px;
  width: min(560px, 100%);
  padding: 24px;
  border-radius: 16px;
  background: var(--paper);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 12px;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.who {
  flex: 1 1 200px;
  display: flex;
  flex-direction: column;
}
.who span {
  color: var(--ink-2);
}
.shown .who span,
.promised .who span {
  color: var(--teal-text);
}
.quiet {
  color: var(--teal-text);
  font-weight: 600;
  text-decoration: underline;
}
.why,
.void {
  font-size: 13px;
  line-height: 18px;
  color: var(--ink-2);
}
.wrong {
  color: var(--red-text);
}
.deal {
  align-self: start;
  min-height: 44px;
}
</style>
