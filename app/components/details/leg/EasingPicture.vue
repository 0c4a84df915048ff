<script setup lang="ts">
import { computed } from 'vue'
import type { EasingFunction } from '#core/pace/easing'

/** An easing as a small curve: time to the right, the way upwards. */
const props = defineProps<{ ease: EasingFunction }>()
const STEPS = 24
const path = computed(
  () =>
    'M' +
    Array.from(
      { length: STEPS + 1 },
      (_, i) => `${(4 + (38 * i) / STEPS).toFixed(1)} ${(42 - 38 * props.ease(i / STEPS)).toFixed(1)}`,
    ).join('L'),
)
</script>

<template>
  <svg viewBox="0 0 46 46" aria-hidden="true"><path :d="path" /></svg>
</template>

<style scoped>
path {
  fill: none;
  stroke: currentcolor;
  stroke-width: 2.5;
  stroke-linejoin: round;
}
</style>
