<script setup lang="ts">
import { computed } from 'vue'
import type { CompiledVisit } from '#core/frame/compile'

/** A stop on the strip: a bead as long as its layover, with the name under it. */
const props = defineProps<{ visit: CompiledVisit; x: (time: number) => number; selected: boolean; anchor: 'start' | 'middle' | 'end' }>()
defineEmits<{ select: [] }>()

const ROUND = 11
const left = computed(() => props.x(props.visit.arrive))
const right = computed(() => props.x(props.visit.leave))
const nameAt = computed(() => ({ start: left.value - 7, middle: (left.value + right.value) / 2, end: right.value + 7 })[props.anchor])
</script>

<template>
  <g class="bead" :class="{ selected }">
    <rect
      :x="left - 7"
      y="65"
      :width="right - left + 14"
      :height="2 * ROUND"
      :rx="ROUND"
      :fill="visit.stop.pin.colour"
      role="button"
      tabindex="0"
      :aria-label="`Stop ${visit.stop.name}, layover ${(visit.leave - visit.arrive).toFixed(2)} seconds`"
      @pointerdown.stop="$emit('select')"
      @keydown.enter="$emit('select')"
    />
    <text class="serif" :x="nameAt" y="125" :text-anchor="anchor">{{ visit.stop.name }}</text>
  </g>
</template>

<style scoped>
rect {
  stroke: var(--surface);
  stroke-width: 2;
  cursor: pointer;
}
.selected rect {
  stroke: var(--vermilion);
  stroke-width: 3;
}
text {
  fill: var(--ink);
  font-size: 14px;
  font-weight: 700;
  pointer-events: none;
}
</style>
