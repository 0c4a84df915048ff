<script setup lang="ts">
import { mdiMagnifyMinusOutline, mdiMagnifyPlusOutline } from '@mdi/js'
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { CompiledLeg } from '#core/frame/compile'
import { dragLayover, dragTravel } from '#core/journey/edits'
import { frameTime } from '#core/pace/rate'
import ArtworkPicture from '~/components/fields/ArtworkPicture.vue'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'

/** The itinerary and the timeline in one: stops as beads, legs as ribbons as long as they take, and the vehicle riding along. */
const editor = useEditor()
const playback = usePlayback()

const scroller = useTemplateRef<HTMLElement>('scroller')
const { width: room } = useElementSize(scroller)
const MARGIN = 22
const zoom = ref(1)

const seconds = computed(() => editor.journey!.seconds)
const perSecond = computed(() => (Math.max(200, room.value - 2 * MARGIN) / seconds.value) * zoom.value)
const x = (time: number) => MARGIN + time * perSecond.value
const innerWidth = computed(() => x(seconds.value) + MARGIN)

const visits = computed(() => editor.itinerary?.visits ?? [])
const legs = computed(() => editor.itinerary?.legs ?? [])
const travelTimes = computed(() => legs.value.map((leg) => leg.arrive - leg.depart))
const selectedId = computed(() => ('id' in editor.selection ? editor.selection.id : undefined))

/** Ticks that leave room for their figures, at 1, 2, 5, 10, ... seconds. */
const ticks = computed(() => {
  const step = [0.5, 1, 2, 5, 10, 20, 30, 60, 120].find((s) => s * perSecond.value >= 52) ?? 300
  return Array.from({ length: Math.floor(seconds.value / step + 1e-9) + 1 }, (_, i) => i * step)
})

/** The vehicle that rides the play position: the one on the stage, or the next one. */
const rider = computed(() => {
  const t = playback.time
  const leg = legs.value.find((l) => t < l.arrive) ?? legs.value.at(-1)
  return leg?.leg.vehicle ?? undefined
})

const frameStep = computed(() => frameTime(1, playback.rate))
const snapped = (time: number) => Math.round(time / frameStep.value) * frameStep.value
const timeOf = (event: PointerEvent) =>
  (event.clientX - scroller.value!.getBoundingClientRect().left + scroller.value!.scrollLeft - MARGIN) / perSecond.value

function scrub(event: PointerEvent) {
  playback.playing = false
  playback.goToTime(timeOf(event))
  followPointer(event, { move: (_by, moved) => playback.goToTime(timeOf(moved)) })
}

function setTravel(leg: number, travel: number, gesture: string) {
  const times = travelTimes.value
  editor.edit((journey) => dragTravel(journey, leg, Math.max(0.1, round(travel)), times), gesture)
}
function setLayover(visit: number, layover: number, gesture: string) {
  const times = travelTimes.value
  editor.edit((journey) => dragLayover(journey, visit, Math.max(0, round(layover)), times), gesture)
}
/** Times are kept to a tenth of a millisecond, so that a snapped time is still the frame's. */
const round = (value: number) => Math.round(value * 1e4) / 1e4

function dragRibbon(event: PointerEvent, i: number) {
  const from = travelTimes.value[i]!
  followPointer(event, {
    move: (by) => setTravel(i, snapped(from + by.x / perSecond.value), `ribbon ${i}`),
    end: () => editor.endGesture(),
  })
}
function dragBead(event: PointerEvent, i: number) {
  const { arrive, leave } = visits.value[i]!
  followPointer(event, {
    move: (by) => setLayover(i, snapped(leave - arrive + by.x / perSecond.value), `bead ${i}`),
    end: () => editor.endGesture(),
  })
}
const keySteps = (event: KeyboardEvent): number => {
  const direction = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
  if (direction !== 0) {
    event.preventDefault()
    event.stopPropagation()
  }
  return direction * (event.shiftKey ? 10 : 1) * frameStep.value
}
function nudgeRibbon(event: KeyboardEvent, i: number) {
  const by = keySteps(event)
  if (by) setTravel(i, snapped(travelTimes.value[i]! + by), `ribbon keys ${i}`)
}
function nudgeBead(event: KeyboardEvent, i: number) {
  const by = keySteps(event)
  const { arrive, leave } = visits.value[i]!
  if (by) setLayover(i, snapped(leave - arrive + by), `bead keys ${i}`)
}

