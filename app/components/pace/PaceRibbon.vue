<script setup lang="ts">
import { computed } from 'vue'
import type { CompiledLeg } from '#core/trips/compiled'
import { simpleDashes } from '~/services/simple-dashes'
import { LINE, PAPER, relativeLuminance } from '#draw/colour'

/** A leg on the strip: a ribbon as long as it takes, in its own stroke and colour. */
const props = defineProps<{ leg: CompiledLeg; number: number; x: (time: number) => number; selected: boolean }>()
defineEmits<{ select: [event: PointerEvent | KeyboardEvent] }>()

const left = computed(() => props.x(props.leg.depart))
const width = computed(() => Math.max(0, props.x(props.leg.arrive) - left.value))
const ink = computed(() => props.leg.leg.ink)
const seconds = computed(() => (props.leg.arrive - props.leg.depart).toFixed(2))
const isSet = computed(() => props.leg.leg.travel !== null)

const strokeWidth = computed(() => Math.min(12, 3 + ink.value.width / 2))
const dashes = computed(() => simpleDashes(ink.value.line, strokeWidth.value))
const line = computed(() => ({ x1: left.value + 6, x2: Math.max(left.value + 6, left.value + width.value - 6), y1: 32, y2: 32 }))
/** A border that sets the ink off from the strip in both themes. */
const edge = computed(() => (relativeLuminance(ink.value.colour) > 0.5 ? LINE : PAPER))
</script>

<template>
  <g class="ribbon" :class="{ selected }">
    <rect class="band" :x="left" y="14" :width="width" height="36" rx="3" />
    <line v-bind="line" class="edge" :stroke="edge" :stroke-width="strokeWidth + 4" />
    <line v-bind="{ ...line, ...dashes }" :stroke="ink.colour" :stroke-width="strokeWidth" />
    <rect
      class="hit"
      :x="left"
      y="14"
      :width="width"
      height="36"
      role="button"
      tabindex="0"
      :aria-label="`Leg ${number}, ${seconds} seconds, ${isSet ? 'set' : 'automatic'}`"
      @pointerdown.stop="$emit('select', $event)"
      @keydown.enter="$emit('select', $event)"
    />
    <text v-if="width > 60" class="figures" :x="left + width / 2" y="64">{{ seconds }} s{{ isSet ? ' · set' : '' }}</text>
  </g>
</template>

<style scoped>
.band {
  fill: color-mix(in srgb, var(--sea) 13%, transparent);
}
.selected .band {
  stroke: var(--vermilion);
  stroke-width: 2;
}
.edge {
  opacity: 0.8;
}
.hit {
  fill: transparent;
  cursor: pointer;
}
text {
  fill: var(--brass);
  font-size: 12px;
  text-anchor: middle;
  pointer-events: none;
}
</style>
