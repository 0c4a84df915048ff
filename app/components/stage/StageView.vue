<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import { nanoid } from 'nanoid'
import { computed, ref, useTemplateRef } from 'vue'
import { zoomedAround } from '#core/camera/projection'
import type { View } from '#core/camera/view'
import { frameAt } from '#core/frame/frame-at'
import { nearestOnCourse, pointAt } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { distance, subtract } from '#core/geometry/point'
import type { LonLat } from '#core/geo/lon-lat'
import { routeView } from '#core/edits/journey'
import { goOnTo } from '#core/edits/trips/visits'
import type { Corner, Sheet } from '#core/journey/schema'
import { cropSheet, editSheet, straightenSheet } from '#core/edits/ground/sheets'
import { insertStop } from '#core/edits/trips/trips'
import { centreSharpness } from '#core/frame/centre-sharpness'
import { groundToSheet, placeByTwoPoints } from '#core/sheet/place'
import MatchPanel from '~/components/tracks/MatchPanel.vue'
import PlaceSearch from '~/components/places/PlaceSearch.vue'
import { followPointer } from '~/composables/use-pointer-drag'
import { useFirstLeg } from '~/composables/use-first-leg'
import { useKeyboardCursor } from '~/composables/use-keyboard-cursor'
import { useSnapping } from '~/composables/use-snapping'
import { useStagePicture } from '~/composables/use-stage-picture'
import { visibilityAt } from '#core/trips/span'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'
import { useTracks } from '~/stores/tracks'
import { useVersions } from '~/stores/versions'
import GuidesOverlay from '~/components/stage/GuidesOverlay.vue'
import DrawingOverlay from './DrawingOverlay.vue'
import KeyboardCursor from './KeyboardCursor.vue'
import CompareOverlay from './CompareOverlay.vue'
import ColourPicker from './ColourPicker.vue'
import FollowOverlay from './FollowOverlay.vue'
import SheetOverlay from './SheetOverlay.vue'
import StageOverlay from './StageOverlay.vue'
import type { StageSpace } from './stage-space'
import { pointerOn, fromStage, perPixel, stageSpace } from './stage-space'

const emit = defineEmits<{ painted: [] }>()

const editor = useEditor()
const playback = usePlayback()
const stage = useStage()
const tracks = useTracks()
const camera = useCamera()
const versions = useVersions()

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
const space = computed<StageSpace>(() => stageSpace(stage.view, stage.reference, size.value.width / stage.reference.width))

const { snap } = useSnapping(() => space.value)

const { isRough } = useStagePicture(
  canvas,
  () => editor.compiled,
  size,
  () => emit('painted'),
)

/** The corners of the lens in which titles or readouts are seen now. */
const taken = computed(() => {
  if (stage.mode === 'table') return new Set<Corner>()
  const seen = editor.compiled?.captions.filter(({ shown }) => visibilityAt(shown, playback.time) > 0) ?? []
  return new Set(seen.map(({ caption }) => caption.corner))
})

const placeOf = (event: { clientX: number; clientY: number }): Point => pointerOn(board.value!, event)

function press(event: PointerEvent) {
  if (stage.tool === 'straighten' || stage.tool === 'crop') return pressRubber(event, stage.tool)
  const turns = event.shiftKey
  let last = { x: 0, y: 0 }
  followPointer(event, {
    move(by, now) {
      const step = subtract(by, last)
      last = by
      if (turns) turnBy(step)
      else dragTo(subtract(placeOf(now), step), placeOf(now))
    },
    end(dragged, release) {
      editor.endGesture()
      if (!dragged) click(fromStage(space.value, placeOf(release)), release.ctrlKey)
    },
  })
}

/** Moves the ground along with the pointer, from one place of the stage to another. */
function dragTo(from: Point, to: Point) {
  const [a, b] = [fromStage(space.value, from), fromStage(space.value, to)]
  look((view) => ({ ...view, centre: { x: view.centre.x + a.x - b.x, y: view.centre.y + a.y - b.y } }), 'drag view')
}

/** Degrees for each CSS pixel of a drag that turns or tilts the view. */
const TURN = 0.35
/** Turns the view by dragging across, and tilts it by dragging up or down; the table stays as it is. */
function turnBy(step: Point) {
  if (stage.mode === 'table') return
  look((view) => ({ ...view, bearing: view.bearing - step.x * TURN, pitch: view.pitch - step.y * TURN }), 'turn view')
}

