<script setup lang="ts">
import type { Point } from '#core/geometry/point'

/** The cross that the arrow keys move over the stage. */
defineProps<{ at: Point }>()
</script>

<template>
  <svg
    class="cursor"
    :style="{ left: `${at.x - 16}px`, top: `${at.y - 16}px` }"
    width="32"
    height="32"
    data-testid="keyboard-cursor"
    aria-hidden="true"
  >
    <path class="under" d="M16 2v10M16 20v10M2 16h10M20 16h10" />
    <path d="M16 2v10M16 20v10M2 16h10M20 16h10" />
  </svg>
</template>

<style scoped>
.cursor {
  position: absolute;
  pointer-events: none;
}
path {
  fill: none;
  stroke: #fdf8ec;
  stroke-width: 2;
}
.under {
  stroke: #14233a;
  stroke-width: 4.5;
}
</style>
