<script setup lang="ts">
import { computed } from 'vue'
import type { CompiledVisit } from '#core/frame/compile'
import { nameOfStop } from '#core/journey/lookup'
import type { NameBox } from './strip-names'

/** A stop on the strip: a bead as long as its layover, with the name under it. */
const props = defineProps<{ visit: CompiledVisit; x: (time: number) => number; selected: boolean; nameBox: NameBox | undefined }>()
defineEmits<{ select: []; rename: [] }>()

const ROUND = 11
const left = computed(() => props.x(props.visit.arrive))
const right = computed(() => props.x(props.visit.leave))
const name = computed(() => nameOfStop(props.visit.stop))
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
      :aria-label="`Stop ${name}, layover ${(visit.leave - visit.arrive).toFixed(2)} seconds`"
      @pointerdown.stop="$emit('select')"
      @dblclick.stop="$emit('rename')"
      @keydown.enter="$emit('select')"
    />
    <title>{{ name }}</title>
    <text v-if="nameBox" class="serif" :x="nameBox.left" y="125">{{ nameBox.text }}</text>
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
