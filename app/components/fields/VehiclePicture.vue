<script setup lang="ts">
import type { VehicleChoice } from '#core/journey/schema'
import { coarsestLevel } from '#core/sheet/pyramid'
import { tileAddress } from '~/services/addresses'
import ArtworkPicture from './ArtworkPicture.vue'

/** The picture of a vehicle, of the catalogue or one's own, in lists and choices. */
defineProps<{ vehicle: VehicleChoice }>()
</script>

<template>
  <ArtworkPicture
    v-if="vehicle.kind === 'catalogue'"
    :artwork="vehicle.artwork"
    :colour="vehicle.colour"
    :second="vehicle.second"
    :third="vehicle.third"
  />
  <svg v-else viewBox="0 0 100 100" aria-hidden="true">
    <image
      :href="tileAddress(vehicle.picture.image, { level: coarsestLevel(vehicle.picture), column: 0, row: 0 })"
      width="100"
      height="100"
    />
  </svg>
</template>
