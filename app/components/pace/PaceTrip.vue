<script setup lang="ts">
import { computed, ref } from 'vue'
import type { CompiledTraveller } from '#core/trips/compiled'
import { nameOfStop } from '#core/journey/lookup'
import { holdArrival, setArrival, setDeparture, setTravelOfAll } from '#core/edits/pace/pace'
import { nameOfTraveller } from '#core/edits/trips/travellers'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import PaceBead from './PaceBead.vue'
import PaceHandle from './PaceHandle.vue'
import PaceRibbon from './PaceRibbon.vue'
import PaceRider from './PaceRider.vue'
import { namesOnStrip } from './strip-names'
import { useStrip } from './use-strip'

/** A traveller's trip on the strip: stops as beads, legs as ribbons. */
const props = defineProps<{ trip: CompiledTraveller; shifts: boolean; isNamed: boolean }>()
const editor = useEditor()
const stage = useStage()
const strip = useStrip()
/** The row is so high, in CSS pixels, and dense where there is less than so much for a stop. */
const HEIGHT = 88
const DENSE = 26

const who = computed(() => props.trip.traveller.id)
const isChosen = computed(() => props.trip.traveller === editor.traveller)
/** In a trip that is not chosen the stops and legs have no numbers of their own that a test or a reader could take for those of the chosen one. */
const mark = (what: string, i: number) => (isChosen.value ? `${what}-${i}` : `${what}-${who.value}-${i}`)

const visits = computed(() => props.trip.visits)
const legs = computed(() => props.trip.legs)
const selectedIds = computed(() => new Set(editor.selectedIds))
/** With so many stops that nothing can be grabbed, all but what is selected is drawn in a few lines; the rest is there when one zooms in. */
const isDense = computed(() => (strip.x(editor.journey!.seconds) - strip.x(0)) / Math.max(1, visits.value.length) < DENSE)
const inSight = (from: number, to: number) => to >= strip.seen.value.from && from <= strip.seen.value.to
const isNear = (i: number) => legs.value.some(({ leg }, k) => Math.abs(k - i) <= 1 && selectedIds.value.has(leg.id))
const seenLegs = computed(() =>
  legs.value.flatMap((leg, i) =>
    inSight(leg.depart, leg.arrive) && (!isDense.value || selectedIds.value.has(leg.leg.id)) ? [{ leg, i }] : [],
  ),
)
const seenVisits = computed(() =>
  visits.value.flatMap((visit, i) =>
    inSight(visit.arrive, visit.leave) &&
    (!isDense.value || (isChosen.value && isSelected(visit.stop.id, i)) || (isNear(i) && isNear(i - 1)))
      ? [{ visit, i }]
      : [],
  ),
)
/** The lines of a dense trip: legs and stops by their colours. */
const lines = computed(() => {
  if (!isDense.value) return []
  const paths = new Map<string, { colour: string; width: number; d: string[] }>()
  const add = (colour: string, width: number, from: number, to: number) => {
    const key = `${width} ${colour}`
    const path = paths.get(key) ?? { colour, width, d: [] }
    paths.set(key, path)
    path.d.push(`M${strip.x(from).toFixed(1)} 32H${Math.max(strip.x(from) + 3, strip.x(to)).toFixed(1)}`)
  }
  for (const { leg, depart, arrive } of legs.value) if (inSight(depart, arrive)) add(leg.ink.colour, 6, depart, arrive)
  for (const { stop, arrive, leave } of visits.value) if (inSight(arrive, leave)) add(stop.pin.colour, 20, arrive, leave)
  return [...paths.values()].map(({ colour, width, d }) => ({ colour, width, d: d.join('') })).sort((a, b) => a.width - b.width)
})
/** What is under the pointer in a dense trip. */
const pointed = ref<{ visit?: number; leg?: number }>()
function pointAt(event: PointerEvent) {
  if (!isDense.value) return
  const time = (event.offsetX - strip.x(0)) / strip.perSecond.value
  // A stop may be missed by a fifth of the room that there is for it, so that a leg can be hit, too.
  const miss = (editor.journey!.seconds / visits.value.length) * 0.2
  const visit = visits.value.findIndex(({ arrive, leave }) => time >= arrive - miss && time <= leave + miss)
  const leg = legs.value.findIndex(({ depart, arrive }) => time >= depart && time <= arrive)
  pointed.value = visit >= 0 ? { visit } : leg >= 0 ? { leg } : undefined
}
function pressDense(event: PointerEvent) {
  pointAt(event)
  const { visit, leg } = pointed.value ?? {}
  // Elsewhere one scrubs, as on the rest of the strip.
  if (event.offsetY < 14 || event.offsetY > 50 || (visit === undefined && leg === undefined)) return
  event.stopPropagation()
  if (visit !== undefined) selectStop(event, visits.value[visit]!.stop.id, visit)
  else selectLeg(event, legs.value[leg!]!.leg.id, leg!)
}

