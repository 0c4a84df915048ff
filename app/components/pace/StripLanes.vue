<script setup lang="ts">
import { computed } from 'vue'
import type { BarPart, LaneBar, LaneKind } from '#core/edits/pace/lanes'
import { laneBars, LANES, moveBar } from '#core/edits/pace/lanes'
import type { CompiledJourney } from '#core/trips/compiled'
import type { Journey } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'
import { useStrip } from './use-strip'

/** What appears and leaves, in lanes: each bar is moved, or its ends are, and stays tied to the arrival, departure, start or end that it is tied to. */
const editor = useEditor()
const strip = useStrip()
const { x } = strip
const ROW = 22
const GAP = 4

const NAMES: Readonly<Record<LaneKind, string>> = {
  pins: 'Pins and names',
  cards: 'Postcards',
  titles: 'Titles',
  landmarks: 'Landmarks',
  maps: 'Maps',
  areas: 'Areas',
  vehicles: 'Vehicles',
  values: 'Changes of values',
}
const pen = document.createElement('canvas').getContext('2d')!
pen.font = '12px sans-serif'
const NAME_ROOM = 130

interface Placed extends LaneBar {
  row: number
  /** Room for its name, in CSS pixels. */
  room: number
}

/** The bars of a lane in as few rows as keep them apart; a name may reach over its bar's end where nothing follows. */
function placed(bars: readonly LaneBar[]): { bars: Placed[]; rows: number } {
  const ends: number[] = []
  const list = bars.map((bar) => {
    const [left, right] = [x(bar.from), x(bar.to)]
    const wanted = Math.max(right, left + Math.min(NAME_ROOM, pen.measureText(bar.name).width + 16))
    const free = ends.findIndex((end) => end + GAP <= left)
    const row = free >= 0 ? free : ends.length
    ends[row] = wanted
    return { ...bar, row, room: wanted - left - 10 }
  })
  return { bars: list, rows: ends.length }
}

const lanes = computed(() => {
  const bars = laneBars(editor.compiled!)
  return LANES.map((kind) => ({ kind, ...placed(bars.filter(({ lane }) => lane === kind)) })).filter(({ rows }) => rows > 0)
})
const isSeen = ({ from, to }: LaneBar) => to >= strip.seen.value.from && from <= strip.seen.value.to

function select({ target }: LaneBar) {
  switch (target.kind) {
    case 'stop':
      return editor.select({ kind: 'stop', id: target.id })
    case 'postcard':
      return editor.select({ kind: 'stop', id: target.stop })
    case 'change':
      return editor.select({ kind: 'leg', id: target.leg })
    case 'area':
      return editor.select({ kind: 'sheet' })
    default:
      return editor.select({ kind: target.kind, id: target.id })
  }
}

/** Moves from where the bar was when the gesture began, so that what was snapped or held at a bound is not lost on the way back. */
let start: { journey: Journey; compiled: CompiledJourney; bar: LaneBar } | undefined
function press(event: PointerEvent, bar: LaneBar, part: BarPart) {
  select(bar)
  start = { journey: editor.journey!, compiled: editor.compiled!, bar }
  const from = part === 'to' ? bar.to : bar.from
  strip.drag(event, {
    from,
    move: (time) => {
      const begun = start!
      editor.edit(() => moveBar(begun.journey, begun.compiled, begun.bar, part, time - from), `drag ${part} of ${bar.lane} ${bar.id}`)
    },
  })
}
function key(event: KeyboardEvent, bar: LaneBar, part: BarPart) {
  if (event.key === 'Enter') return select(bar)
  const by = strip.stepOf(event)
  if (by !== undefined) editor.edit((j) => moveBar(j, editor.compiled!, bar, part, by), `nudge ${part} of ${bar.lane} ${bar.id}`)
}
const seconds = (time: number) => `${time.toFixed(2)} seconds`
</script>

<template>
  <section
    v-for="{ kind, bars, rows } in lanes"
    :key="kind"
    class="lane"
    :aria-label="`Lane: ${NAMES[kind]}`"
    :data-testid="`lane-${kind}`"
  >
    <span class="name">{{ NAMES[kind] }}</span>
    <svg :width="strip.width.value" :height="rows * ROW + 16">
      <g v-for="bar in bars.filter(isSeen)" :key="bar.id" class="bar" :transform="`translate(0 ${14 + bar.row * ROW})`">
        <title>{{ bar.name }}</title>
        <rect
          class="body"
          :x="x(bar.from)"
          y="0"
          :width="Math.max(4, x(bar.to) - x(bar.from))"
          :height="ROW - 3"
          rx="3"
          role="slider"
          tabindex="0"
          :aria-label="`${bar.name}, from ${bar.from.toFixed(2)} to ${bar.to.toFixed(2)} seconds`"
          :aria-valuenow="bar.from"
          :aria-valuetext="seconds(bar.from)"
          data-testid="lane-bar"
          @pointerdown.stop="press($event, bar, 'whole')"
          @keydown="key($event, bar, 'whole')"
        />
        <svg class="words" :x="x(bar.from) + 7" y="0" :width="Math.max(0, bar.room)" :height="ROW - 3">
          <text y="14">{{ bar.name }}</text>
        </svg>
        <template v-for="part in ['from', 'to'] as const" :key="part">
          <rect
            v-if="bar.ends[part] && x(bar.to) - x(bar.from) > 20"
            class="end"
            :x="part === 'from' ? x(bar.from) - 4 : x(bar.to) - 6"
            y="-1"
            width="10"
            :height="ROW - 1"
            role="slider"
            tabindex="0"
            :aria-label="part === 'from' ? `${bar.name} appears` : `${bar.name} leaves`"
            :aria-valuenow="bar[part]"
            :aria-valuetext="seconds(bar[part])"
            :data-testid="`lane-${part}`"
            @pointerdown.stop="press($event, bar, part)"
            @keydown="key($event, bar, part)"
          />
        </template>
      </g>
    </svg>
  </section>
</template>

<style scoped>
svg {
  display: block;
  overflow: hidden;
}
.body {
  fill: color-mix(in srgb, var(--sea) 30%, var(--surface));
  stroke: var(--sea);
  cursor: grab;
}
.end {
  fill: transparent;
  cursor: ew-resize;
}
.bar:hover .end {
  fill: color-mix(in srgb, var(--sea) 60%, transparent);
}
.words {
  pointer-events: none;
}
text {
  fill: var(--ink);
  font-size: 12px;
}
</style>
