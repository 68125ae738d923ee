<script setup lang="ts">
import { RouterLink } from 'vue-router';
import PageNotice from '../parts/PageNotice.vue';
</script>

<template>
  <main>
    <PageNotice whole title="Nothing lies here" text="This address leads nowhere. The games are one step away.">
      <RouterLink class="notice-button" to="/games">See the games</RouterLink>
    </PageNotice>
  </main>
</template>
