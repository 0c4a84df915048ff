<script setup lang="ts">
import NumberSlider from './NumberSlider.vue'

/** A share of 0..1, shown and typed in percent. */
defineProps<{ label: string; modelValue: number }>()
const emit = defineEmits<{ change: [share: number]; done: [] }>()
</script>

<template>
  <NumberSlider
    :label="label"
    :model-value="Math.round(modelValue * 100)"
    :min="0"
    :max="100"
    unit="%"
    @change="(percent) => emit('change', percent / 100)"
    @done="emit('done')"
  />
</template>
