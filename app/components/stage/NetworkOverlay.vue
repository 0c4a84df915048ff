<script setup lang="ts">
import { computed } from 'vue'
import type { Course } from '#core/geometry/course'
import { nearestOnCourse, polylineCourse } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { readPoints } from '#core/journey/track-line'
import { editLeg } from '#core/edits/lines/legs'
import type { Leg, NetworkCourse } from '#core/journey/schema'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import type { StageSpace } from './stage-space'
import { pointerOn, fromStage, tiltedCourse, toStage } from './stage-space'

/** The lines of the selected leg's network, and the spots that it goes by way of. Dragging the line adds a spot. */
const props = defineProps<{ space: StageSpace; leg: Leg; shape: NetworkCourse; course: Course; transform: string; path: string }>()
const editor = useEditor()

const lines = computed(() =>
  editor.journey!.networks.filter(({ mode }) => mode === props.shape.mode).flatMap((network) => network.lines.map((line) => line.points)),
)
const courses = computed(() => lines.value.map((points) => polylineCourse(Float64Array.from(readPoints(points)))))
const isFlat = computed(() => props.space.projection.isFlat)

const groundOf = (event: PointerEvent, board: Element): Point => fromStage(props.space, pointerOn(board, event))
const setVias = (vias: Point[], gesture?: string) =>
  editor.edit((journey) => editLeg(journey, props.leg.id, { course: { ...props.shape, vias } }), gesture)

/** Drags one of the spots; `vias` are the spots at the start of the drag, with the dragged one. */
function drag(event: PointerEvent, vias: readonly Point[], i: number, click?: () => void) {
  event.stopPropagation()
  const board = (event.currentTarget as SVGElement).ownerSVGElement!
  followPointer(event, {
    move: (_by, now) =>
      setVias(
        vias.map((via, k) => (k === i ? groundOf(now, board) : via)),
        `via ${props.leg.id}`,
      ),
    end(dragged) {
      editor.endGesture()
      if (!dragged) click?.()
    },
  })
}

function pressLine(event: PointerEvent) {
  const p = groundOf(event, (event.currentTarget as SVGElement).ownerSVGElement!)
  const along = (q: Point) => nearestOnCourse(props.course, q).s
  const i = props.shape.vias.filter((via) => along(via) < along(p)).length
  drag(event, [...props.shape.vias.slice(0, i), p, ...props.shape.vias.slice(i)], i)
}
const pressVia = (event: PointerEvent, i: number) =>
  drag(event, props.shape.vias, i, () => setVias(props.shape.vias.filter((_, k) => k !== i)))
</script>

<template>
  <g :transform="transform">
    <template v-if="isFlat"><polyline v-for="(points, i) in lines" :key="i" class="network" :points="points" /></template>
    <template v-else><path v-for="(line, i) in courses" :key="i" class="network" :d="tiltedCourse(space, line, 0)" /></template>
    <path class="pull" :d="path" data-testid="network-line" @pointerdown="pressLine" />
  </g>
  <g
    v-for="(via, i) in shape.vias"
    :key="i"
    class="grip"
    :transform="`translate(${toStage(space, via).x} ${toStage(space, via).y})`"
    data-testid="network-via"
    @pointerdown="pressVia($event, i)"
  >
    <title>Drag to move, click to remove</title>
    <circle class="grab" r="12" />
    <circle class="via" r="5.5" />
  </g>
</template>

<style scoped>
.network {
  fill: none;
  stroke: #7fd3d8;
  stroke-width: 1.6;
  vector-effect: non-scaling-stroke;
}
.pull {
  fill: none;
  stroke: transparent;
  stroke-width: 16;
  vector-effect: non-scaling-stroke;
  pointer-events: stroke;
  cursor: move;
}
.grip {
  pointer-events: auto;
  cursor: move;
}
.grab {
  fill: transparent;
}
.via {
  fill: #7fd3d8;
  stroke: #14233a;
  stroke-width: 1.8;
}
</style>
