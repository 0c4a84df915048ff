<script setup lang="ts">
import { computed } from 'vue'
import type { VehicleId } from '#core/vehicles/catalogue'
import { artworkOf } from '#core/vehicles/catalogue'
import { EDGE } from '#core/dress/vehicle'
import { palette, PAPER } from '#draw/colour'

/** A vehicle's artwork as an inline picture, with the same light edge as in the film. */
const props = defineProps<{ artwork: VehicleId; colour: string; second?: string; third?: string }>()
const art = computed(() => artworkOf(props.artwork))
const tones = computed(() => palette({ body: props.colour, second: props.second, third: props.third }))
/** The drawing's bounds with room for its edge, square, so that all stand side by side at one size. */
const viewBox = computed(() => {
  const { left, top, right, bottom } = art.value.bounds
  const side = Math.max(right - left, bottom - top) + 2 * EDGE
  return [(left + right - side) / 2, (top + bottom - side) / 2, side, side].join(' ')
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
      :stroke-width="EDGE + (shape.width ?? 0)"
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
