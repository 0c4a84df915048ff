<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { moveTogether, similarity } from '#core/edits/trips/together'
import type { Similarity } from '#core/edits/trips/together'
import { degrees } from '#core/geometry/angle'
import { greatest, least } from '#core/geometry/extremes'
import type { Point } from '#core/geometry/point'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import type { StageSpace } from './stage-space'
import { fromStage, toStage } from './stage-space'

/** A box round the selected stops: its corners scale them and its knob turns them, about a pivot that can be moved. Stops are moved by dragging any of them. */
const props = defineProps<{ space: StageSpace }>()
const editor = useEditor()

/** Round the stops' own handles, in CSS pixels. */
const ROOM = 26
/** Turns go in steps of so many degrees with Shift. */
const STEP = 15

const ids = computed(() => editor.selectedIds)
const places = computed(() => editor.journey!.stops.filter(({ id }) => ids.value.includes(id)).map(({ at }) => toStage(props.space, at)))
const own = computed((): Point[] => {
  const [xs, ys] = [places.value.map(({ x }) => x), places.value.map(({ y }) => y)]
  const [left, right, top, bottom] = [least(xs) - ROOM, greatest(xs) + ROOM, least(ys) - ROOM, greatest(ys) + ROOM]
  return [{ x: left, y: top }, { x: right, y: top }, { x: right, y: bottom }, { x: left, y: bottom }] // prettier-ignore
})
/** The box as it is moved; it is drawn anew round the stops when it is let go. */
const held = ref<Point[]>()
const corners = computed(() => held.value ?? own.value)
const outline = computed(() => corners.value.map(({ x, y }) => `${x},${y}`).join(' '))

const mean = (points: readonly Point[]): Point => ({
  x: points.reduce((sum, { x }) => sum + x, 0) / points.length,
  y: points.reduce((sum, { y }) => sum + y, 0) / points.length,
})
/** On the ground, once it has been moved; else the middle of the box. */
const put = ref<Point>()
watch(
  // The list is made anew with each edit.
  () => ids.value.join(),
  () => (put.value = undefined),
)
const pivot = computed(() => (put.value ? toStage(props.space, put.value) : mean(corners.value)))

const knob = computed(() => {
  const [a, b, , d] = corners.value as [Point, Point, Point, Point]
  const up = { x: a.x - d.x, y: a.y - d.y }
  const length = Math.hypot(up.x, up.y) || 1
  const top = mean([a, b])
  return { top, at: { x: top.x + (up.x / length) * 28, y: top.y + (up.y / length) * 28 } }
})

/** @param of the similarity that a drag has come to, about the pivot on the stage, whose angles and scales are those of the ground as the view is flat */
function drag(event: PointerEvent, gesture: string, of: (by: Point, event: PointerEvent) => Pick<Similarity, 'turn' | 'scale'>) {
  event.stopPropagation()
  const [journey, begun, centre] = [editor.journey!, corners.value, pivot.value]
  const about = fromStage(props.space, centre)
  const moved = [...ids.value]
  followPointer(event, {
    move: (by, at) => {
      const change = of(by, at)
      held.value = begun.map(similarity({ pivot: centre, ...change }))
      editor.edit(() => moveTogether(journey, moved, similarity({ pivot: about, ...change })), `${gesture} ${moved.join()}`)
    },
    end: () => {
      held.value = undefined
      editor.endGesture()
    },
  })
}

function pressCorner(event: PointerEvent, from: Point) {
  const arm = { x: from.x - pivot.value.x, y: from.y - pivot.value.y }
  const squared = arm.x ** 2 + arm.y ** 2
  if (squared > 0) drag(event, 'scale', (by) => ({ scale: Math.max(0.02, 1 + (by.x * arm.x + by.y * arm.y) / squared) }))
}
function pressKnob(event: PointerEvent) {
  const [start, centre] = [knob.value.at, pivot.value]
  const angle = (p: Point) => degrees(Math.atan2(p.y - centre.y, p.x - centre.x))
  drag(event, 'turn', (by, at) => {
    const turn = angle({ x: start.x + by.x, y: start.y + by.y }) - angle(start)
    return { turn: at.shiftKey ? STEP * Math.round(turn / STEP) : turn }
  })
}
function pressPivot(event: PointerEvent) {
  event.stopPropagation()
  const from = pivot.value
  followPointer(event, { move: (by) => (put.value = fromStage(props.space, { x: from.x + by.x, y: from.y + by.y })) })
}
</script>

<template>
  <g class="together" data-testid="together">
    <polygon class="under" :points="outline" />
    <polygon class="box" :points="outline" />
    <line class="box" :x1="knob.top.x" :y1="knob.top.y" :x2="knob.at.x" :y2="knob.at.y" />
    <g class="handle" :transform="`translate(${knob.at.x} ${knob.at.y})`" data-testid="together-knob" @pointerdown="pressKnob">
      <title>Turn the selected stops; with Shift in steps of 15 degrees</title>
      <circle class="grab" r="13" />
      <circle class="mark" r="6" />
    </g>
    <g
      v-for="(corner, i) in corners"
      :key="i"
      class="handle"
      :transform="`translate(${corner.x} ${corner.y})`"
      :data-testid="`together-corner-${i}`"
      @pointerdown="pressCorner($event, corner)"
    >
      <title>Scale the selected stops</title>
      <circle class="grab" r="13" />
      <rect class="mark" x="-5" y="-5" width="10" height="10" />
    </g>
    <g
      class="handle"
      :transform="`translate(${pivot.x} ${pivot.y})`"
      data-testid="together-pivot"
      @pointerdown="pressPivot"
      @dblclick.stop="put = undefined"
    >
      <title>The pivot: drag it; a double click puts it back into the middle</title>
      <circle class="grab" r="13" />
      <path class="halo" d="M-9 0H9M0-9V9" />
      <path class="cross" d="M-9 0H9M0-9V9" />
      <circle class="cross" r="4.5" />
    </g>
  </g>
</template>

<style scoped>
polygon,
line {
  fill: none;
}
.under {
  stroke: rgba(13, 21, 34, 0.5);
  stroke-width: 3;
}
.box {
  stroke: #fdf8ec;
  stroke-width: 1.4;
  stroke-dasharray: 5 4;
}
.grab {
  fill: transparent;
}
.mark {
  fill: #fdf8ec;
  stroke: #14233a;
  stroke-width: 1.5;
}
.halo {
  stroke: #14233a;
  stroke-width: 4;
}
.cross {
  fill: none;
  stroke: #fdf8ec;
  stroke-width: 1.8;
}
</style>