/** Parts of the strip are only drawn anew when what they show has changed: times are whole frames, and rarely change while a stop is dragged. */
const isSelected = (stop: string, i: number) =>
  selectedIds.value.has(stop) && (!isChosen.value || editor.selectedVisit === undefined || editor.selectedVisit === i)
const pen = document.createElement('canvas').getContext('2d')!
pen.font = '700 14px Alegreya, serif'
const measure = (text: string) => pen.measureText(text).width
/** The box of each name; undefined if there is no room, so that the name only shows on hover. */
const nameBoxes = computed(() => namesOnStrip(visits.value, strip.x, strip.width.value, measure))

/** Several legs that are selected are scaled together, by the end of any of them. */
const scaled = computed(() => legs.value.filter(({ leg }) => selectedIds.value.has(leg.id)))

function arriveAt(i: number, time: number, gesture: string) {
  const { leg, arrive } = legs.value[i]!
  const ids = new Set(scaled.value.map(({ leg: each }) => each.id))
  if (ids.size < 2 || !ids.has(leg.id)) return editor.edit((j) => setArrival(j, i, time, who.value, props.shifts), gesture)
  const all = scaled.value.reduce((sum, each) => sum + each.arrive - each.depart, 0)
  return editor.edit((j) => setTravelOfAll(j, ids, Math.max(0.1 * ids.size, all + time - arrive), who.value), gesture)
}
const leaveAt = (i: number, time: number, gesture: string) => editor.edit((j) => setDeparture(j, i, time, who.value, props.shifts), gesture)
/** A bead that is dragged as a whole is held where it is put; what follows is shifted along if that is asked for. */
const moveBead = (i: number, time: number, gesture: string) =>
  props.shifts
    ? editor.edit((j) => setArrival(j, i - 1, time, who.value, true), gesture)
    : editor.edit((j) => holdArrival(j, i, Math.max(0, time), who.value), gesture)

function selectLeg(event: PointerEvent | KeyboardEvent, id: string, i: number) {
  if (event.ctrlKey || event.metaKey) return editor.selectAlso({ kind: 'leg', id })
  const first = legs.value.findIndex(({ leg }) => leg.id === editor.selectedLeg?.id)
  if (!event.shiftKey || first < 0) return editor.select({ kind: 'leg', id })
  const [from, to] = [Math.min(first, i), Math.max(first, i)]
  const also = legs.value.slice(from, to + 1).flatMap(({ leg }) => (leg.id === id ? [] : [leg.id]))
  editor.select({ kind: 'leg', id, also })
}
function selectStop(event: PointerEvent | KeyboardEvent, id: string, i: number) {
  if (event.ctrlKey || event.metaKey) return editor.selectAlso({ kind: 'stop', id })
  if (!isChosen.value) editor.chooseTraveller(who.value)
  editor.select({ kind: 'stop', id, visit: i })
}
</script>

