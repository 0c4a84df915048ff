<script setup lang="ts">
import { computed } from 'vue'
import { pinPalette } from '#draw/marks/pin'
import type { PinId } from '#core/pins/catalogue'
import { pinDrawing } from '#core/pins/catalogue'

/** A pin as an inline picture. */
const props = defineProps<{ shape: PinId; colour: string }>()
const drawing = computed(() => pinDrawing(props.shape))
const paints = computed(() => pinPalette(props.colour))
/** The pin's box with room for its edge, square, so that all stand side by side. */
const viewBox = computed(() => {
  const { left, right, top, bottom } = drawing.value.box
  const side = 100 * Math.max(right - left, bottom - top, 1) + 16
  return [50 * (left + right) - side / 2, 50 * (top + bottom) - side / 2, side, side].join(' ')
})
</script>

<template>
  <svg :viewBox="viewBox" aria-hidden="true">
    <path v-for="(part, i) in drawing.parts" :key="i" :d="part.d" :fill="paints[part.paint]" />
  </svg>
</template>
