<script setup lang="ts">
import { computed } from 'vue'
import { degrees } from '#core/geometry/angle'
import type { Point } from '#core/geometry/point'
import { editSheet } from '#core/edits/ground/sheets'
import type { ControlPoint, Place } from '#core/journey/schema'
import { groundCorners, groundToSheet, sheetToGround, turnedPlace } from '#core/sheet/place'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import type { StageSpace } from './stage-space'
import { pointerOn, draggedBy, fromStage, toStage } from './stage-space'

/** Handles of the selected sheet: upper ones can be moved, scaled and turned; control points can be dragged; and previews of the tools. */
const props = defineProps<{ space: StageSpace; rubber: { from: Point; to: Point } | undefined }>()
const editor = useEditor()
const stage = useStage()

const sheet = computed(() => editor.selectedSheet)
const isUpper = computed(() => sheet.value !== undefined && sheet.value !== editor.journey!.sheets[0])
const corners = computed(() => (sheet.value ? groundCorners(sheet.value).map((corner) => toStage(props.space, corner)) : []))
const outline = computed(() => corners.value.map(({ x, y }) => `${x},${y}`).join(' '))
const ground = (p: Point) => fromStage(props.space, p)
const middle = computed(() => ({ x: (corners.value[0]!.x + corners.value[2]!.x) / 2, y: (corners.value[0]!.y + corners.value[2]!.y) / 2 }))

/** The handle for turning, off the middle of the upper side. */
const knob = computed(() => {
  const [a, b, , d] = corners.value as [Point, Point, Point, Point]
  const up = { x: a.x - d.x, y: a.y - d.y }
  const length = Math.hypot(up.x, up.y) || 1
  const top = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }
  return { top, at: { x: top.x + (up.x / length) * 28, y: top.y + (up.y / length) * 28 } }
})

function setPlace(place: Place, gesture: string) {
  const { id } = sheet.value!
  editor.edit((journey) => editSheet(journey, id, { place }), `${gesture} ${id}`)
}
function drag(event: PointerEvent, move: (by: Point) => void) {
  event.stopPropagation()
  followPointer(event, { move, end: () => editor.endGesture() })
}

function pressSheet(event: PointerEvent) {
  const { place } = sheet.value!
  const { space } = props
  const from = ground(pointerOn((event.currentTarget as SVGElement).ownerSVGElement!, event))
  drag(event, (by) => {
    const to = draggedBy(space, from, by)
    setPlace({ ...place, x: place.x + to.x - from.x, y: place.y + to.y - from.y }, 'move sheet')
  })
}
/** A corner moves along the diagonal; the opposite one stays. */
function pressCorner(event: PointerEvent, corner: number) {
  const { place } = sheet.value!
  const [from, opposite] = [corners.value[corner]!, corners.value[(corner + 2) % 4]!]
  const fixed = ground(opposite)
  const spot = groundToSheet(place, fixed)
  const diagonal = { x: from.x - opposite.x, y: from.y - opposite.y }
  const squared = diagonal.x ** 2 + diagonal.y ** 2
  drag(event, (by) => {
    const factor = Math.max(0.02, 1 + (by.x * diagonal.x + by.y * diagonal.y) / squared)
    const scaled = { ...place, x: 0, y: 0, scale: place.scale * factor }
    const there = sheetToGround(scaled, spot)
    setPlace({ ...scaled, x: fixed.x - there.x, y: fixed.y - there.y }, 'scale sheet')
  })
}
function pressKnob(event: PointerEvent) {
  const { place } = sheet.value!
  const centre = middle.value
  const start = knob.value.at
  const angle = (p: Point) => degrees(Math.atan2(p.y - centre.y, p.x - centre.x))
  drag(event, (by) =>
    setPlace(turnedPlace(place, ground(centre), angle({ x: start.x + by.x, y: start.y + by.y }) - angle(start)), 'turn sheet'),
  )
}

const points = computed(() => (sheet.value?.georeference?.kind === 'points' ? sheet.value.georeference.points : []))
const spotOnStage = (spot: Point) => toStage(props.space, sheetToGround(sheet.value!.place, spot))
function pressPoint(event: PointerEvent, point: ControlPoint) {
  const { id, place } = sheet.value!
  const from = spotOnStage(point.at)
  drag(event, (by) => {
    const at = groundToSheet(place, ground({ x: from.x + by.x, y: from.y + by.y }))
    editor.edit((journey) => {
      const georeference = journey.sheets.find((entry) => entry.id === id)?.georeference
      if (georeference?.kind !== 'points') return journey
      return editSheet(journey, id, {
        georeference: { ...georeference, points: georeference.points.map((other) => (other.id === point.id ? { ...other, at } : other)) },
      })
    }, `control point ${point.id}`)
  })
}
</script>