<template>
  <div class="row" :class="{ chosen: isChosen }">
    <button v-if="isNamed" type="button" class="who" :style="{ color: trip.traveller.colour }" @click="editor.chooseTraveller(who)">
      ● <span>{{ nameOfTraveller(editor.journey!, trip.traveller) }}</span>
    </button>
    <svg
      :width="strip.width.value"
      :height="HEIGHT"
      :class="{ dense: isDense }"
      @pointermove="pointAt"
      @pointerleave="pointed = undefined"
      @pointerdown="isDense && pressDense($event)"
    >
      <line class="ground" :x1="strip.x(0)" :x2="strip.x(editor.journey!.seconds)" y1="32" y2="32" />
      <g v-if="isDense" class="lines">
        <path v-for="line in lines" :key="`${line.width} ${line.colour}`" :d="line.d" :stroke="line.colour" :stroke-width="line.width" />
        <template v-for="(box, i) in nameBoxes" :key="i">
          <text v-if="box" class="serif" :x="box.left" y="81">{{ box.text }}</text>
        </template>
        <text v-if="pointed?.visit !== undefined" class="pointed serif" :x="strip.x(visits[pointed.visit]!.arrive)" y="66">
          {{ nameOfStop(visits[pointed.visit]!.stop) }}
        </text>
      </g>
      <PaceRibbon
        v-for="{ leg, i } in seenLegs"
        :key="leg.leg.id"
        v-memo="[leg.leg, leg.depart, leg.arrive, strip.perSecond.value, selectedIds.has(leg.leg.id)]"
        :leg="leg"
        :number="i + 1"
        :x="strip.x"
        :selected="selectedIds.has(leg.leg.id)"
        @select="(event) => selectLeg(event, leg.leg.id, i)"
      />
      <PaceBead
        v-for="{ visit, i } in seenVisits"
        :key="`${visit.stop.id} ${i}`"
        v-memo="[
          visit.stop,
          visit.arrive,
          visit.leave,
          trip.traveller.visits[i],
          strip.perSecond.value,
          nameBoxes[i]?.left,
          nameBoxes[i]?.text,
          isSelected(visit.stop.id, i),
          shifts,
        ]"
        :visit="visit"
        :number="i"
        :held="trip.traveller.visits[i]!"
        :name-box="isDense ? undefined : nameBoxes[i]"
        :selected="isSelected(visit.stop.id, i)"
        @select="(event) => selectStop(event, visit.stop.id, i)"
        @rename="stage.askName(visit.stop.id)"
        @move="(time, gesture) => moveBead(i, time, gesture)"
      />

      <PaceHandle
        v-for="{ leg, i } in seenLegs"
        :key="`end of ${leg.leg.id}`"
        v-memo="[leg.depart, leg.arrive, strip.perSecond.value]"
        :label="`Travel time of leg ${i + 1}`"
        title="Drag to change how long this leg takes"
        :seconds="leg.arrive - leg.depart"
        :end="leg.arrive"
        :data-testid="mark('ribbon-end', i)"
        @change="(end, gesture) => arriveAt(i, end, gesture)"
      >
        <rect class="grab" :x="strip.x(leg.arrive) - 15" y="-2" width="24" height="24" />
        <path :d="`M${strip.x(leg.arrive) - 3} 2v14m-6-10l-4 4l4 4m12-8l4 4l-4 4`" />
      </PaceHandle>
      <PaceHandle
        v-for="{ visit, i } in seenVisits.filter(({ i: place }) => place < visits.length - 1)"
        :key="`end of ${visit.stop.id} ${i}`"
        v-memo="[visit.stop, visit.arrive, visit.leave, strip.perSecond.value]"
        :label="`Layover at ${nameOfStop(visit.stop)}`"
        title="Drag to change the layover"
        :seconds="visit.leave - visit.arrive"
        :end="visit.leave"
        :data-testid="mark('bead-edge', i)"
        @change="(end, gesture) => leaveAt(i, end, gesture)"
      >
        <rect class="grab" :x="strip.x(visit.leave) - 7" y="21" width="24" height="24" />
        <path class="edge" :d="`M${strip.x(visit.leave) + 3} 27v10`" />
      </PaceHandle>
    </svg>
    <PaceRider :trip="trip" />
  </div>
</template>

<style scoped>
.row {
  position: relative;
}
.row + .row {
  border-top: 1px solid var(--rule);
}
.who {
  position: sticky;
  left: 4px;
  z-index: 1;
  float: left;
  width: max-content;
  height: 0;
  overflow: visible;
  font-size: 12px;
  white-space: nowrap;
  cursor: pointer;
}
.who span {
  padding: 0 3px;
  color: var(--quiet);
  background: color-mix(in srgb, var(--surface) 80%, transparent);
}
.chosen .who span {
  color: var(--ink);
  font-weight: 600;
}
svg {
  display: block;
  overflow: visible;
}
.dense {
  cursor: pointer;
}
.lines {
  pointer-events: none;
}
.lines text {
  fill: var(--ink);
  font-size: 14px;
  font-weight: 700;
}
.lines .pointed {
  text-anchor: middle;
}
.ground {
  stroke: var(--rule);
  stroke-width: 2;
}
</style>
