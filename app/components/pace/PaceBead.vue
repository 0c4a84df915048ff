<script setup lang="ts">
import { computed } from 'vue'
import type { CompiledVisit } from '#core/trips/compiled'
import type { Traveller } from '#core/journey/schema'
import { nameOfStop } from '#core/journey/lookup'
import type { NameBox } from './strip-names'
import { useStrip } from './use-strip'

/** A stop on the strip: a bead as long as its layover, with the name under it. Dragged as a whole it is held where it is put. */
const props = defineProps<{
  visit: CompiledVisit
  number: number
  held: Pick<Traveller['visits'][number], 'arriveAt' | 'leaveAt'>
  selected: boolean
  nameBox: NameBox | undefined
}>()
const emit = defineEmits<{ select: [event: PointerEvent | KeyboardEvent]; rename: []; move: [time: number, gesture: string] }>()
const strip = useStrip()

const ROUND = 11
const left = computed(() => strip.x(props.visit.arrive))
const right = computed(() => strip.x(props.visit.leave))
const name = computed(() => nameOfStop(props.visit.stop))
const label = computed(() => {
  const { arriveAt, leaveAt } = props.held
  const words = [arriveAt !== null && `arrival held at ${arriveAt} s`, leaveAt !== null && `departure held at ${leaveAt} s`]
  return [`Stop ${name.value}, layover ${(props.visit.leave - props.visit.arrive).toFixed(2)} seconds`, ...words.filter(Boolean)].join(', ')
})

function press(event: PointerEvent) {
  emit('select', event)
  // The film begins with the first stop.
  if (props.number === 0 || event.ctrlKey || event.metaKey || event.shiftKey) return
  strip.drag(event, {
    from: props.visit.arrive,
    move: (time) => emit('move', time, `drag bead ${props.number}`),
    tells: (time) => `Arrives at ${time.toFixed(2)} s`,
  })
}
function key(event: KeyboardEvent) {
  if (event.key === 'Enter') return emit('select', event)
  const by = props.number === 0 ? undefined : strip.stepOf(event)
  if (by !== undefined) emit('move', props.visit.arrive + by, `nudge bead ${props.number}`)
}
</script>

<template>
  <g class="bead" :class="{ selected }">
    <rect
      :x="left - 7"
      y="21"
      :width="right - left + 14"
      :height="2 * ROUND"
      :rx="ROUND"
      :fill="visit.stop.pin.colour"
      role="button"
      tabindex="0"
      :aria-label="label"
      @pointerdown.stop="press"
      @dblclick.stop="$emit('rename')"
      @keydown="key"
    />
    <title>{{ name }}</title>
    <path v-if="held.arriveAt !== null" class="held" :d="`M${left - 5} 21v-7h10v7z`" />
    <path v-if="held.leaveAt !== null" class="held" :d="`M${right - 5} 43v7h10v-7z`" />
    <text v-if="nameBox" class="serif" :x="nameBox.left" y="81">{{ nameBox.text }}</text>
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
.held {
  fill: var(--brass);
  stroke: var(--surface);
  pointer-events: none;
}
text {
  fill: var(--ink);
  font-size: 14px;
  font-weight: 700;
  pointer-events: none;
}
</style>
