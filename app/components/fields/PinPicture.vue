<script setup lang="ts">
import { computed } from 'vue'
import type { Pin } from '#core/journey/schema'
import { PIN_DRAWINGS, pinPalette } from '#draw/pin'

/** A pin as an inline picture. */
const props = defineProps<{ shape: Exclude<Pin['shape'], 'none'>; colour: string }>()
const drawing = computed(() => PIN_DRAWINGS[props.shape])
const paints = computed(() => pinPalette(props.colour))
</script>

<template>
  <svg :viewBox="shape === 'bead' ? '-55 -55 110 110' : '-55 -106 110 114'" aria-hidden="true">
    <path v-for="(part, i) in drawing.parts" :key="i" :d="part.d" :fill="paints[part.paint]" />
  </svg>
</template>
