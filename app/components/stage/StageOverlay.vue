<script setup lang="ts">
import { computed } from 'vue'
import type { CompiledLeg, CompiledTraveller } from '#core/trips/compiled'
import { inkLengthAt } from '#core/frame/ink-at'
import { numberAt } from '#core/trips/values'
import type { Course } from '#core/geometry/course'
import { pieceAt, pointAt } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { add, subtract } from '#core/geometry/point'
import { bendLeg } from '#core/edits/lines/legs'
import { moveTogether } from '#core/edits/trips/together'
import { nameOfStop } from '#core/journey/lookup'
import type { Stop } from '#core/journey/schema'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useCamera } from '~/stores/camera'
import { useStage } from '~/stores/stage'
import CameraOverlay from '~/components/stage/CameraOverlay.vue'
import CourseOverlay from './CourseOverlay.vue'
import CardOverlay from './CardOverlay.vue'
import LabelOverlay from './LabelOverlay.vue'
import LandmarkOverlay from './LandmarkOverlay.vue'
import TogetherOverlay from './TogetherOverlay.vue'
import NetworkOverlay from './NetworkOverlay.vue'
import type { StageSpace } from './stage-space'
import { draggedBy, groundTransform, isBefore, perPixel, tiltedCourse, toStage } from './stage-space'

/** Handles over the picture: planned lines, stops, bends and nodes, and on the table what the camera sees. */
const props = defineProps<{ space: StageSpace; size: { width: number; height: number } }>()

const editor = useEditor()
const playback = usePlayback()
const camera = useCamera()
const stage = useStage()

const legs = computed(() => editor.itinerary?.legs ?? [])
/** The trips of the other travellers, which are only hinted at. */
const others = computed(() => editor.compiled?.travellers.filter((trip) => trip !== editor.itinerary && trip.traveller.shown) ?? [])
const hinted = computed(() =>
  others.value.flatMap((trip) => {
    const ahead = plannedOf(trip)
    return trip.legs.map((leg, i) => ({ leg, ahead: ahead[i]! }))
  }),
)
/** All visible stops, the selected traveller's first. */
const stops = computed(() => {
  const trips = editor.itinerary ? [editor.itinerary, ...others.value] : others.value
  return [...new Set(trips.flatMap(({ visits }) => visits.map(({ stop }) => stop)))].filter(({ at }) => isBefore(props.space, at))
})
const selected = computed(() => new Set(editor.selectedIds))
/** Whether several stops are selected, and seen straight from above, so that a box round them can turn and scale them. */
const isTogether = computed(
  () => editor.selection.kind === 'stop' && selected.value.size > 1 && stage.tool === 'select' && props.space.projection.isFlat,
)

const transform = computed(() => groundTransform(props.space))

/** Points closer to each other than this on the stage are indistinguishable, in CSS pixels. */
const FINE = 2

/** The line of a course from one of its points on, as SVG path data; crowded points are thinned out. */
function pathFrom({ points, breaks }: Course, first: number, start: string): string {
  const fine = FINE * perPixel(props.space)
  let d = start
  let from = first
  for (const end of [...breaks, points.length / 2 - 1]) {
    if (end < from) continue
    const isBroken = breaks.includes(from - 1)
    let x = Infinity
    let y = Infinity
    for (let i = from; i <= end; i++) {
      const nx = points[2 * i]!
      const ny = points[2 * i + 1]!
      if (i !== end && Math.abs(nx - x) < fine && Math.abs(ny - y) < fine) continue
      d += `${d === '' || (isBroken && i === from) ? 'M' : 'L'}${nx} ${ny}`
      x = nx
      y = ny
    }
    from = end + 1
  }
  return d
}

/** Path data by what it depends on: the scale where the view is flat, else the projection. */
const written = new WeakMap<Course, { of: unknown; d: string }>()
function pathOf(course: Course): string {
  const { isFlat } = props.space.projection
  const of = isFlat ? perPixel(props.space) : props.space
  const known = written.get(course)
  if (known?.of === of) return known.d
  const d = isFlat ? pathFrom(course, 0, '') : tiltedCourse(props.space, course, 0)
  written.set(course, { of, d })
  return d
}

