<script setup lang="ts">
import { computed } from 'vue'
import type { CompiledTraveller } from '#core/trips/compiled'
import VehiclePicture from '~/components/fields/VehiclePicture.vue'
import { usePlayback } from '~/stores/playback'
import { useStrip } from './use-strip'

/** The vehicle of a traveller at the play position, on its row: the one on the stage, or the next one. */
const props = defineProps<{ trip: CompiledTraveller }>()
const playback = usePlayback()
const strip = useStrip()

const vehicle = computed(() => {
  const { legs } = props.trip
  const leg = legs.find(({ arrive }) => playback.time < arrive) ?? legs.at(-1)
  return (leg?.rides.findLast(({ at }) => at <= playback.time) ?? leg?.rides[0])?.choice ?? undefined
})
</script>

<template>
  <svg
    v-if="vehicle"
    class="rider"
    width="34"
    height="34"
    :style="{ transform: `translateX(${strip.x(playback.time)}px)` }"
    aria-hidden="true"
    :data-testid="`rider-${trip.traveller.id}`"
  >
    <VehiclePicture :vehicle="vehicle" />
  </svg>
</template>

<style scoped>
.rider {
  position: absolute;
  left: -17px;
  top: 8px;
  z-index: 3;
  pointer-events: none;
}
</style>