/** Handles a click on the ground, by the tool. */
function click(at: Point, ctrlKey: boolean) {
  const sheet = editor.selectedSheet
  if (stage.tool === 'stop') placeStop(at, undefined, !ctrlKey)
  else if (stage.tool === 'control-point' && sheet) stage.spot = groundToSheet(sheet.place, at)
  else if (stage.tool === 'align' && sheet) align(sheet, at)
  else if (stage.tool === 'match-track') tracks.match(at)
  else if (stage.legSpot) {
    stage.legSpot.use(at)
    stage.setTool('select')
  } else if (editor.selection.kind !== 'sheet') editor.select({ kind: 'journey' })
}

/** Aligns a sheet by two of its spots and their positions, clicked in turn; the fourth click places the sheet. */
function align(sheet: Sheet, at: Point) {
  const clicks = [...stage.alignment, at]
  if (clicks.length < 4) return void (stage.alignment = clicks)
  const [a, groundA, b, groundB] = clicks as [Point, Point, Point, Point]
  const own = (p: Point) => groundToSheet(sheet.place, p)
  editor.edit((journey) => editSheet(journey, sheet.id, { place: placeByTwoPoints(own(a), own(b), groundA, groundB) }))
  stage.setTool('select')
}

/** The line or rectangle being drawn to straighten or crop, in CSS pixels of the stage. */
const rubber = ref<{ from: Point; to: Point }>()
function pressRubber(event: PointerEvent, tool: 'straighten' | 'crop') {
  const sheet = editor.selectedSheet
  if (!sheet) return
  const from = placeOf(event)
  followPointer(event, {
    move: (_by, now) => (rubber.value = { from, to: placeOf(now) }),
    end(dragged, release) {
      rubber.value = undefined
      if (!dragged) return
      const [a, b] = [fromStage(space.value, from), fromStage(space.value, placeOf(release))]
      const done = editor.edit((journey) =>
        tool === 'crop' ? cropSheet(journey, sheet.id, [a, b]) : straightenSheet(journey, sheet.id, a, b),
      )
      if (done) stage.setTool('select')
    },
  })
}

/** A click on a course inserts a stop into that leg; anywhere else, or with Ctrl held, it extends the trip to a new stop or to the one there. */
function placeStop(at: Point, found?: LonLat & { name: string }, mayInsert = false) {
  const ids = { stop: nanoid(10), leg: nanoid(10) }
  const leg = mayInsert ? legAt(at) : undefined
  const met = mayInsert ? snap(at, { ctrlKey: false, shiftKey: false }).stop : undefined
  const to = met ? editor.journey!.stops.find((stop) => stop.id === met)!.at : at
  const traveller = editor.traveller!.id
  const dress = firstLeg.dressFor(editor.traveller!)
  const known = found && { name: found.name || undefined, place: found, found: found.name !== '' }
  const before = editor.journey
  const done = editor.edit((journey) =>
    leg ? insertStop(journey, leg, at, ids) : goOnTo(journey, to, ids, { ...known, traveller, dress }),
  )
  if (!done || editor.journey === before) return
  const { visits } = editor.traveller!
  const visit = leg ? visits.findIndex(({ stop }) => stop === ids.stop) : visits.length - 1
  editor.select({ kind: 'stop', id: visits[visit]!.stop, visit })
  // Do not ask for a name that is known.
  if (visits[visit]!.stop === ids.stop && !found?.name) void stage.askName(ids.stop)
}

/** The leg whose course is at a spot, away from its stops. */
function legAt(p: Point): string | undefined {
  const reach = 9 * perPixel(space.value, p)
  for (const { leg, course } of editor.itinerary?.legs ?? []) {
    const ends = [pointAt(course, 0), pointAt(course, course.length)]
    if (nearestOnCourse(course, p).distance < reach && ends.every((end) => distance(end, p) > 2 * reach)) return leg.id
  }
  return undefined
}

/** A place found by name becomes a stop at its spot on the map. */
function placeFound(place: LonLat & { name: string }) {
  const at = editor.geo?.toGround(place)
  const { sheet } = editor.geo ?? {}
  const spot = at && sheet && groundToSheet(sheet.place, at)
  if (!at || !spot || spot.x < 0 || spot.y < 0 || spot.x > sheet.width || spot.y > sheet.height) {
    editor.refusal = `${place.name || 'This place'} does not lie on “${sheet?.name}”.`
    return
  }
  placeStop(at, place)
  const { x, y } = camera.projection.toScreen(at)
  if (x >= 0 && y >= 0 && x <= stage.reference.width && y <= stage.reference.height) return
  editor.notice = {
    text: `${place.name || 'This stop'} lies outside the frame.`,
    action: { title: 'Fit the route into the frame', run: fit },
  }
}
const firstLeg = useFirstLeg()
const { cursor } = useKeyboardCursor(board, size)
const near = computed(() => editor.geo?.toLonLat(stage.view.centre))
const search = useTemplateRef<{ focus: () => void }>('search')
defineExpose({ findPlace: () => search.value?.focus() })