/** The planned line of each leg of a trip: the part of its course that is not inked yet, '' if all of it is. */
function plannedOf(trip: CompiledTraveller): string[] {
  const { lastTime, values } = editor.compiled!
  const size = numberAt(values, 'vehicle-size', playback.time, trip.traveller.id)
  return trip.legs.map(({ course }, i) => {
    const head = inkLengthAt(trip, i, playback.time, lastTime, camera.projection, size)
    if (head <= 0) return pathOf(course)
    if (head >= course.length) return ''
    if (!props.space.projection.isFlat) return tiltedCourse(props.space, course, head)
    const from = pointAt(course, head)
    return pathFrom(course, pieceAt(course, head) + 1, `M${from.x} ${from.y}`)
  })
}
const planned = computed(() => (editor.itinerary ? plannedOf(editor.itinerary) : []))

const middleOf = (leg: CompiledLeg): Point => toStage(props.space, pointAt(leg.course, leg.course.length / 2))

/** Drags something on the ground: `apply` gets its new position. */
function drag(event: PointerEvent, from: Point, apply: (to: Point) => void) {
  event.stopPropagation()
  const { space } = props
  followPointer(event, {
    move: (by) => apply(draggedBy(space, from, by)),
    end: () => editor.endGesture(),
  })
}

function pressStop(event: PointerEvent, stop: Stop) {
  const gesture = `move ${stop.id}`
  if (event.shiftKey) {
    event.stopPropagation()
    return editor.selectAlso({ kind: 'stop', id: stop.id })
  }
  if (!selected.value.has(stop.id)) editor.select({ kind: 'stop', id: stop.id })
  // Several are moved with what lies between them.
  const [journey, ids] = [editor.journey!, [...selected.value]]
  drag(event, stop.at, (to) => {
    const by = subtract(to, stop.at)
    editor.edit(() => moveTogether(journey, ids, (p) => add(p, by)), gesture)
  })
}

function pressMiddle(event: PointerEvent, leg: CompiledLeg) {
  if (event.shiftKey) {
    event.stopPropagation()
    return selectLeg(leg.leg.id, true)
  }
  const gesture = `bend ${leg.leg.id}`
  const middle = pointAt(leg.course, leg.course.length / 2)
  selectLeg(leg.leg.id)
  drag(event, middle, (through) => editor.edit((journey) => bendLeg(journey, leg.leg.id, through), gesture))
}

const selectLeg = (id: string, more = false) => (more ? editor.selectAlso({ kind: 'leg', id }) : editor.select({ kind: 'leg', id }))
</script>

