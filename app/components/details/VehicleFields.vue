<script setup lang="ts">
import { computed } from 'vue'
import type { Leg } from '#core/journey/schema'
import { driveLegsLike } from '#core/edits/legs'
import { vehicleSchema } from '#core/journey/schema'
import type { VehicleId } from '#core/vehicles/catalogue'
import { artworkOf, VEHICLE_IDS } from '#core/vehicles/catalogue'
import ArtworkPicture from '~/components/fields/ArtworkPicture.vue'
import ColourField from '~/components/fields/ColourField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import { useEditor } from '~/stores/editor'
import { useLegEdits } from '~/composables/use-leg-edits'

const props = defineProps<{ leg: Leg }>()
const editor = useEditor()
const { patch, set, done } = useLegEdits(() => props.leg)

const vehicle = computed(() => props.leg.vehicle)
const choices: readonly { value: VehicleId | null; title: string }[] = [
  { value: null, title: 'None' },
  ...VEHICLE_IDS.map((value) => ({ value, title: artworkOf(value).name })),
]

function choose(artwork: VehicleId | null) {
  set({
    vehicle: artwork && {
      ...(vehicle.value ?? vehicleSchema.parse({ kind: 'catalogue', artwork, colour: editor.traveller!.colour })),
      artwork,
    },
  })
}
</script>

<template>
  <PictureChoice
    v-slot="{ choice }"
    label="Vehicle"
    :model-value="vehicle?.artwork ?? null"
    :choices="choices"
    :columns="5"
    @change="choose"
  >
    <ArtworkPicture v-if="choice.value" :artwork="choice.value" :colour="vehicle?.colour ?? editor.traveller!.colour" />
    <template v-else>None</template>
  </PictureChoice>
  <template v-if="vehicle">
    <ColourField
      label="Colour"
      :model-value="vehicle.colour"
      @change="(colour) => patch('vehicle colour', { vehicle: { ...vehicle!, colour } })"
      @done="done"
    />
    <NumberSlider
      label="Size"
      :model-value="vehicle.size"
      :min="24"
      :max="320"
      unit="px"
      @change="(size) => patch('vehicle size', { vehicle: { ...vehicle!, size } })"
      @done="done"
    />
  </template>
  <div v-if="editor.traveller!.legs.length > 1" class="buttons">
    <v-btn size="small" variant="outlined" data-testid="vehicle-for-all" @click="editor.edit((j) => driveLegsLike(j, leg.id))"
      >Use this vehicle for all legs</v-btn
    >
  </div>
</template>
