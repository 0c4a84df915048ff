<script setup lang="ts">
import { computed } from 'vue'
import type { VehicleId } from '#core/vehicles/catalogue'
import { artworkOf } from '#core/vehicles/catalogue'
import { palette, PAPER } from '#draw/colour'

/** A vehicle's artwork as an inline picture, with the same light edge as in the film. */
const props = defineProps<{ artwork: VehicleId; colour: string }>()
const art = computed(() => artworkOf(props.artwork))
const tones = computed(() => palette(props.colour))
const viewBox = computed(() => {
  if (art.value.view === 'above') return '-58 -62 116 124'
  if (art.value.view === 'upright') return props.artwork === 'balloon' ? '-78 -150 156 158' : '-62 -124 124 132'
  return ['bicycle', 'sailboat', 'motorbike'].includes(props.artwork) ? '-60 -120 120 128' : '-56 -84 112 104'
})
</script>

<template>
  <svg :viewBox="viewBox" aria-hidden="true" stroke-linecap="round" stroke-linejoin="round">
    <path
      v-for="(shape, i) in art.shapes"
      :key="`edge-${i}`"
      :d="shape.d"
      fill="none"
      :stroke="PAPER"
      :stroke-width="7 + (shape.width ?? 0)"
    />
    <path
      v-for="(shape, i) in art.shapes"
      :key="i"
      :d="shape.d"
      :fill="shape.fill ? tones[shape.fill] : 'none'"
      :stroke="shape.stroke ? tones[shape.stroke] : 'none'"
      :stroke-width="shape.width ?? 1"
    />
  </svg>
</template>
