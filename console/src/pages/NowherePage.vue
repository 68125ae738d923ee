<script setup lang="ts">
import { RouterLink } from 'vue-router';
import Notice from '../parts/Notice.vue';
</script>

<template>
  <main>
    <Notice title="Nothing lies here" text="This address leads nowhere. The games are one step away.">
      <RouterLink class="notice-button" to="/games">See the games</RouterLink>
    </Notice>
  </main>
</template>