function zoomBy(factor: number) {
  const middle = playback.time
  zoom.value = Math.min(20, Math.max(1, zoom.value * factor))
  void nextTick(() => {
    if (scroller.value) scroller.value.scrollLeft = x(middle) - room.value / 2
  })
}
function wheel(event: WheelEvent) {
  if (!event.ctrlKey && !event.metaKey) return
  event.preventDefault()
  zoomBy(Math.exp(-event.deltaY * 0.002))
}

watch(
  () => playback.time,
  (time) => {
    const box = scroller.value
    if (!box || zoom.value === 1) return
    if (x(time) < box.scrollLeft + 30 || x(time) > box.scrollLeft + room.value - 30) box.scrollLeft = x(time) - 60
  },
)

const strokeWidth = ({ leg }: CompiledLeg): number => Math.min(12, 3 + leg.ink.width / 2)
function dashes(leg: CompiledLeg): string | undefined {
  const { line } = leg.leg.ink
  if (line === 'solid') return undefined
  return line === 'dashed' ? '14 8' : `0.1 ${strokeWidth(leg) + 6}`
}
</script>

<template>
  <section class="strip" aria-label="Pace strip">
    <div ref="scroller" class="scroller" data-testid="pace-strip" @wheel="wheel">
      <svg :width="innerWidth" height="132" @pointerdown="scrub">
        <g class="ruler figures">
          <rect x="0" y="0" :width="innerWidth" height="24" />
          <g v-for="tick in ticks" :key="tick" :transform="`translate(${x(tick)} 0)`">
            <line y1="16" y2="24" />
            <text y="13">{{ Number.isInteger(tick) ? tick : tick.toFixed(1) }} s</text>
          </g>
        </g>
        <line class="ground" :x1="x(0)" :x2="x(seconds)" y1="76" y2="76" />

        <g v-for="(leg, i) in legs" :key="leg.leg.id" class="ribbon" :class="{ selected: leg.leg.id === selectedId }">
          <rect class="band" :x="x(leg.depart)" y="58" :width="Math.max(0, x(leg.arrive) - x(leg.depart))" height="36" rx="3" />
          <line
            class="edge"
            :x1="x(leg.depart) + 5"
            :x2="Math.max(x(leg.depart) + 5, x(leg.arrive) - 5)"
            y1="76"
            y2="76"
            :stroke-width="strokeWidth(leg) + 4"
          />
          <line
            class="stroke"
            :x1="x(leg.depart) + 6"
            :x2="Math.max(x(leg.depart) + 6, x(leg.arrive) - 6)"
            y1="76"
            y2="76"
            :stroke="leg.leg.ink.colour"
            :stroke-width="strokeWidth(leg)"
            :stroke-dasharray="dashes(leg)"
            :stroke-linecap="leg.leg.ink.line === 'dotted' ? 'round' : 'butt'"
          />
          <rect
            class="hit"
            :x="x(leg.depart)"
            y="58"
            :width="Math.max(0, x(leg.arrive) - x(leg.depart))"
            height="36"
            role="button"
            tabindex="0"
            :aria-label="`Leg ${i + 1}, ${travelTimes[i]!.toFixed(2)} seconds${leg.leg.travel === null ? ', shared out' : ', set'}`"
            @pointerdown.stop="editor.select({ kind: 'leg', id: leg.leg.id })"
            @keydown.enter="editor.select({ kind: 'leg', id: leg.leg.id })"
          />
          <text v-if="x(leg.arrive) - x(leg.depart) > 60" class="time figures" :x="(x(leg.depart) + x(leg.arrive)) / 2" y="108">
            {{ travelTimes[i]!.toFixed(2) }} s{{ leg.leg.travel === null ? '' : ' ·set' }}
          </text>
        </g>

        <g v-for="(visit, i) in visits" :key="visit.stop.id" class="bead" :class="{ selected: visit.stop.id === selectedId }">
          <rect
            class="body"
            :x="x(visit.arrive) - 7"
            y="65"
            :width="x(visit.leave) - x(visit.arrive) + 14"
            height="22"
            rx="11"
            :fill="visit.stop.pin.colour"
            role="button"
            tabindex="0"
            :aria-label="`Stop ${visit.stop.name}, layover ${(visit.leave - visit.arrive).toFixed(2)} seconds`"
            @pointerdown.stop="editor.select({ kind: 'stop', id: visit.stop.id })"
            @keydown.enter="editor.select({ kind: 'stop', id: visit.stop.id })"
          />
          <text
            class="name serif"
            :x="Math.min(Math.max((x(visit.arrive) + x(visit.leave)) / 2, 4), innerWidth - 4)"
            y="125"
            :text-anchor="i === 0 ? 'start' : i === visits.length - 1 ? 'end' : 'middle'"
          >
            {{ visit.stop.name }}
          </text>
        </g>

        <g
          v-for="(leg, i) in legs"
          :key="`end-${leg.leg.id}`"
          class="handle"
          role="slider"
          tabindex="0"
          :aria-label="`Travel time of leg ${i + 1}`"
          :aria-valuenow="travelTimes[i]!"
          aria-valuemin="0.1"
          :aria-valuemax="seconds"
          :aria-valuetext="`${travelTimes[i]!.toFixed(2)} seconds`"
          :data-testid="`ribbon-end-${i}`"
          @pointerdown.stop="dragRibbon($event, i)"
          @keydown="nudgeRibbon($event, i)"
        >
          <title>Drag to change how long this leg takes</title>
          <rect class="grab" :x="x(leg.arrive) - 15" y="40" width="24" height="25" />
          <path
            :d="`M${x(leg.arrive) - 3} 52v14M${x(leg.arrive) - 9} 56l-4 4l4 4M${x(leg.arrive) + 3} 56l4 4l-4 4`"
            transform="translate(0 -6)"
          />
        </g>
        <g
          v-for="(visit, i) in visits.slice(0, -1)"
          :key="`leave-${visit.stop.id}`"
          class="handle"
          role="slider"
          tabindex="0"
          :aria-label="`Layover at ${visit.stop.name}`"
          :aria-valuenow="visit.leave - visit.arrive"
          aria-valuemin="0"
          :aria-valuemax="seconds"
          :aria-valuetext="`${(visit.leave - visit.arrive).toFixed(2)} seconds`"
          :data-testid="`bead-edge-${i}`"
          @pointerdown.stop="dragBead($event, i)"
          @keydown="nudgeBead($event, i)"
        >
          <title>Drag to change the layover</title>
          <rect class="grab" :x="x(visit.leave) - 9" y="66" width="24" height="24" />
          <path :d="`M${x(visit.leave) + 3} 71v10`" class="edge" />
        </g>

        <g class="playhead" :transform="`translate(${x(playback.time)} 0)`">
          <line y1="14" y2="112" />
          <path d="M-6 14h12l-6 9Z" />
          <svg v-if="rider" x="-17" y="22" width="34" height="34"><ArtworkPicture :artwork="rider.artwork" :colour="rider.colour" /></svg>
        </g>
      </svg>
    </div>
    <div class="zoom">
      <v-btn :icon="mdiMagnifyPlusOutline" size="x-small" variant="text" aria-label="Show less time, larger" @click="zoomBy(1.5)" />
      <v-btn
        :icon="mdiMagnifyMinusOutline"
        size="x-small"
        variant="text"
        aria-label="Show more time, smaller"
        :disabled="zoom === 1"
        @click="zoomBy(1 / 1.5)"
      />
    </div>
    <p v-if="visits.length === 0" class="empty">Stops appear here as beads, and the legs between them as ribbons as long as they take.</p>
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
.band {
  fill: color-mix(in srgb, var(--sea) 13%, transparent);
}
.ribbon .edge {
  stroke: #f3ecdc;
  opacity: 0.85;
}
.ribbon.selected .band {
  stroke: var(--vermilion);
  stroke-width: 2;
}
.hit {
  fill: transparent;
  cursor: pointer;
}
.time {
  fill: var(--brass);
  font-size: 12px;
  text-anchor: middle;
  pointer-events: none;
}
.body {
  stroke: var(--surface);
  stroke-width: 2;
  cursor: pointer;
}
.bead.selected .body {
  stroke: var(--vermilion);
  stroke-width: 3;
}
.name {
  fill: var(--ink);
  font-size: 14px;
  font-weight: 700;
  pointer-events: none;
}
.grab {
  fill: transparent;
}
.handle {
  cursor: ew-resize;
}
.handle path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
  opacity: 0.55;
}
.handle .edge {
  stroke: #fff;
  stroke-width: 3;
  opacity: 0.9;
  stroke-linecap: round;
}
.handle:hover path,
.handle:focus-visible path {
  opacity: 1;
  stroke: var(--vermilion);
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