/** Below this one sees that the map is enlarged (by eye): as `SOFT` of the camera's checks. */
const SOFT = 0.8
/** The present sharpness at the middle of the frame. */
const sharpness = computed(() => (editor.compiled ? centreSharpness(frameAt(editor.compiled, playback.time)) : undefined))

function fit() {
  const view = routeView(editor.journey!)
  if (view) camera.show(view)
}

/** Changes the view of the table or, in the lens, that of the camera, which is an edit. */
function look(change: (view: View) => View, gesture: string) {
  if (stage.mode === 'table') stage.tableView = change(stage.view)
  else camera.look(change, gesture)
}

let wheelEnd: ReturnType<typeof setTimeout> | undefined
function turnWheel(event: WheelEvent) {
  event.preventDefault()
  const factor = Math.exp(-event.deltaY * (event.deltaMode === 1 ? 0.04 : 0.0014))
  const place = placeOf(event)
  const at = fromStage(space.value, place)
  look((view) => zoomedAround(view, at, factor), 'wheel')
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
      :class="[stage.mode, { placing: stage.tool !== 'select' }]"
      :style="{ width: `${size.width}px`, height: `${size.height}px` }"
      data-testid="stage"
      @pointerdown="press"
    >
      <canvas
        ref="canvas"
        data-testid="stage-canvas"
        :data-rough="isRough || undefined"
        role="img"
        aria-label="The journey at the play position"
      />
      <SheetOverlay v-if="!playback.playing && (editor.selection.kind === 'sheet' || rubber)" :space="space" :rubber="rubber" />
      <GuidesOverlay v-if="stage.mode === 'lens' && !versions.compared" :guides="stage.guides" :size="size" />
      <StageOverlay v-if="!playback.playing && !versions.compared" :space="space" :size="size" />
      <DrawingOverlay v-if="!playback.playing && (stage.tool === 'draw' || stage.tool === 'freehand')" :space="space" />
      <KeyboardCursor v-if="cursor && stage.tool !== 'select'" :at="cursor" />
      <MatchPanel v-if="stage.tool === 'match-track'" :space="space" />
      <FollowOverlay v-if="!playback.playing && stage.tool === 'follow'" :space="space" />
      <span class="which" :class="{ aside: taken.has('top-left') }" aria-live="polite">{{
        stage.mode === 'lens' ? 'Lens: what the film shows' : 'Table: the whole sheet'
      }}</span>
      <span
        v-if="sharpness !== undefined"
        class="sharpness figures"
        :class="{ soft: sharpness < SOFT, aside: taken.has('bottom-left') }"
        data-testid="stage-sharpness"
      >
        <template v-if="sharpness === Infinity">Sharp at any zoom</template>
        <template v-else
          >{{ sharpness < SOFT ? 'Soft: ' : sharpness < 1 ? '' : 'Sharp: ' }}{{ sharpness.toFixed(2) }} map px per film px</template
        >
      </span>
      <div v-if="editor.geo && stage.tool === 'stop'" class="find" @pointerdown.stop @wheel.stop>
        <PlaceSearch ref="search" label="Find a place" :near="near" @choose="placeFound" />
      </div>
      <CompareOverlay v-if="versions.compared && stage.mode === 'lens'" :room="size" />
      <ColourPicker v-if="stage.picking" :canvas="canvas" />
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
  /* A double click on a line selects none of the words that lie over the map. */
  user-select: none;
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
.sharpness {
  position: absolute;
  left: 10px;
  bottom: 10px;
  padding: 1px 10px 2px;
  border-radius: 3px;
  background: rgba(13, 21, 34, 0.72);
  color: #fdf8ec;
  font-size: 12px;
  pointer-events: none;
}
.soft {
  background: #8a3b12;
}
/* Gives way to what the film shows in that corner. */
.aside {
  left: auto;
  right: 10px;
}
.find {
  position: absolute;
  top: 10px;
  right: 10px;
  width: 280px;
  border-radius: 4px;
  background: var(--surface);
  cursor: auto;
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
.invitation > :deep(.card) {
  display: grid;
  gap: 12px;
  justify-items: start;
  max-width: 400px;
  padding: 22px 26px;
  border-radius: 6px;
  background: var(--surface);
  box-shadow: 0 8px 30px rgba(13, 21, 34, 0.3);
}
</style>
