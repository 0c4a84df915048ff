<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import type { Size } from '#core/geometry/size'
import type { CompiledJourney } from '#core/trips/compiled'
import { useStagePicture } from '~/composables/use-stage-picture'

/** A journey at the play position, as large as fits into some room in CSS pixels. */
const props = defineProps<{ compiled: CompiledJourney; room: Size; label: string }>()
const emit = defineEmits<{ painted: [] }>()
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const size = computed(() => {
  const { width, height } = props.compiled.reference
  const k = Math.min(props.room.width / width, props.room.height / height)
  return { width: Math.max(1, Math.round(width * k)), height: Math.max(1, Math.round(height * k)) }
})
useStagePicture(
  canvas,
  () => props.compiled,
  size,
  () => emit('painted'),
)
</script>

<template>
  <canvas ref="canvas" role="img" :aria-label="label" :style="{ width: `${size.width}px`, height: `${size.height}px` }" />
</template>

<style scoped>
canvas {
  display: block;
}
</style>
