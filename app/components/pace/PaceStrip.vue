<script setup lang="ts">
import { clamp } from '#core/geometry/clamp'
import { mdiMagnifyMinusOutline, mdiMagnifyPlusOutline } from '@mdi/js'
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { CompiledVisit } from '#core/frame/compile'
import { nameOfStop } from '#core/journey/lookup'
import { setArrival, setDeparture } from '#core/edits/pace'
import VehiclePicture from '~/components/fields/VehiclePicture.vue'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'
import { namesOnStrip } from './strip-names'
import PaceBead from './PaceBead.vue'
import PaceHandle from './PaceHandle.vue'
import PaceRibbon from './PaceRibbon.vue'
import PaceView from './PaceView.vue'

/** Itinerary and timeline in one: stops as beads, legs as ribbons as long as they take, and the vehicle riding along. */
const editor = useEditor()
const stage = useStage()
const playback = usePlayback()

const scroller = useTemplateRef<HTMLElement>('scroller')
const { width: shownWidth, height: shownHeight } = useElementSize(scroller)
/** The strip is designed 132 high, and scaled up if it has more room. */
const HEIGHT = 132
const size = computed(() => Math.max(1, (shownHeight.value - 2) / HEIGHT))
const room = computed(() => shownWidth.value / size.value)
const MARGIN = 22
/** 1 shows the whole film. */
const zoom = ref(1)
const MOST_ZOOM = 20

const seconds = computed(() => editor.journey!.seconds)
const perSecond = computed(() => (Math.max(200, room.value - 2 * MARGIN) / seconds.value) * zoom.value)
const x = (time: number) => MARGIN + time * perSecond.value
const innerWidth = computed(() => x(seconds.value) + MARGIN)

const visits = computed(() => editor.itinerary?.visits ?? [])
const legs = computed(() => editor.itinerary?.legs ?? [])
const lengths = computed(() => legs.value.map(({ course }) => course.length))
const selectedId = computed(() => ('id' in editor.selection ? editor.selection.id : undefined))
/** Parts of the strip are only drawn anew when what they show has changed: times are whole frames, and rarely change while a stop is dragged. */
const isSelected = (visit: CompiledVisit, i: number) => visit.stop.id === selectedId.value && (editor.selectedVisit ?? i) === i
const pen = document.createElement('canvas').getContext('2d')!
pen.font = '700 14px Alegreya, serif'
const measure = (text: string) => pen.measureText(text).width
/** The box of each name; undefined if there is no room, so that the name only shows on hover. */
const nameBoxes = computed(() => namesOnStrip(visits.value, x, innerWidth.value, measure))

/** Ticks that leave room for their figures, at 1, 2, 5, 10, ... seconds. */
const ticks = computed(() => {
  const step = [0.5, 1, 2, 5, 10, 20, 30, 60, 120].find((s) => s * perSecond.value >= 52) ?? 300
  return Array.from({ length: Math.floor(seconds.value / step + 1e-9) + 1 }, (_, i) => i * step)
})

/** The vehicle at the play position: the one on the stage, or the next one. */
const rider = computed(() => {
  const leg = legs.value.find(({ arrive }) => playback.time < arrive) ?? legs.value.at(-1)
  return (leg?.rides.findLast(({ at }) => at <= playback.time) ?? leg?.rides[0])?.choice ?? undefined
})

const timeOf = (event: PointerEvent) => {
  const box = scroller.value!
  return ((event.clientX - box.getBoundingClientRect().left + box.scrollLeft) / size.value - MARGIN) / perSecond.value
}
function scrub(event: PointerEvent) {
  playback.playing = false
  playback.goToTime(timeOf(event))
  followPointer(event, { move: (_by, moved) => playback.goToTime(timeOf(moved)) })
}

const arriveAt = (leg: number, time: number, gesture: string) =>
  editor.edit((journey) => setArrival(journey, leg, time, lengths.value, editor.traveller!.id), gesture)
const leaveAt = (visit: number, time: number, gesture: string) =>
  editor.edit((journey) => setDeparture(journey, visit, time, lengths.value, editor.traveller!.id), gesture)

function zoomBy(factor: number) {
  zoom.value = clamp(zoom.value * factor, 1, MOST_ZOOM)
  void nextTick(() => {
    if (scroller.value) scroller.value.scrollLeft = (x(playback.time) - room.value / 2) * size.value
  })
}
function wheel(event: WheelEvent) {
  if (!event.ctrlKey && !event.metaKey) return
  event.preventDefault()
  zoomBy(Math.exp(-event.deltaY * 0.002))
}

/** Keeps the play position in sight. */
watch(
  () => playback.time,
  (time) => {
    const box = scroller.value
    if (!box || zoom.value === 1) return
    const left = box.scrollLeft / size.value
    if (x(time) < left + 30 || x(time) > left + room.value - 30) box.scrollLeft = (x(time) - 60) * size.value
  },
)
</script>

