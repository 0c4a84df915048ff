<script setup lang="ts">
import type { CardFrame } from '#core/journey/schema'

/** A postcard in each frame, as a small picture. */
defineProps<{ frame: CardFrame }>()
const TORN =
  'M6 7L10 6L14 7.4L19 6.2L24 7.2L29 6L34 7.3L40 6.4L41 12L39.6 18L41 25L40 32L41 39L36 38L31 39.6L26 38.2L20 39.4L14 38L9 39.4L6 38L7 31L5.6 25L7 18L5.8 12Z'
</script>

<template>
  <svg viewBox="0 0 46 46" aria-hidden="true">
    <template v-if="frame === 'print'">
      <rect x="6" y="6" width="34" height="34" rx="1" class="paper" />
      <rect x="9" y="9" width="28" height="21" class="photo" />
      <path d="M14 35H32" class="word" />
    </template>
    <template v-else-if="frame === 'plate'">
      <rect x="6" y="6" width="34" height="34" rx="4" class="paper" />
      <rect x="8" y="8" width="30" height="20" rx="2" class="photo" />
      <path d="M8 28H38V36A2 2 0 0 1 36 38H10A2 2 0 0 1 8 36Z" class="dark" />
      <path d="M14 33H32" class="light" />
    </template>
    <template v-else-if="frame === 'torn'">
      <path :d="TORN" class="paper" />
      <rect x="11" y="11" width="24" height="18" class="photo" />
      <path d="M15 34H31" class="word" />
    </template>
    <template v-else-if="frame === 'round'">
      <circle cx="23" cy="20" r="16" class="paper" />
      <circle cx="23" cy="20" r="13.6" class="photo" />
      <rect x="9" y="31" width="28" height="9" rx="4.5" class="paper" />
      <path d="M15 35.5H31" class="word" />
    </template>
    <template v-else-if="frame === 'plain'">
      <rect x="6" y="7" width="34" height="32" rx="2" class="paper" />
      <path d="M6 9A2 2 0 0 1 8 7H38A2 2 0 0 1 40 9V31H6Z" class="photo" />
      <path d="M13 35.5H33" class="word" />
    </template>
    <template v-else>
      <rect x="3" y="9" width="40" height="28" rx="1" class="dark" />
      <rect x="3" y="13" width="40" height="16" class="photo" />
      <path d="M12 33H34" class="light" />
    </template>
  </svg>
</template>

<style scoped>
.paper {
  fill: #fbf6ea;
  stroke: rgba(20, 35, 58, 0.35);
}
.photo {
  fill: #8fb0a9;
}
.dark {
  fill: #14233a;
}
.word,
.light {
  stroke: #14233a;
  stroke-width: 2.2;
  stroke-linecap: round;
}
.light {
  stroke: #fbf6ea;
}
</style>
