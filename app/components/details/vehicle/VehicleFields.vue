<script setup lang="ts">
import { greatest } from '#core/geometry/extremes'
import { computed, ref } from 'vue'
import { driveLegsLike } from '#core/edits/lines/legs'
import { boundsOf } from '#core/journey/bounds'
import type { Leg, VehicleChange, VehicleChoice } from '#core/journey/schema'
import { LIMITS, vehicleChangeSchema } from '#core/journey/schema'
import { USUAL_VEHICLE } from '#core/trips/motion'
import { artworkOf } from '#core/vehicles/catalogue'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import LastsField from '~/components/fields/LastsField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useFirstLeg } from '~/composables/use-first-leg'
import { useLegEdits } from '~/composables/use-leg-edits'
import { useEditor } from '~/stores/editor'
import LegSpotFields from '../leg/LegSpotFields.vue'
import { CHANGE_STYLES } from './vehicle-views'
import VehicleEditor from './VehicleEditor.vue'

/** The vehicle of a leg, and those that take over on the way. */
const props = defineProps<{ leg: Leg }>()
const editor = useEditor()
const { patch, set, done } = useLegEdits(() => props.leg)
const firstLeg = useFirstLeg()

const changes = computed(() => props.leg.changes)
/** The change that is worked on; none for the vehicle with which the leg begins. */
const chosen = ref<number>()
const change = computed(() => (chosen.value === undefined ? undefined : changes.value[chosen.value]))

const nameOf = (vehicle: VehicleChoice | null) =>
  vehicle === null ? 'No vehicle' : vehicle.kind === 'catalogue' ? artworkOf(vehicle.artwork).name : 'Own picture'
const withChange = (i: number, values: Partial<VehicleChange>) =>
  changes.value.map((entry, k) => (k === i ? { ...entry, ...values } : entry))

/** Half-way to the end of the leg from the last change, or from the start. */
function add() {
  const at = changes.value.length > 0 ? (greatest(changes.value.map((entry) => entry.at)) + 1) / 2 : 0.5
  // The leg in `props` changes only later.
  const added = changes.value.length
  set({ changes: [...changes.value, { at: Math.min(at, 0.98), vehicle: props.leg.vehicle, how: 'fade' }] })
  chosen.value = added
}
function remove() {
  set({ changes: changes.value.filter((_, k) => k !== chosen.value) })
  chosen.value = undefined
}
function editVehicle(vehicle: VehicleChoice | null, field: string, once: boolean) {
  firstLeg.used(vehicle)
  const i = change.value === undefined ? undefined : chosen.value
  const values = i === undefined ? { vehicle } : { changes: withChange(i, { vehicle }) }
  if (once) set(values)
  else patch(`vehicle ${i ?? ''} ${field}`, values)
}
</script>

<template>
  <ol v-if="changes.length > 0" class="rides" aria-label="Vehicles of this leg">
    <li>
      <button type="button" :class="{ chosen: !change }" :aria-current="!change || undefined" @click="chosen = undefined">
        From the start: {{ nameOf(leg.vehicle) }}
      </button>
    </li>
    <li v-for="(entry, i) in changes" :key="i">
      <button
        type="button"
        :class="{ chosen: change === entry }"
        :aria-current="change === entry || undefined"
        data-testid="ride"
        @click="chosen = i"
      >
        From {{ Math.round(entry.at * 100) }} %: {{ nameOf(entry.vehicle) }}
      </button>
    </li>
  </ol>
  <template v-if="change">
    <NumberSlider
      label="From"
      :model-value="Math.round(change.at * 1000) / 10"
      v-bind="boundsOf(vehicleChangeSchema, 'at', 100)"
      :step="0.1"
      :precision="1"
      unit="%"
      @change="(percent) => patch('change at', { changes: withChange(chosen!, { at: percent / 100 }) })"
      @done="done"
    />
    <LegSpotFields
      :leg="leg.id"
      :model-value="change.at"
      @change="(at) => patch('change at', { changes: withChange(chosen!, { at }) })"
      @done="done"
    />
    <ChoiceRow
      label="Comes"
      :model-value="change.how"
      :choices="CHANGE_STYLES"
      @change="(how) => set({ changes: withChange(chosen!, { how }) })"
    />
    <LastsField
      v-if="change.how !== 'cut'"
      label="Takes"
      :model-value="change.seconds"
      :usual="change.how === 'pop' ? USUAL_VEHICLE.pops : USUAL_VEHICLE.fadesOnTheWay"
      @change="(seconds) => patch('change takes', { changes: withChange(chosen!, { seconds }) })"
      @done="done"
    />
  </template>
  <VehicleEditor
    :key="chosen ?? 'first'"
    label="Vehicle"
    :model-value="change ? change.vehicle : leg.vehicle"
    :edit="editVehicle"
    @done="done"
  />
  <div class="buttons">
    <v-btn v-if="changes.length < LIMITS.changes" size="small" variant="outlined" data-testid="add-change" @click="add">
      Change on the way
    </v-btn>
    <v-btn v-if="change" size="small" variant="outlined" color="error" data-testid="remove-change" @click="remove"
      >Remove this change</v-btn
    >
    <v-btn
      v-if="!change && editor.traveller!.legs.length > 1"
      size="small"
      variant="outlined"
      data-testid="vehicle-for-all"
      @click="editor.edit((j) => driveLegsLike(j, leg.id))"
      >Use this vehicle for all legs</v-btn
    >
  </div>
</template>

<style scoped>
.rides {
  list-style: none;
  padding: 0;
  margin-bottom: 4px;
}
.rides button {
  width: 100%;
  min-height: 28px;
  padding: 2px 8px;
  text-align: left;
  border-radius: 3px;
  cursor: pointer;
}
.rides button:hover {
  background: color-mix(in srgb, var(--sea) 12%, transparent);
}
.rides .chosen {
  box-shadow: inset 3px 0 0 var(--vermilion);
}
</style>
