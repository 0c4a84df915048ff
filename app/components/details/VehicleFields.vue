<script setup lang="ts">
import { computed } from 'vue'
import { driveLegsLike, editLeg } from '#core/edits/legs'
import type { Leg, VehicleChoice } from '#core/journey/schema'
import { vehicleSchema } from '#core/journey/schema'
import { coarsestLevel } from '#core/sheet/pyramid'
import type { VehicleId } from '#core/vehicles/catalogue'
import { artworkOf, VEHICLE_IDS } from '#core/vehicles/catalogue'
import { MOST_LEAN } from '#core/frame/heading'
import { MOST_ALTITUDE, MOST_SET_LEAN, resolveVehicle } from '#core/vehicles/vehicle'
import ArtworkPicture from '~/components/fields/ArtworkPicture.vue'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import ColourField from '~/components/fields/ColourField.vue'
import type { FieldSpec } from '~/components/fields/field-list'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import OptionalGroup from '~/components/fields/OptionalGroup.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import { tileAddress } from '~/services/addresses'
import { useEditor } from '~/stores/editor'
import { useLegEdits } from '~/composables/use-leg-edits'
import { useOwnPicture } from '~/stores/own-picture'
import PicturePosture from './PicturePosture.vue'
import { VIEWS } from './vehicle-views'

const props = defineProps<{ leg: Leg }>()
const editor = useEditor()
const own = useOwnPicture()
const { patch, set, done } = useLegEdits(() => props.leg)

const vehicle = computed(() => props.leg.vehicle)
const colour = computed(() => (vehicle.value?.kind === 'catalogue' ? vehicle.value.colour : editor.traveller!.colour))
const choices: readonly { value: VehicleId | null; title: string }[] = [
  { value: null, title: 'None' },
  ...VEHICLE_IDS.map((value) => ({ value, title: artworkOf(value).name })),
]
const chosen = computed(
  () => (vehicle.value === null ? null : vehicle.value.kind === 'catalogue' ? vehicle.value.artwork : undefined) as VehicleId | null,
)

const posture = computed(() => vehicle.value && resolveVehicle(vehicle.value).posture)
const PARTS = [
  { key: 'second', label: 'A colour for its light parts', initial: '#fbf6ea' },
  { key: 'third', label: 'A colour for its dark parts', initial: '#14233a' },
] as const
const PART_FIELDS: readonly FieldSpec<{ colour: string }>[] = [{ key: 'colour', label: 'Colour', as: 'colour' }]
const note = computed(() => {
  if (!vehicle.value) return 'none'
  const { lean } = vehicle.value
  const { second, third, altitude } = vehicle.value.kind === 'catalogue' ? vehicle.value : {}
  const words = [
    (second ?? third) && 'coloured',
    lean !== undefined && `${lean}°`,
    altitude !== undefined && `${Math.round(altitude * 100)} %`,
  ]
  return words.filter(Boolean).join(', ') || 'none'
})

/** Another vehicle has the size of the one before. */
function choose(artwork: VehicleId | null) {
  const size = vehicle.value ? { size: vehicle.value.size } : {}
  set({ vehicle: artwork && vehicleSchema.parse({ kind: 'catalogue', artwork, colour: colour.value, ...size }) })
}
/** Changes fields that a vehicle of its kind has. */
const change = (field: string, values: Partial<VehicleChoice>) =>
  patch(`vehicle ${field}`, { vehicle: { ...vehicle.value!, ...values } as VehicleChoice })

/** The picture goes to the legs that are selected when it is chosen. */
function chooseOwn() {
  const legs = editor.selectedIds.includes(props.leg.id) ? editor.selectedIds : [props.leg.id]
  const size = vehicle.value ? { size: vehicle.value.size } : {}
  own.choose('vehicle', (picture, look) => {
    const made = vehicleSchema.parse({ kind: 'image', picture, ...look, ...size })
    editor.edit((journey) => legs.reduce((j, leg) => editLeg(j, leg, { vehicle: made }), journey))
  })
}
</script>

<template>
  <PictureChoice v-slot="{ choice }" label="Vehicle" :model-value="chosen" :choices="choices" :columns="5" @change="choose">
    <ArtworkPicture v-if="choice.value" :artwork="choice.value" :colour="colour" />
    <template v-else>None</template>
  </PictureChoice>
  <div class="buttons">
    <v-btn size="small" variant="outlined" data-testid="own-vehicle" @click="chooseOwn">{{
      vehicle?.kind === 'image' ? 'Another picture …' : 'A picture of your own …'
    }}</v-btn>
  </div>
  <p v-if="own.failure && !own.original" class="error" role="alert">{{ own.failure }}</p>
  <template v-if="vehicle?.kind === 'image'">
    <PicturePosture
      :size="vehicle.picture"
      :look="vehicle"
      @change="({ facing, anchor }) => change('posture', { facing, anchor })"
      @done="done"
    >
      <img class="own" :src="tileAddress(vehicle.picture.image, { level: coarsestLevel(vehicle.picture), column: 0, row: 0 })" alt="" />
    </PicturePosture>
    <ChoiceRow
      label="Seen"
      :model-value="vehicle.view"
      :choices="VIEWS"
      @change="(view) => set({ vehicle: { ...vehicle!, view } as VehicleChoice })"
    />
  </template>
  <ColourField
    v-if="vehicle?.kind === 'catalogue'"
    label="Colour"
    :model-value="vehicle.colour"
    @change="(value) => change('colour', { colour: value })"
    @done="done"
  />
  <FoldedSection v-if="vehicle && (vehicle.kind === 'catalogue' || vehicle.view === 'side')" title="Colours, lean, height" :note="note">
    <template v-if="vehicle.kind === 'catalogue'">
      <OptionalGroup
        v-for="{ key, label, initial } in PARTS"
        :key="key"
        :label="label"
        :model-value="vehicle[key] === undefined ? null : { colour: vehicle[key] }"
        :initial="{ colour: initial }"
        :fields="PART_FIELDS"
        @change="({ colour: part }) => change(key, { [key]: part })"
        @toggle="(part) => (done(), change(key, { [key]: part?.colour }), done())"
        @done="done"
      />
    </template>
    <NumberSlider
      v-if="posture?.view === 'side'"
      label="Leans up to"
      :model-value="vehicle.lean ?? posture.mostLean ?? MOST_LEAN"
      :min="0"
      :max="MOST_SET_LEAN"
      unit="°"
      @change="(lean) => change('lean', { lean })"
      @done="done"
    />
    <NumberSlider
      v-if="vehicle.kind === 'catalogue' && posture?.flies"
      label="Height"
      :model-value="Math.round((vehicle.altitude ?? 1) * 100)"
      :min="0"
      :max="100 * MOST_ALTITUDE"
      unit="%"
      @change="(value) => change('height', { altitude: value / 100 })"
      @done="done"
    />
  </FoldedSection>
  <NumberSlider
    v-if="vehicle"
    label="Size"
    :model-value="vehicle.size"
    :min="24"
    :max="320"
    unit="px"
    @change="(size) => change('size', { size })"
    @done="done"
  />
  <div v-if="editor.traveller!.legs.length > 1" class="buttons">
    <v-btn size="small" variant="outlined" data-testid="vehicle-for-all" @click="editor.edit((j) => driveLegsLike(j, leg.id))"
      >Use this vehicle for all legs</v-btn
    >
  </div>
</template>

<style scoped>
.own {
  display: block;
  width: 100%;
  height: 100%;
}
.error {
  color: var(--vermilion);
}
</style>
