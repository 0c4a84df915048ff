<script setup lang="ts">
import { computed } from 'vue'
import { frameCorners } from '#core/camera/projection'
import { viewAt } from '#core/camera/view-track'
import type { Point } from '#core/geometry/point'
import type { StageSpace } from '~/components/stage/stage-space'
import { draggedBy, placeOnStage, toStage } from '~/components/stage/stage-space'
import { followPointer } from '~/composables/use-pointer-drag'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'

/** The camera on the table: what it sees now, which can be dragged, the way of its middle, and on that a dot for each second, so that one sees how fast it is. */
const props = defineProps<{ space: StageSpace; size: { width: number; height: number } }>()
const editor = useEditor()
const camera = useCamera()
const playback = usePlayback()
const stage = useStage()

/** The frame on the ground; nothing where the camera shows the globe, of which one sees half at the most. */
const outline = computed(() => {
  if (camera.projection.bent) return ''
  return `M${frameCorners(camera.projection)
    .map((corner) => placeOnStage(props.space, corner))
    .join('L')}Z`
})

/** So many points make the way smooth at any length of film. */
const POINTS = 400
const middles = computed<Point[]>(() => {
  const { compiled } = editor
  if (!compiled || compiled.shots.length === 0) return []
  return Array.from({ length: POINTS + 1 }, (_, i) => viewAt(compiled, (compiled.lastTime * i) / POINTS).centre)
})
const way = computed(() => (middles.value.length > 0 ? `M${middles.value.map((p) => placeOnStage(props.space, p)).join('L')}` : ''))
/** Seconds, or more where they are too many to be told apart. */
const dots = computed<Point[]>(() => {
  const { compiled } = editor
  if (!compiled || compiled.shots.length === 0) return []
  const step = Math.ceil(compiled.lastTime / 120)
  return Array.from({ length: Math.floor(compiled.lastTime / step) + 1 }, (_, i) => toStage(props.space, viewAt(compiled, i * step).centre))
})
const middle = computed(() => toStage(props.space, camera.view.centre))

const moveTo = (centre: Point, gesture: string) => camera.look((view) => ({ ...view, centre }), gesture)
function press(event: PointerEvent) {
  event.stopPropagation()
  const { space } = props
  const from = camera.view.centre
  followPointer(event, { move: (by) => moveTo(draggedBy(space, from, by), 'drag frame'), end: () => editor.endGesture() })
}
const ARROWS: Readonly<Record<string, Point>> = { ArrowLeft: { x: -1, y: 0 }, ArrowRight: { x: 1, y: 0 }, ArrowUp: { x: 0, y: -1 }, ArrowDown: { x: 0, y: 1 } } // prettier-ignore
function key(event: KeyboardEvent) {
  const arrow = ARROWS[event.key]
  if (!arrow) return
  event.preventDefault()
  event.stopPropagation()
  const by = event.shiftKey ? 10 : 1
  moveTo(draggedBy(props.space, camera.view.centre, { x: arrow.x * by, y: arrow.y * by }), 'nudge frame')
}
</script>

<template>
  <g class="camera-overlay">
    <path
      v-if="outline !== '' && !stage.isLaying"
      class="beyond"
      fill-rule="evenodd"
      :d="`M0 0H${size.width}V${size.height}H0Z${outline}`"
    />
    <path class="edge" :d="outline" />
    <template v-if="!playback.playing && !stage.isLaying">
      <path v-if="way !== ''" class="way" :d="way" data-testid="camera-way" />
      <circle v-for="(dot, i) in dots" :key="i" class="dot" :cx="dot.x" :cy="dot.y" r="2.2" />
      <g
        class="handle middle"
        role="button"
        tabindex="0"
        aria-label="What the camera sees: drag it, or move it with the arrow keys"
        data-testid="frame-handle"
        :transform="`translate(${middle.x} ${middle.y})`"
        @pointerdown="press"
        @keydown="key"
      >
        <title>What the camera sees: drag to move it</title>
        <circle class="grab" r="14" />
        <path d="M-9 0h18M0 -9v18M-9 0l3 -3M-9 0l3 3M9 0l-3 -3M9 0l-3 3M0 -9l-3 3M0 -9l3 3M0 9l-3 -3M0 9l3 -3" />
      </g>
    </template>
  </g>
</template>

<style scoped>
.beyond {
  fill: rgba(13, 21, 34, 0.38);
}
.edge {
  fill: none;
  stroke: #fdf8ec;
  stroke-width: 1.5;
}
.way {
  fill: none;
  stroke: #8fe0e6;
  stroke-width: 1.6;
  stroke-dasharray: 1 3;
  stroke-linecap: round;
}
.dot {
  fill: #8fe0e6;
  stroke: #14233a;
  stroke-width: 0.8;
}
.middle .grab {
  fill: rgba(20, 35, 58, 0.72);
}
.middle path {
  fill: none;
  stroke: #8fe0e6;
  stroke-width: 1.6;
}
.middle:focus {
  outline: none;
}
.middle:focus-visible .grab,
.middle:hover .grab {
  stroke: #8fe0e6;
  stroke-width: 2;
}
</style>
