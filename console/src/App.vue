<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import { RouterLink, RouterView, useRoute } from 'vue-router';
import KeyGate from './parts/KeyGate.vue';
import PageNotice from './parts/PageNotice.vue';
import { greet, role, tableHeld } from './session';

const route = useRoute();
const unreachable = ref(false);

async function start(): Promise<void> {
  unreachable.value = false;
  try {
    await greet();
  } catch {
    unreachable.value = true;
  }
}
onMounted(start);
/** Whoever has a key of one table sees that one alone. */
const pages = computed(() => [
  { to: '/cards', name: 'Cards' },
  { to: '/hands', name: 'Hands' },
  { to: '/games', name: 'Games' },
  ...(tableHeld.value === null ? [{ to: '/workshop', name: 'Workshop' }] : []),
  tableHeld.value === null ? { to: '/tables', name: 'Tables' } : { to: `/tables/${tableHeld.value}`, name: 'Your table' },
  ...(tableHeld.value === null ? [{ to: '/trials', name: 'Trials' }] : []),
  { to: '/shuffle', name: 'Shuffle' },
]);
</script>

<template>
  <header class="bar" :class="{ compact: route.name === 'table' }">
    <RouterLink to="/games" class="brand" aria-label="Wily Jester">
      <svg viewBox="-36 -51 72 102" width="20" height="28" aria-hidden="true">
        <path d="M0 -50L35 0L0 50Z" fill="#e3a03a" />
        <path d="M0 -50L-35 0L0 50Z" fill="#8a4f80" />
        <path d="M-13 -13L-7.5 -3L-13 7L-18.5 -3Z" fill="#fbf6ea" />
        <path d="M6 -3q7 7.5 14 0" stroke="#1c2233" stroke-width="4" fill="none" stroke-linecap="round" />
        <path d="M-7 21Q2 28 10 17" stroke="#fbf6ea" stroke-width="3.6" fill="none" stroke-linecap="round" />
      </svg>
      <span>Wily Jester</span>
    </RouterLink>
    <nav aria-label="Pages">
      <RouterLink v-for="page in pages" :key="page.to" :to="page.to" :class="{ on: route.path.startsWith(page.to) }">{{ page.name }}</RouterLink>
    </nav>
  </header>
  <PageNotice v-if="unreachable" tone="fault" title="The service does not answer" text="Start it with npm start, then try again. Nothing is lost.">
    <button type="button" class="notice-button" @click="start">Try again</button>
  </PageNotice>
  <KeyGate v-else-if="role === 'nobody' && route.name !== 'join' && route.name !== 'look'" />
  <RouterView v-else-if="role !== null" :key="`${String(route.name)} ${String(route.params.table ?? route.params.draft ?? '')}`" />
</template>

<style scoped>
.bar {
  height: var(--bar);
  flex: none;
  background: var(--abyss);
  color: var(--mist);
  display: flex;
  align-items: center;
  padding: 0 20px;
  gap: 28px;
}
.brand {
  display: flex;
  align-items: center;
  gap: 9px;
  color: var(--paper);
  text-decoration: none;
  font: 560 20px/1 var(--serif);
  font-variation-settings: "SOFT" 60, "WONK" 1;
  letter-spacing: -0.015em;
  white-space: nowrap;
}
nav {
  display: flex;
  gap: 4px;
}
nav a {
  padding: 7px 12px;
  border-radius: 6px;
  color: var(--mist-2);
  font-weight: 500;
  text-decoration: none;
}
nav a:hover {
  color: var(--paper);
}
nav a.on {
  color: var(--paper);
  background: rgb(223 230 234 / 0.1);
}
@media (max-width: 700px) {
  .bar {
    padding: 0 12px;
    gap: 12px;
  }
  .brand span {
    display: none;
  }
  nav {
    min-width: 0;
    overflow-x: auto;
    scrollbar-width: none;
  }
  nav a {
    padding: 7px 9px;
  }
}
</style>
