<script setup lang="ts">
import { clamp } from '#core/geometry/clamp'
import {
  mdiAccountMultipleOutline,
  mdiArrowExpandRight,
  mdiChartBellCurve,
  mdiMagnet,
  mdiMagnifyMinusOutline,
  mdiMagnifyPlusOutline,
  mdiNoteOutline,
  mdiViewAgendaOutline,
} from '@mdi/js'
import { useElementSize, useLocalStorage, useScroll } from '@vueuse/core'
import { computed, defineAsyncComponent, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { CompiledTraveller } from '#core/trips/compiled'
import { beatsOf } from '#core/edits/pace/beats'
import { laneBars } from '#core/edits/pace/lanes'
import { followPointer } from '~/composables/use-pointer-drag'
import { useNotes } from '~/composables/use-notes'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import AudioLane from './AudioLane.vue'
import PaceTrip from './PaceTrip.vue'
import StripLanes from './StripLanes.vue'
import StripRuler from './StripRuler.vue'
import { MARGIN, provideStrip } from './use-strip'

/** Itinerary and timeline in one: stops as beads, legs as ribbons as long as they take, and the vehicles riding along; under it lanes and graphs. */
const PaceGraphs = defineAsyncComponent(() => import('./PaceGraphs.vue'))
/** How high it would be to show all that is in it, in CSS pixels; `isAsked` when somebody has just opened a part of it. */
const emit = defineEmits<{ wants: [height: number, isAsked: boolean] }>()
const editor = useEditor()
const playback = usePlayback()
const notes = useNotes()

const shown = useLocalStorage('zephyrine-strip', { travellers: false, lanes: false, graphs: false, snaps: true }, { mergeDefaults: true })
/** Whether what follows a time that is changed is shifted as a whole. */
const shifts = ref(false)

const scroller = useTemplateRef<HTMLElement>('scroller')
const { width: room } = useElementSize(scroller)
const { x: scrolled } = useScroll(scroller)
const stack = useTemplateRef<HTMLElement>('stack')
const { height: stacked } = useElementSize(stack)
let asked = false
watch(stacked, (height, before) => {
  emit('wants', Math.ceil(height), asked && height > before)
  // Where the strip does not grow to its height, the beginning of what was opened is scrolled to where it is seen.
  if (asked && height > before) void nextTick(() => showFrom(before))
})
/** Scrolls down as far as is needed for what begins at a height to be seen, and no further than to have it in the lower half. */
function showFrom(top: number) {
  const box = scroller.value
  if (box) box.scrollTop = Math.max(0, Math.min(box.scrollHeight - box.clientHeight, top - box.clientHeight / 2))
}
/** Opens or closes a part of the strip. */
function toggle(key: keyof typeof shown.value) {
  shown.value[key] = !shown.value[key]
  asked = shown.value[key]
}
/** 1 shows the whole film. */
const zoom = ref(1)
/** So close that frames can be told apart. */
const closest = computed(() => Math.max(20, (playback.frames * 12) / Math.max(200, room.value)))

const seconds = computed(() => editor.journey!.seconds)
const perSecond = computed(() => (Math.max(200, room.value - 2 * MARGIN) / seconds.value) * zoom.value)
/** Somewhat more than what is seen, so that nothing is missing at the edges while one scrolls. */
const seen = computed(() => {
  const from = (scrolled.value - MARGIN) / perSecond.value
  const air = (0.5 * room.value) / perSecond.value
  return { from: from - air, to: from + room.value / perSecond.value + air }
})

/** What a drag on the strip snaps to: seconds, arrivals and departures, what comes and goes, shots, notes, beats, and the play position. */
const targets = () => {
  const compiled = editor.compiled!
  const moments = compiled.travellers.flatMap(({ visits }) => visits.flatMap(({ arrive, leave }) => [arrive, leave]))
  const bars = laneBars(compiled).flatMap(({ from, to }) => [from, to])
  const shots = compiled.shots.flatMap(({ start, end }) => [start, end])
  const whole = Array.from({ length: Math.floor(seconds.value) + 1 }, (_, i) => i)
  return [...whole, ...moments, ...bars, ...shots, ...compiled.notes.map(({ time }) => time), ...beatsOf(compiled.journey), playback.time]
}
const strip = provideStrip(
  { perSecond, seen },
  { isOn: computed({ get: () => shown.value.snaps, set: (on) => (shown.value.snaps = on) }), targets },
)

/** Trips as they are on the strip: the same objects while nothing of them has changed that is seen there, so that a drag in one draws only that one anew. */
const steadyTrips = computed<CompiledTraveller[]>((before) =>
  editor.compiled!.travellers.map(
    (trip) => before?.find(({ traveller, visits }) => traveller === trip.traveller && visits === trip.visits) ?? trip,
  ),
)
/** The trips on the strip: all, or the one that is worked on. */
const trips = computed(() => {
  const travellers = steadyTrips.value
  return shown.value.travellers && travellers.length > 1 ? travellers : travellers.filter(({ traveller }) => traveller === editor.traveller)
})
const isEmpty = computed(() => (editor.itinerary?.visits.length ?? 0) === 0)

const timeOf = (event: PointerEvent | WheelEvent) => {
  const box = scroller.value!
  return (event.clientX - box.getBoundingClientRect().left + box.scrollLeft - MARGIN) / perSecond.value
}
function scrub(event: PointerEvent) {
  playback.playing = false
  playback.goToTime(timeOf(event))
  followPointer(event, { move: (_by, moved) => playback.goToTime(timeOf(moved)) })
}

/** Zooms so that a moment stays where it is. */
function zoomBy(factor: number, about = playback.time) {
  const box = scroller.value
  const before = box ? strip.x(about) - box.scrollLeft : 0
  const isInSight = before >= 0 && before <= room.value
  zoom.value = clamp(zoom.value * factor, 1, closest.value)
  void nextTick(() => {
    if (box) box.scrollLeft = strip.x(about) - (isInSight ? before : room.value / 2)
  })
}
function wheel(event: WheelEvent) {
  if (!event.ctrlKey && !event.metaKey) return
  event.preventDefault()
  zoomBy(Math.exp(-event.deltaY * 0.002), timeOf(event))
}

/** Keeps the play position in sight. */
watch(
  () => playback.time,
  (time) => {
    const box = scroller.value
    if (!box || zoom.value === 1) return
    if (strip.x(time) < box.scrollLeft + 30 || strip.x(time) > box.scrollLeft + room.value - 30) box.scrollLeft = strip.x(time) - 60
  },
)

const TOGGLES = computed(() => [
  ...(editor.journey!.travellers.length > 1
    ? [{ key: 'travellers' as const, icon: mdiAccountMultipleOutline, label: 'All travellers' }]
    : []),
  { key: 'lanes' as const, icon: mdiViewAgendaOutline, label: 'What appears and leaves' },
  { key: 'graphs' as const, icon: mdiChartBellCurve, label: 'Graphs of speed, turning and zoom' },
  { key: 'snaps' as const, icon: mdiMagnet, label: 'Snap to seconds and events; Alt suspends it' },
])
</script>

<template>
  <section class="strip" aria-label="Pace strip">
    <div class="tools" role="toolbar" aria-label="Tools of the pace strip">
      <v-btn
        v-for="{ key, icon, label } in TOGGLES"
        :key="key"
        :icon="icon"
        size="26"
        rounded="sm"
        variant="text"
        :aria-label="label"
        :title="label"
        :aria-pressed="shown[key]"
        :class="{ pressed: shown[key] }"
        :data-testid="`strip-${key}`"
        @click="toggle(key)"
      />
      <v-btn
        :icon="mdiArrowExpandRight"
        size="26"
        rounded="sm"
        variant="text"
        aria-label="Shift what follows"
        title="Changing a time shifts everything after it: the film gets longer or shorter"
        :aria-pressed="shifts"
        :class="{ pressed: shifts }"
        data-testid="strip-shifts"
        @click="shifts = !shifts"
      />
      <v-btn
        :icon="mdiNoteOutline"
        size="26"
        rounded="sm"
        variant="text"
        aria-label="Note at the play position (N)"
        title="Note at the play position (N)"
        data-testid="add-note"
        @click="notes.add()"
      />
      <v-btn
        :icon="mdiMagnifyPlusOutline"
        size="26"
        rounded="sm"
        variant="text"
        aria-label="Zoom in"
        title="Zoom in (Ctrl+wheel)"
        @click="zoomBy(1.5)"
      />
      <v-btn
        :icon="mdiMagnifyMinusOutline"
        size="26"
        rounded="sm"
        variant="text"
        aria-label="Zoom out"
        title="Zoom out (Ctrl+wheel)"
        :disabled="zoom === 1"
        @click="zoomBy(1 / 1.5)"
      />
    </div>
    <div ref="scroller" class="scroller" data-testid="pace-strip" @wheel="wheel">
      <div class="content" :style="{ width: `${strip.width.value}px` }" @pointerdown="scrub">
        <div ref="stack">
          <StripRuler @scrub="scrub" />
          <p v-if="isEmpty" class="empty">Stops appear here as beads, legs as ribbons as long as their travel time.</p>
          <template v-else>
            <PaceTrip
              v-for="trip in trips"
              :key="trip.traveller.id"
              :trip="trip"
              :shifts="shifts"
              :is-named="editor.journey!.travellers.length > 1"
            />
          </template>
          <AudioLane v-for="piece in editor.journey!.audio" :key="piece.id" :piece="piece" />
          <StripLanes v-if="shown.lanes" />
          <PaceGraphs v-if="shown.graphs && !isEmpty" />
        </div>
        <div class="playhead" :style="{ transform: `translateX(${strip.x(playback.time)}px)` }" aria-hidden="true">
          <svg class="point" width="12" height="9" viewBox="0 0 12 9"><path d="M0 0h12l-6 9Z" /></svg>
        </div>
        <output
          v-if="strip.readout.value"
          class="readout figures"
          data-testid="strip-readout"
          :style="{ transform: `translateX(${strip.x(strip.readout.value.time)}px) translateX(-50%)` }"
          >{{ strip.readout.value.text }}</output
        >
      </div>
    </div>
  </section>
</template>

<style scoped>
.strip {
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 60px;
  background: var(--surface);
  min-height: 0;
}
.scroller {
  grid-area: 1 / 1;
  overflow: auto;
  height: 100%;
}
.content {
  position: relative;
  min-height: 100%;
  user-select: none;
  touch-action: none;
}
/* The lanes of what is heard, and of what appears and leaves; their names stay in sight. */
.content :deep(.lane) {
  position: relative;
  border-top: 1px solid var(--rule);
}
.content :deep(.lane > .name) {
  position: sticky;
  left: 4px;
  z-index: 1;
  float: left;
  height: 0;
  overflow: visible;
  width: max-content;
  font-size: 11px;
  line-height: 14px;
  color: var(--quiet);
  pointer-events: none;
}
.tools {
  grid-area: 1 / 2;
  display: grid;
  grid-template-columns: 26px 26px;
  gap: 2px;
  place-content: start center;
  padding-top: 6px;
  border-left: 1px solid var(--rule);
}
/* They have a fixed size, which their icons are not to outgrow where the browser's letters are set larger. */
.tools > .v-btn {
  font-size: 14px;
}
.pressed {
  color: rgb(var(--v-theme-on-primary));
  background: var(--sea);
}
.playhead {
  position: absolute;
  inset: 14px auto 0 0;
  z-index: 3;
  width: 0;
  border-left: 1.5px solid var(--brass);
  pointer-events: none;
}
.point {
  position: absolute;
  left: -6.75px;
  fill: var(--brass);
}
.readout {
  position: absolute;
  top: 24px;
  left: 0;
  z-index: 4;
  padding: 1px 7px;
  font-size: 12px;
  white-space: nowrap;
  border-radius: 3px;
  color: var(--surface);
  background: var(--ink);
  pointer-events: none;
}
.empty {
  padding: 34px 40px;
  text-align: center;
  color: var(--quiet);
}
</style>
