<script setup lang="ts">
import NumberSlider from './NumberSlider.vue'

/** A share, of 0..1 where nothing else is said, shown and typed in percent. */
withDefaults(defineProps<{ label: string; modelValue: number; min?: number | undefined; max?: number | undefined }>(), { min: 0, max: 1 })
const emit = defineEmits<{ change: [share: number]; done: [] }>()
</script>

<template>
  <NumberSlider
    :label="label"
    :model-value="Math.round(modelValue * 100)"
    :min="100 * min"
    :max="100 * max"
    unit="%"
    @change="(percent) => emit('change', percent / 100)"
    @done="emit('done')"
  />
</template>
