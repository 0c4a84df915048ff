<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { COMFORT, ratesBetween, worstOf } from '#core/camera/comfort'
import { viewAt } from '#core/camera/view-track'
import { canReverse, retimeShot, reverseWay, stretchWay } from '#core/edits/camera/ways'
import { greatest } from '#core/geometry/extremes'
import type { CompiledShot } from '#core/trips/compiled'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import { followPointer } from '~/composables/use-pointer-drag'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import { nameOfShot } from './shot-names'

/**
 * The way of the camera through shots that it passes: how fast it is, as a graph whose points are its shots. A point that is dragged, or moved by the arrow keys,
 * is another moment: what the camera looks at there stays.
 */
const props = defineProps<{ way: readonly CompiledShot[] }>()
const editor = useEditor()
const { change, done } = useFieldEdits(() => `way ${props.way[0]!.shot.id}`)
const svg = useTemplateRef<SVGSVGElement>('svg')

/** The drawing's size, and at how many moments of the way the speed is looked at. */
const [WIDTH, HEIGHT] = [240, 90]
const LOOKS = 96

const start = computed(() => props.way[0]!.start)
const end = computed(() => props.way.at(-1)!.end)
const seconds = computed(() => end.value - start.value)

/** How fast the picture moves, as a multiple of what is comfortable: by the worst of going, turning, zooming and tilting. */
const speeds = computed(() => {
  const { views, reference } = editor.compiled!
  const step = seconds.value / LOOKS
  const seen = Array.from({ length: LOOKS + 1 }, (_, i) => viewAt({ views }, start.value + i * step))
  return seen.slice(1).map((view, i) => worstOf(ratesBetween(seen[i]!, view, step, reference)).excess)
})
/** The top of the graph: the greatest speed, and what is comfortable at least. */
const most = computed(() => Math.max(1.1, greatest(speeds.value) * 1.1))
const x = (time: number) => ((time - start.value) / seconds.value) * WIDTH
const y = (speed: number) => HEIGHT * (1 - speed / most.value)
const line = computed(() => speeds.value.map((speed, i) => `${(((i + 0.5) / LOOKS) * WIDTH).toFixed(1)},${y(speed).toFixed(1)}`).join(' '))
const speedAt = (time: number) =>
  speeds.value[Math.min(LOOKS - 1, Math.max(0, Math.floor(((time - start.value) / seconds.value) * LOOKS)))]!

const move = (index: number, time: number) => change(`point ${index}`, (journey) => retimeShot(journey, props.way, index, time))
function press(event: PointerEvent, index: number) {
  event.stopPropagation()
  const from = props.way[index]!.end
  const perPixel = seconds.value / svg.value!.getBoundingClientRect().width
  followPointer(event, { move: (by) => move(index, from + by.x * perPixel), end: done })
}
function nudge(event: KeyboardEvent, index: number) {
  const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
  if (by === 0) return
  event.preventDefault()
  event.stopPropagation()
  move(index, props.way[index]!.end + by * (event.shiftKey ? 1 : 0.1))
}
</script>

<template>
  <h3>The whole way</h3>
  <svg ref="svg" class="graph" :viewBox="`-8 -8 ${WIDTH + 16} ${HEIGHT + 16}`" role="group" aria-label="Speed along the way">
    <rect x="0" y="0" :width="WIDTH" :height="HEIGHT" class="ground" />
    <line class="comfort" x1="0" :y1="y(1)" :x2="WIDTH" :y2="y(1)"><title>The comfortable speed</title></line>
    <polyline class="line" :points="line" />
    <circle
      v-for="(entry, i) in way"
      :key="entry.shot.id"
      class="point"
      :cx="x(entry.end)"
      :cy="y(speedAt(entry.end))"
      r="6"
      role="slider"
      tabindex="0"
      :aria-label="`When the camera is at ${nameOfShot(editor.journey!, entry.shot)} ${i + 1}`"
      :aria-valuenow="Math.round(1000 * entry.end) / 1000"
      :aria-valuetext="`${entry.end.toFixed(2)} s`"
      :data-testid="`way-point-${i}`"
      @pointerdown.prevent="press($event, i)"
      @keydown="nudge($event, i)"
      @blur="done"
    />
  </svg>
  <p class="ends quiet figures">
    <span>{{ start.toFixed(2) }} s</span><span>{{ end.toFixed(2) }} s</span>
  </p>
  <p class="quiet figures">
    At most {{ greatest(speeds).toFixed(1) }}× the comfortable speed ({{ COMFORT.pan }} frame widths, {{ COMFORT.turn }}° or
    {{ COMFORT.zoom }} doublings a second).
  </p>
  <FieldRow v-slot="{ id }" label="Takes">
    <NumberField
      :labelledby="id"
      :model-value="Math.round(1000 * seconds) / 1000"
      :min="0.1 * way.length"
      :max="60"
      :precision="3"
      unit="s"
      data-testid="way-takes"
      @change="(length) => change('length', (journey) => stretchWay(journey, way, length))"
      @done="done"
    />
  </FieldRow>
  <div v-if="canReverse(way)" class="buttons">
    <v-btn size="small" variant="outlined" data-testid="reverse-way" @click="editor.edit((journey) => reverseWay(journey, way))"
      >Reverse the way</v-btn
    >
  </div>
</template>

<style scoped>
.graph {
  display: block;
  width: 100%;
  overflow: visible;
  touch-action: none;
}
.ends {
  display: flex;
  justify-content: space-between;
}
.ground {
  fill: color-mix(in srgb, var(--sea) 10%, transparent);
  stroke: var(--rule);
}
.comfort {
  stroke: var(--vermilion);
  stroke-dasharray: 4 4;
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.point {
  fill: var(--vermilion);
  stroke: var(--surface);
  stroke-width: 2;
  cursor: ew-resize;
}
</style>