<template>
  <svg class="sheets" :class="{ pointing: stage.tool !== 'select', under: isUpper }">
    <g v-if="sheet && isUpper">
      <polygon class="halo" :points="outline" />
      <polygon class="body" :points="outline" data-testid="sheet-body" @pointerdown="pressSheet" />
      <line class="stem" :x1="knob.top.x" :y1="knob.top.y" :x2="knob.at.x" :y2="knob.at.y" />
      <g class="knob" :transform="`translate(${knob.at.x} ${knob.at.y})`" @pointerdown="pressKnob">
        <title>Turn the sheet</title>
        <circle class="grab" r="13" />
        <circle class="mark" r="6" />
      </g>
      <g
        v-for="(corner, i) in corners"
        :key="i"
        class="corner"
        :transform="`translate(${corner.x} ${corner.y})`"
        :data-testid="`sheet-corner-${i}`"
        @pointerdown="pressCorner($event, i)"
      >
        <title>Scale the sheet</title>
        <circle class="grab" r="13" />
        <rect class="mark" x="-5" y="-5" width="10" height="10" />
      </g>
    </g>
    <g v-if="sheet">
      <g
        v-for="(point, i) in points"
        :key="point.id"
        class="control"
        :transform="`translate(${spotOnStage(point.at).x} ${spotOnStage(point.at).y})`"
        data-testid="control-point"
        @pointerdown="pressPoint($event, point)"
      >
        <title>{{ point.name }}</title>
        <circle class="grab" r="13" />
        <path class="halo" d="M-12 0H-4M4 0H12M0-12V-4M0 4V12" />
        <path d="M-12 0H-4M4 0H12M0-12V-4M0 4V12" />
        <text x="8" y="-8">{{ i + 1 }}</text>
      </g>
      <g v-if="stage.spot" class="control pending" :transform="`translate(${spotOnStage(stage.spot).x} ${spotOnStage(stage.spot).y})`">
        <path class="halo" d="M-12 0H-4M4 0H12M0-12V-4M0 4V12" />
        <path d="M-12 0H-4M4 0H12M0-12V-4M0 4V12" />
        <text x="8" y="-8">?</text>
      </g>
      <g
        v-for="(p, i) in stage.alignment"
        :key="i"
        class="control pending"
        :transform="`translate(${toStage(space, p).x} ${toStage(space, p).y})`"
      >
        <path class="halo" d="M-12 0H-4M4 0H12M0-12V-4M0 4V12" />
        <path d="M-12 0H-4M4 0H12M0-12V-4M0 4V12" />
        <text x="8" y="-8">{{ i % 2 === 0 ? 'from' : 'to' }}</text>
      </g>
    </g>
    <template v-if="rubber">
      <rect
        v-if="stage.tool === 'crop'"
        class="rubber"
        :x="Math.min(rubber.from.x, rubber.to.x)"
        :y="Math.min(rubber.from.y, rubber.to.y)"
        :width="Math.abs(rubber.to.x - rubber.from.x)"
        :height="Math.abs(rubber.to.y - rubber.from.y)"
      />
      <line v-else class="rubber" :x1="rubber.from.x" :y1="rubber.from.y" :x2="rubber.to.x" :y2="rubber.to.y" />
    </template>
  </svg>
</template>

<style scoped>
.sheets {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: hidden;
  pointer-events: none;
}
/* Things on an upper sheet can still be clicked; control points, which may lie on stops, come first. */
.sheets:not(.under) {
  z-index: 1;
}
.halo,
.body,
.stem,
.rubber {
  fill: none;
}
.halo {
  stroke: rgba(13, 21, 34, 0.6);
  stroke-width: 3.5;
}
.body,
.stem,
.rubber {
  stroke: #ff8a70;
  stroke-width: 1.5;
}
.body {
  fill: transparent;
  pointer-events: all;
  cursor: move;
}
.grab {
  fill: transparent;
}
.knob,
.corner,
.control {
  pointer-events: auto;
  cursor: pointer;
}
.control.pending {
  pointer-events: none;
}
.pointing > g :is(.body, .knob, .corner, .control) {
  pointer-events: none;
}
.mark {
  fill: #ff8a70;
  stroke: #14233a;
  stroke-width: 1.5;
}
.control path {
  fill: none;
  stroke: #14233a;
  stroke-width: 2.5;
}
.control .halo {
  stroke: #fdf8ec;
  stroke-width: 6;
}
.control.pending path:not(.halo) {
  stroke: #d8412f;
}
.control text {
  font-size: 13px;
  font-weight: 700;
  fill: #14233a;
  stroke: #fdf8ec;
  stroke-width: 3.5;
  paint-order: stroke;
}
.rubber {
  stroke-dasharray: 6 4;
  stroke-width: 2;
}
rect.rubber {
  fill: rgba(255, 138, 112, 0.14);
}
</style>
