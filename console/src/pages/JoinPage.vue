<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import PageNotice from '../parts/PageNotice.vue';
import { client, role, seatHeld, tableHeld, useKey } from '../session';

/** Where an invitation leads: its key stands behind the #, which browsers send to nobody. */
const route = useRoute();
const router = useRouter();
const wrong = ref('');

onMounted(async () => {
  const key = route.hash.slice(1);
  const table = String(route.params.table);
  // The key does not stay in the address, where it could be copied by mistake.
  history.replaceState(history.state, '', route.path);
  try {
    if (key === '' || !(await useKey(key)) || tableHeld.value !== table) {
      wrong.value = 'Its key is unknown, or has ended. Ask whoever invited you for a new link.';
      return;
    }
    // Before its seats have given chance there is no table yet.
    const gathering = await client.value.gathering(table).catch(() => null);
    if (gathering && gathering.phase !== 'open') {
      await router.replace(`/gather/${table}`);
      return;
    }
    if (role.value === 'seat' && seatHeld.value !== null) {
      const { seats } = await client.value.table(table);
      if (seats[seatHeld.value - 1]?.held !== 'person') await client.value.takeSeat(table, seatHeld.value);
    }
    await router.replace(`/tables/${table}`);
  } catch {
    wrong.value = 'The service does not answer. Is it running?';
  }
});
</script>

<template>
  <PageNotice v-if="wrong" tone="fault" title="This invitation does not open" :text="wrong" />
  <PageNotice v-else tone="loading" title="Taking your seat" text="The lanterns are lit." />
</template>
