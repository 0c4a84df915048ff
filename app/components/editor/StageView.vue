<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import { nanoid } from 'nanoid'
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue'
import { zoomedAbout } from '#core/camera/view'
import type { View } from '#core/camera/view'
import { frameAt, onTable } from '#core/frame/frame-at'
import type { Point } from '#core/geometry/point'
import { addStop, setCamera } from '#core/journey/edits'
import { createPainter } from '#draw/painter'
import { followPointer } from '~/composables/use-pointer-drag'
import { createBrowserStudio } from '~/services/browser-studio'
import { loadFrameFonts } from '~/services/frame-fonts'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'
import StageOverlay from './StageOverlay.vue'
import type { StageSpace } from './stage-space'
import { fromStage } from './stage-space'

const editor = useEditor()
const playback = usePlayback()
const stage = useStage()

const room = useTemplateRef<HTMLElement>('room')
const board = useTemplateRef<HTMLElement>('board')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const { width: roomWidth, height: roomHeight } = useElementSize(room)

/** The largest board of the frame's shape that fits the room, in whole CSS pixels. */
const size = computed(() => {
  const { width, height } = stage.reference
  const k = Math.min(roomWidth.value / width, roomHeight.value / height)
  return { width: Math.max(1, Math.round(width * k)), height: Math.max(1, Math.round(height * k)) }
})
const space = computed<StageSpace>(() => ({
  view: stage.view,
  reference: stage.reference,
  scale: size.value.width / stage.reference.width,
}))

const ready = ref(false)
let dirty = false
const { studio, wantSheet } = createBrowserStudio(() => {
  painter.invalidate()
  repaint()
})
const painter = createPainter(studio)

/** Paints once before the next screen refresh, however often it is asked to. */
function repaint() {
  if (dirty) return
  dirty = true
  requestAnimationFrame(() => {
    dirty = false
    paint()
  })
}

function paint() {
  const target = canvas.value
  const { compiled } = editor
  if (!target || !compiled || !ready.value) return
  const density = window.devicePixelRatio
  const width = Math.round(size.value.width * density)
  const scale = width / stage.reference.width
  const height = Math.round(stage.reference.height * scale)
  if (target.width !== width || target.height !== height) {
    Object.assign(target, { width, height })
    painter.invalidate()
  }
  for (const sheet of compiled.journey.sheets) wantSheet(sheet.image, sheet, 1 / (stage.view.zoom * scale))
  const frame = frameAt(compiled, playback.time)
  painter.paint(stage.mode === 'table' ? onTable(frame, stage.view) : frame, target.getContext('2d')!, scale)
}

onMounted(async () => {
  await loadFrameFonts()
  ready.value = true
})
watch([() => editor.compiled, () => playback.time, () => stage.view, size, ready], repaint)

const placeOf = (event: { clientX: number; clientY: number }): Point => {
  const box = board.value!.getBoundingClientRect()
  return { x: event.clientX - box.left, y: event.clientY - box.top }
}

function press(event: PointerEvent) {
  const start = stage.view
  const { scale } = space.value
  followPointer(event, {
    move(by) {
      const centre = { x: start.centre.x - by.x / (scale * start.zoom), y: start.centre.y - by.y / (scale * start.zoom) }
      look({ ...start, centre }, 'drag view')
    },
    end(dragged, release) {
      editor.endGesture()
      if (dragged) return
      if (stage.tool === 'stop') placeStop(fromStage(space.value, placeOf(release)))
      else editor.select({ kind: 'journey' })
    },
  })
}

function placeStop(at: Point) {
  const ids = { stop: nanoid(10), leg: nanoid(10) }
  if (editor.edit((journey) => addStop(journey, at, ids))) editor.select({ kind: 'stop', id: ids.stop })
}

/** Moves the table, or through the lens the camera itself; the latter is an edit. */
function look(view: View, gesture: string) {
  if (stage.mode === 'table') stage.tableView = view
  else editor.edit((journey) => setCamera(journey, view), gesture)
}

let wheelEnd: ReturnType<typeof setTimeout> | undefined
function turnWheel(event: WheelEvent) {
  event.preventDefault()
  const factor = Math.exp(-event.deltaY * (event.deltaMode === 1 ? 0.04 : 0.0014))
  const place = placeOf(event)
  const { scale } = space.value
  look(zoomedAbout(stage.view, stage.reference, { x: place.x / scale, y: place.y / scale }, factor), 'wheel')
  clearTimeout(wheelEnd)
  wheelEnd = setTimeout(() => editor.endGesture(), 500)
}
useEventListener(board, 'wheel', turnWheel, { passive: false })
</script>

<template>
  <section ref="room" class="room" aria-label="Stage">
    <div
      ref="board"
      class="board"
      :class="[stage.mode, { placing: stage.tool === 'stop' }]"
      :style="{ width: `${size.width}px`, height: `${size.height}px` }"
      data-testid="stage"
      @pointerdown="press"
    >
      <canvas ref="canvas" data-testid="stage-canvas" role="img" aria-label="The journey at the present moment" />
      <StageOverlay v-if="!playback.playing" :space="space" :size="size" />
      <span class="which" aria-live="polite">{{ stage.mode === 'lens' ? 'Lens: what the film shows' : 'Table: the whole sheet' }}</span>
      <div v-if="$slots.default" class="invitation"><slot /></div>
    </div>
  </section>
</template>

<style scoped>
.room {
  position: relative;
  display: grid;
  place-items: center;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  background: color-mix(in srgb, var(--paper) 86%, #000);
}
.board {
  position: relative;
  overflow: hidden;
  cursor: grab;
  touch-action: none;
}
.board:active {
  cursor: grabbing;
}
.board.placing {
  cursor: crosshair;
}
canvas {
  display: block;
  width: 100%;
  height: 100%;
}
.table {
  outline: 2px dashed var(--sea);
  outline-offset: -2px;
}
.which {
  position: absolute;
  left: 10px;
  top: 10px;
  padding: 1px 10px 2px;
  border-radius: 3px;
  background: rgba(13, 21, 34, 0.72);
  color: #fdf8ec;
  font-size: 12px;
  pointer-events: none;
}
.table .which {
  background: #17646b;
}
.invitation {
  position: absolute;
  inset: 0;
  display: grid;
  place-items: center;
  pointer-events: none;
}
.invitation > :deep(*) {
  pointer-events: auto;
}
</style>