<template>
  <svg class="overlay" :class="{ placing: stage.tool !== 'select' }" :viewBox="`0 0 ${size.width} ${size.height}`">
    <CameraOverlay v-if="stage.mode === 'table'" :space="space" :size="size" />

    <g :transform="transform">
      <g v-for="{ leg, ahead } in hinted" :key="leg.leg.id" class="leg other">
        <path class="planned" :d="ahead" />
        <path class="hit" :d="pathOf(leg.course)" @pointerdown.stop="selectLeg(leg.leg.id, $event.shiftKey)" />
      </g>
      <g v-for="(leg, i) in legs" :key="leg.leg.id" class="leg" :class="{ selected: selected.has(leg.leg.id) }">
        <template v-if="planned[i] !== ''">
          <path class="under" :d="planned[i]" />
          <path class="planned" :d="planned[i]" />
        </template>
        <!-- Thin, so that the ink it runs through can be seen while its look is chosen. -->
        <path v-if="selected.has(leg.leg.id)" class="chosen" :d="pathOf(leg.course)" />
        <path class="hit" :d="pathOf(leg.course)" @pointerdown.stop="selectLeg(leg.leg.id, $event.shiftKey)" />
      </g>
    </g>

    <template v-if="stage.tool === 'select'">
      <CardOverlay :space="space" />
      <LabelOverlay :space="space" />
      <LandmarkOverlay :space="space" />
    </template>

    <template v-for="leg in legs" :key="leg.leg.id">
      <template v-if="leg.leg.course.kind === 'drawn'">
        <CourseOverlay
          v-if="editor.selection.kind === 'leg' && editor.selection.id === leg.leg.id"
          :space="space"
          :leg="leg.leg"
          :course="leg.leg.course"
        />
      </template>
      <template v-else-if="leg.leg.course.kind === 'network'">
        <NetworkOverlay
          v-if="editor.selection.kind === 'leg' && editor.selection.id === leg.leg.id"
          :space="space"
          :leg="leg.leg"
          :shape="leg.leg.course"
          :course="leg.course"
          :transform="transform"
          :path="pathOf(leg.course)"
        />
      </template>
      <g
        v-else-if="(leg.leg.course.kind === 'straight' || leg.leg.course.kind === 'bowed') && leg.course.length > 0"
        class="handle bend"
        :class="{ selected: selected.has(leg.leg.id) }"
        :transform="`translate(${middleOf(leg).x} ${middleOf(leg).y})`"
        :data-testid="`bend-${leg.leg.id}`"
        @pointerdown="pressMiddle($event, leg)"
      >
        <title>Drag to bend this leg</title>
        <circle class="grab" r="13" />
        <path d="M0-7L7 0L0 7L-7 0Z" />
      </g>
    </template>

    <TogetherOverlay v-if="isTogether" :space="space" />

    <g
      v-for="(stop, i) in stops"
      :key="stop.id"
      class="handle stop"
      :class="{ selected: selected.has(stop.id) }"
      :transform="`translate(${toStage(space, stop.at).x} ${toStage(space, stop.at).y})`"
      tabindex="0"
      role="button"
      :aria-label="`Stop ${i + 1}: ${nameOfStop(stop)}`"
      :data-stop="stop.id"
      data-testid="stop-handle"
      @pointerdown="pressStop($event, stop)"
      @dblclick.stop="stage.askName(stop.id)"
      @keydown.enter="stage.askName(stop.id)"
      @focus="selected.has(stop.id) || editor.select({ kind: 'stop', id: stop.id })"
    >
      <circle class="grab" r="15" />
      <circle class="ring-under" r="6.5" />
      <circle class="ring" r="6.5" />
    </g>
  </svg>
</template>

<style scoped>
.overlay {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: hidden;
  pointer-events: none;
}
path.under,
path.planned,
path.hit {
  fill: none;
  vector-effect: non-scaling-stroke;
  stroke-linejoin: round;
}
.under {
  stroke: rgba(13, 21, 34, 0.5);
  stroke-width: 3;
}
.planned {
  stroke: #fdf8ec;
  stroke-width: 1.4;
  stroke-dasharray: 5 5;
}
.chosen {
  fill: none;
  stroke: var(--vermilion);
  stroke-width: 1.4;
  vector-effect: non-scaling-stroke;
}
.leg.selected .planned {
  stroke: #ff8a70;
  stroke-width: 2.4;
  stroke-dasharray: none;
}
.other .planned {
  stroke-dasharray: 2 6;
  opacity: 0.75;
}
.hit {
  stroke: transparent;
  stroke-width: 16;
  pointer-events: stroke;
  cursor: pointer;
}
:deep(.handle) {
  pointer-events: auto;
  cursor: move;
}
.placing :deep(.grip),
.placing :deep(.pull),
.placing .hit,
.placing :deep(.handle) {
  pointer-events: none;
}
.grab {
  fill: transparent;
}
.bend path {
  fill: #fdf8ec;
  stroke: #14233a;
  stroke-width: 1.5;
}
.bend.selected path {
  fill: #ff8a70;
}
.ring-under {
  fill: rgba(253, 248, 236, 0.25);
  stroke: #14233a;
  stroke-width: 4.4;
}
.ring {
  fill: none;
  stroke: #fdf8ec;
  stroke-width: 2.4;
}
.stop.selected .ring {
  stroke: #ff8a70;
}
.handle:hover .ring,
.handle:hover path,
.handle:hover rect {
  stroke-width: 3.4;
}
.stop:focus,
.stop:focus-visible {
  outline: none;
}
.stop:focus-visible .grab {
  stroke: #ff8a70;
  stroke-width: 2;
}
</style>
