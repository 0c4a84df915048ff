<script setup lang="ts">
import { computed } from 'vue'
import { arriveOnBeat, beatsOf } from '#core/edits/pace/beats'
import { holdArrival, holdDeparture, setLayover } from '#core/edits/pace/pace'
import { boundsOf } from '#core/journey/bounds'
import type { Journey, Stop } from '#core/journey/schema'
import { visitSchema } from '#core/journey/schema'
import { removeVisit } from '#core/edits/trips/trips'
import { moveVisit, setVisitDate, visitsOf } from '#core/edits/trips/visits'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import HeldTime from './HeldTime.vue'

/** The visits of the trip to a stop, which may be several, and their layovers. */
const props = defineProps<{ stop: Stop }>()
const editor = useEditor()
const { change, done } = useFieldEdits(() => `stop ${props.stop.id}`)

const visits = computed(() => editor.traveller!.visits)
/** The indexes in the itinerary of the visits to this stop, and the selected one. */
const places = computed(() => visitsOf(editor.traveller!, props.stop.id))
const place = computed(() => editor.selectedVisit ?? places.value[0]!)
const layover = computed(() => visits.value[place.value]!.layover)
/** When it is reached and left now: numbers, so that what shows them stays as it is while they do. */
const arrives = computed(() => editor.itinerary!.visits[place.value]!.arrive)
const leaves = computed(() => editor.itinerary!.visits[place.value]!.leave)
const holdArrivalHere = (j: Journey, seconds: number | null) => holdArrival(j, place.value, seconds, editor.traveller!.id)
const holdDepartureHere = (j: Journey, seconds: number | null) => holdDeparture(j, place.value, seconds, editor.traveller!.id)
const hasBeats = computed(() => beatsOf(editor.journey!).length > 0)
/** Seconds spent there now, set or automatic. */
const rests = computed(() => Math.round((leaves.value - arrives.value) * 100) / 100)
const date = computed(() => visits.value[place.value]!.date)
const setDate = (value: string | null) => editor.edit((j) => setVisitDate(j, place.value, value, editor.traveller!.id))
const setRest = (value: number | null) => editor.edit((j) => setLayover(j, place.value, value, editor.traveller!.id))
function moveBy(step: number) {
  const to = place.value + step
  if (editor.edit((j) => moveVisit(j, place.value, to, editor.traveller!.id))) editor.select({ kind: 'stop', id: props.stop.id, visit: to })
}
const ordinal = (n: number) => `${n}${['th', 'st', 'nd', 'rd'][n % 100 > 10 && n % 100 < 14 ? 0 : n % 10] ?? 'th'}`
</script>

<template>
  <p class="quiet figures order">
    Stop {{ place + 1 }} of {{ visits.length }}
    <button type="button" :disabled="place === 0" @click="moveBy(-1)">Move up</button>
    <button type="button" :disabled="place === visits.length - 1" @click="moveBy(1)">Move down</button>
  </p>
  <ChoiceRow
    v-if="places.length > 1"
    label="Visit"
    :model-value="String(place)"
    :choices="places.map((visit, i) => ({ value: String(visit), title: ordinal(i + 1) }))"
    @change="(visit) => editor.select({ kind: 'stop', id: stop.id, visit: Number(visit) })"
  />
  <ChoiceRow
    label="Layover"
    :model-value="layover === null ? 'free' : 'set'"
    :choices="[
      { value: 'free', title: 'Automatic' },
      { value: 'set', title: 'Set' },
    ]"
    @change="(value) => setRest(value === 'set' ? rests : null)"
  />
  <p v-if="layover === null" class="quiet figures">Stays {{ rests.toFixed(2) }} s</p>
  <NumberSlider
    v-else
    label="Stays"
    :model-value="layover"
    v-bind="boundsOf(visitSchema, 'layover')"
    :usual="[0, 30]"
    :step="0.1"
    :precision="2"
    unit="s"
    @change="(value) => change('layover', (j) => setLayover(j, place, value, editor.traveller!.id))"
    @done="done"
  />
  <HeldTime v-if="place > 0" label="Arrives" testid="arrive-at" :held="visits[place]!.arriveAt" :now="arrives" :hold="holdArrivalHere" />
  <div v-if="place > 0 && hasBeats" class="buttons">
    <v-btn
      size="small"
      variant="outlined"
      data-testid="arrive-on-beat"
      @click="editor.edit((j) => arriveOnBeat(j, place, editor.traveller!.id))"
      >Arrive on the nearest beat</v-btn
    >
  </div>
  <HeldTime
    v-if="place < visits.length - 1"
    label="Leaves"
    testid="leave-at"
    :held="visits[place]!.leaveAt"
    :now="leaves"
    :hold="holdDepartureHere"
  />
  <FieldRow v-slot="{ id }" label="Arrives on">
    <div class="day">
      <v-text-field
        type="date"
        :aria-labelledby="id"
        data-testid="visit-date"
        :model-value="date ?? ''"
        @update:model-value="(value: string | null) => setDate(value || null)"
      />
    </div>
  </FieldRow>
  <div v-if="places.length > 1" class="buttons">
    <v-btn
      size="small"
      variant="outlined"
      @click="editor.edit((j) => removeVisit(j, place, editor.traveller!.id)) && editor.select({ kind: 'journey' })"
      >Remove this visit</v-btn
    >
  </div>
</template>

<style scoped>
.order {
  margin: 6px 0;
}
.order button {
  margin-left: 10px;
  min-height: 24px;
  text-decoration: underline;
  cursor: pointer;
  color: var(--sea);
}
.order button:disabled {
  color: var(--quiet);
  text-decoration: none;
  cursor: default;
}
</style>