<template>
  <section class="strip" aria-label="Pace strip">
    <div ref="scroller" class="scroller" data-testid="pace-strip" @wheel="wheel">
      <svg :width="innerWidth * size" :height="HEIGHT * size" :viewBox="`0 0 ${innerWidth} ${HEIGHT}`" @pointerdown="scrub">
        <g class="ruler figures">
          <rect x="0" y="0" :width="innerWidth" height="24" />
          <g v-for="tick in ticks" :key="tick" :transform="`translate(${x(tick)} 0)`">
            <line y1="16" y2="24" />
            <text y="13">{{ Number.isInteger(tick) ? tick : tick.toFixed(1) }} s</text>
          </g>
        </g>
        <line v-if="visits.length > 0" class="ground" :x1="x(0)" :x2="x(seconds)" y1="76" y2="76" />

        <template v-if="visits.length > 0">
          <PaceView
            :number="0"
            :x="x"
            :per-second="perSecond * size"
            :selected="editor.selection.kind === 'view' && editor.selection.id === undefined"
            @select="editor.select({ kind: 'view' })"
          />
          <PaceView
            v-for="(move, i) in editor.compiled!.views.moves"
            :key="move.id"
            :move="move"
            :number="i + 1"
            :x="x"
            :per-second="perSecond * size"
            :selected="editor.selection.kind === 'view' && move.id === selectedId"
            @select="editor.select({ kind: 'view', id: move.id })"
          />
        </template>

        <PaceRibbon
          v-for="(leg, i) in legs"
          :key="leg.leg.id"
          v-memo="[leg.leg, leg.depart, leg.arrive, perSecond, leg.leg.id === selectedId]"
          :leg="leg"
          :number="i + 1"
          :x="x"
          :selected="leg.leg.id === selectedId"
          @select="editor.select({ kind: 'leg', id: leg.leg.id })"
        />
        <PaceBead
          v-for="(visit, i) in visits"
          :key="`${visit.stop.id} ${i}`"
          v-memo="[visit.stop, visit.arrive, visit.leave, perSecond, nameBoxes[i]?.left, nameBoxes[i]?.text, isSelected(visit, i)]"
          :visit="visit"
          :x="x"
          :name-box="nameBoxes[i]"
          :selected="isSelected(visit, i)"
          @select="editor.select({ kind: 'stop', id: visit.stop.id, visit: i })"
          @rename="stage.askName(visit.stop.id)"
        />

        <PaceHandle
          v-for="(leg, i) in legs"
          :key="`end of ${leg.leg.id}`"
          v-memo="[leg.depart, leg.arrive, perSecond, size]"
          :label="`Travel time of leg ${i + 1}`"
          title="Drag to change how long this leg takes"
          :seconds="leg.arrive - leg.depart"
          :end="leg.arrive"
          :per-second="perSecond * size"
          :data-testid="`ribbon-end-${i}`"
          @change="(end, gesture) => arriveAt(i, end, gesture)"
        >
          <rect class="grab" :x="x(leg.arrive) - 15" y="40" width="24" height="25" />
          <path :d="`M${x(leg.arrive) - 3} 46v14m-6-10l-4 4l4 4m12-8l4 4l-4 4`" />
        </PaceHandle>
        <PaceHandle
          v-for="(visit, i) in visits.slice(0, -1)"
          :key="`end of ${visit.stop.id} ${i}`"
          v-memo="[visit.stop, visit.arrive, visit.leave, perSecond, size]"
          :label="`Layover at ${nameOfStop(visit.stop)}`"
          title="Drag to change the layover"
          :seconds="visit.leave - visit.arrive"
          :end="visit.leave"
          :per-second="perSecond * size"
          :data-testid="`bead-edge-${i}`"
          @change="(end, gesture) => leaveAt(i, end, gesture)"
        >
          <rect class="grab" :x="x(visit.leave) - 9" y="66" width="24" height="24" />
          <path class="edge" :d="`M${x(visit.leave) + 3} 71v10`" />
        </PaceHandle>

        <g class="playhead" :transform="`translate(${x(playback.time)} 0)`">
          <line y1="14" y2="112" />
          <path d="M-6 14h12l-6 9Z" />
          <svg v-if="rider" x="-17" y="22" width="34" height="34"><VehiclePicture :vehicle="rider" /></svg>
        </g>
      </svg>
    </div>
    <div class="zoom">
      <v-btn :icon="mdiMagnifyPlusOutline" size="x-small" variant="text" aria-label="Zoom in" @click="zoomBy(1.5)" />
      <v-btn
        :icon="mdiMagnifyMinusOutline"
        size="x-small"
        variant="text"
        aria-label="Zoom out"
        :disabled="zoom === 1"
        @click="zoomBy(1 / 1.5)"
      />
    </div>
    <p v-if="visits.length === 0" class="empty">Stops appear here as beads, legs as ribbons as long as the travel takes.</p>
  </section>
</template>

<style scoped>
.strip {
  position: relative;
  background: var(--surface);
  min-height: 0;
}
.scroller {
  overflow: auto hidden;
  height: 100%;
  margin-right: 36px;
}
svg {
  display: block;
  user-select: none;
  touch-action: none;
}
.ruler rect {
  fill: color-mix(in srgb, var(--brass) 9%, transparent);
  cursor: col-resize;
}
.ruler line {
  stroke: var(--brass);
}
.ruler text {
  fill: var(--brass);
  font-size: 11px;
  text-anchor: middle;
}
.ground {
  stroke: var(--rule);
  stroke-width: 2;
}
.playhead {
  pointer-events: none;
}
.playhead line {
  stroke: var(--brass);
  stroke-width: 1.5;
}
.playhead path {
  fill: var(--brass);
}
.zoom {
  position: absolute;
  right: 4px;
  top: 20px;
  display: grid;
}
.empty {
  position: absolute;
  inset: 60px 40px auto;
  text-align: center;
  color: var(--quiet);
  pointer-events: none;
}
</style>
