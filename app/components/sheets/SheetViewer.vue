<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, onMounted, shallowRef, useTemplateRef, watch } from 'vue'
import type { View } from '#core/camera/view'
import { withPointAt, zoomedAbout } from '#core/camera/projection'
import type { Frame } from '#core/frame/frame'
import type { Point } from '#core/geometry/point'
import type { Sheet } from '#core/journey/schema'
import { groundSchema } from '#core/journey/schema'
import { fittingView } from '#core/sheet/framing'
import { AT_ORIGIN } from '#core/sheet/place'
import { createPainter } from '#draw/painter'
import type { StageSpace } from '~/components/stage/stage-space'
import { pointerOn, fromStage, stageSpace, toStage } from '~/components/stage/stage-space'
import { followPointer } from '~/composables/use-pointer-drag'
import { createBrowserStudio } from '~/services/browser-studio'

/** A viewer for a single map: drag to move, wheel to zoom, click to mark a spot. `spots` are shown with their numbers. */
const props = defineProps<{ sheet: Sheet; spots: readonly Point[]; label: string }>()
const emit = defineEmits<{ point: [spot: Point] }>()

const board = useTemplateRef<HTMLElement>('board')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const { width, height } = useElementSize(board)
const laid = computed<Sheet>(() => ({ ...props.sheet, place: AT_ORIGIN, crop: null, wash: null, opacity: 1 }))
const reference = computed(() => ({ width: Math.max(1, width.value), height: Math.max(1, height.value) }))
const moved = shallowRef<View>()
const view = computed(() => moved.value ?? fittingView(laid.value, reference.value))
const space = computed<StageSpace>(() => stageSpace(view.value, reference.value, 1))
const ground = groundSchema.parse({ colour: '#c9c0aa' })

const painter = createPainter(
  createBrowserStudio(() => {
    painter.invalidate()
    paint()
  }),
)

function paint() {
  const target = canvas.value
  if (!target || width.value === 0) return
  const scale = window.devicePixelRatio
  const size = { width: Math.round(reference.value.width * scale), height: Math.round(reference.value.height * scale) }
  if (target.width !== size.width || target.height !== size.height) {
    Object.assign(target, size)
    painter.invalidate()
  }
  const frame: Frame = {
    time: 0,
    size,
    scale,
    reference: reference.value,
    view: view.value,
    isMoving: false,
    sun: null,
    items: [
      { kind: 'ground', ground },
      { kind: 'sheet', sheet: laid.value, opacity: 1, edge: 'plain', panel: null },
    ],
    motions: [],
  }
  painter.paint(frame, target.getContext('2d')!, scale)
}
onMounted(paint)
watch([view, reference, laid], paint)

const placeOf = (event: MouseEvent): Point => pointerOn(board.value!, event)
function press(event: PointerEvent) {
  const [start, from] = [view.value, fromStage(space.value, placeOf(event))]
  followPointer(event, {
    move: (_by, now) => (moved.value = withPointAt(start, reference.value, from, placeOf(now))),
    end(dragged, release) {
      if (!dragged) emit('point', fromStage(space.value, placeOf(release)))
    },
  })
}
function turnWheel(event: WheelEvent) {
  event.preventDefault()
  moved.value = zoomedAbout(view.value, reference.value, placeOf(event), Math.exp(-event.deltaY * 0.0014))
}
useEventListener(board, 'wheel', turnWheel, { passive: false })
</script>

<template>
  <div ref="board" class="viewer" role="group" :aria-label="label" @pointerdown="press">
    <canvas ref="canvas" role="img" :aria-label="label" />
    <svg aria-hidden="true">
      <g v-for="(spot, i) in spots" :key="i" :transform="`translate(${toStage(space, spot).x} ${toStage(space, spot).y})`">
        <circle r="11" />
        <text>{{ i + 1 }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.viewer {
  position: relative;
  height: 260px;
  overflow: hidden;
  border: 1px solid var(--rule);
  cursor: crosshair;
  touch-action: none;
}
canvas,
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
svg {
  pointer-events: none;
}
circle {
  fill: #c23a27;
  stroke: #fdf8ec;
  stroke-width: 2;
}
text {
  fill: #fdf8ec;
  font-size: 13px;
  font-weight: 700;
  text-anchor: middle;
  dominant-baseline: central;
}
</style>
