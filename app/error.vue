<script setup lang="ts">
import type { NuxtError } from '#app'

/** What is shown in place of a page that does not exist or has failed. */
defineProps<{ error: NuxtError }>()
</script>

<template>
  <v-app>
    <main class="failed">
      <h1 class="serif">{{ error.statusCode === 404 ? 'There is no such page' : 'Something went wrong' }}</h1>
      <p v-if="error.statusCode !== 404">{{ error.message }}</p>
      <v-btn color="accent" variant="flat" href="/">All journeys</v-btn>
    </main>
  </v-app>
</template>

<style scoped>
.failed {
  display: grid;
  gap: 16px;
  justify-items: start;
  max-width: 560px;
  margin: 15vh auto;
  padding: 0 24px;
}
</style>
