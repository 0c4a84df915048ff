<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { clamp } from '#core/geometry/clamp'
import { cubicBezier } from '#core/pace/easing'
import { followPointer } from '~/composables/use-pointer-drag'

/** A CSS cubic Bezier easing as a curve with two handles: time runs to the right, the way upwards. Also handled with the arrow keys. */
type Curve = readonly [x1: number, y1: number, x2: number, y2: number]
const props = defineProps<{ modelValue: Curve }>()
const emit = defineEmits<{ change: [curve: [number, number, number, number]]; done: [] }>()

/** The drawing's size, and what lies beyond 0 and 1 above and below. */
const SIZE = 160
const AIR = 42
const svg = useTemplateRef<SVGSVGElement>('svg')
const x = (value: number) => value * SIZE
const y = (value: number) => AIR + (1 - value) * SIZE
/** The furthest that a handle can be dragged up or down. */
const reach = AIR / SIZE
const seen = (value: number) => clamp(value, -reach, 1 + reach)

const path = computed(() => {
  const [x1, y1, x2, y2] = props.modelValue
  return `M${x(0)} ${y(0)}C${x(x1)} ${y(y1)} ${x(x2)} ${y(y2)} ${x(1)} ${y(1)}`
})
const handles = computed(() => [
  { name: 'First handle', at: [props.modelValue[0], props.modelValue[1]] as const, from: [0, 0] as const, first: 0 },
  { name: 'Second handle', at: [props.modelValue[2], props.modelValue[3]] as const, from: [1, 1] as const, first: 2 },
])
/** Where the traveller is at ten moments, a tenth of the time apart: far apart where it is fast. */
const beads = computed(() => {
  const ease = cubicBezier(...props.modelValue)
  return Array.from({ length: 11 }, (_, i) => clamp(ease(i / 10), 0, 1))
})

function move(first: number, to: readonly [number, number]) {
  const next: [number, number, number, number] = [...props.modelValue]
  next[first] = Math.round(clamp(to[0], 0, 1) * 100) / 100
  next[first + 1] = Math.round(clamp(to[1], -4, 5) * 100) / 100
  emit('change', next)
}

function press(event: PointerEvent, first: number) {
  const scale = svg.value!.getBoundingClientRect().width / SIZE
  const [fromX, fromY] = [props.modelValue[first]!, props.modelValue[first + 1]!]
  followPointer(event, {
    move: (by) => move(first, [fromX + by.x / scale / SIZE, seen(fromY - by.y / scale / SIZE)]),
    end: () => emit('done'),
  })
}

const STEPS: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }
function nudge(event: KeyboardEvent, first: number) {
  const step = STEPS[event.key]
  if (!step) return
  event.preventDefault()
  event.stopPropagation()
  const by = event.shiftKey ? 0.1 : 0.01
  move(first, [props.modelValue[first]! + step[0] * by, props.modelValue[first + 1]! + step[1] * by])
}
</script>

<template>
  <svg ref="svg" class="curve" :viewBox="`-14 0 ${SIZE + 28} ${SIZE + 2 * AIR + 12}`" role="group" aria-label="Curve of the pace">
    <rect class="ground" x="0" :y="y(1)" :width="SIZE" :height="SIZE" />
    <path class="even" :d="`M${x(0)} ${y(0)}L${x(1)} ${y(1)}`" />
    <path class="line" :d="path" />
    <g class="beads"><circle v-for="(bead, i) in beads" :key="i" :cx="x(bead)" :cy="SIZE + 2 * AIR + 6" r="3" /></g>
    <g v-for="handle in handles" :key="handle.first">
      <line class="arm" :x1="x(handle.from[0])" :y1="y(handle.from[1])" :x2="x(handle.at[0])" :y2="y(seen(handle.at[1]))" />
      <circle
        class="handle"
        :cx="x(handle.at[0])"
        :cy="y(seen(handle.at[1]))"
        r="7"
        role="slider"
        tabindex="0"
        :aria-label="handle.name"
        :aria-valuenow="handle.at[1]"
        :aria-valuetext="`${handle.at[0]} of the time, ${handle.at[1]} of the way`"
        :data-testid="`curve-handle-${handle.first / 2 + 1}`"
        @pointerdown.prevent="press($event, handle.first)"
        @keydown="nudge($event, handle.first)"
        @blur="emit('done')"
      />
    </g>
  </svg>
</template>

<style scoped>
.curve {
  display: block;
  width: 100%;
  max-width: 240px;
  margin: 8px auto 0;
  overflow: visible;
  touch-action: none;
}
.ground {
  fill: color-mix(in srgb, var(--sea) 10%, transparent);
  stroke: var(--rule);
}
.even {
  stroke: var(--rule);
  stroke-dasharray: 4 4;
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
}
.arm {
  stroke: var(--vermilion);
}
.handle {
  fill: var(--vermilion);
  stroke: var(--surface);
  stroke-width: 2;
  cursor: grab;
}
.beads circle {
  fill: var(--brass);
}
</style>
