<script setup lang="ts">
import { clamp } from '#core/geometry/clamp'
import type { Range } from './field-list'
import FieldRow from './FieldRow.vue'
import NumberField from './NumberField.vue'

/** A number by slider or by typing. Emits `change` while it moves and `done` at the end. The slider spans `usual`, or all from `min` to `max`. */
const props = withDefaults(
  defineProps<{
    label: string
    modelValue: number
    min: number
    max: number
    usual?: Range | undefined
    step?: number
    unit?: string
    precision?: number
  }>(),
  { usual: undefined, step: 1, unit: '', precision: 0 },
)
const emit = defineEmits<{ change: [value: number]; done: [] }>()

function take(value: number) {
  const clamped = clamp(value, props.min, props.max)
  if (clamped !== props.modelValue) emit('change', clamped)
}
</script>

<template>
  <FieldRow v-slot="{ id }" :label="label">
    <div class="pair">
      <v-slider
        :aria-labelledby="id"
        :model-value="modelValue"
        :min="usual?.[0] ?? min"
        :max="usual?.[1] ?? max"
        :step="step"
        @update:model-value="take"
        @end="emit('done')"
      />
      <NumberField
        :labelledby="id"
        :model-value="modelValue"
        :min="min"
        :max="max"
        :step="step"
        :precision="precision"
        :unit="unit"
        @change="take"
        @done="emit('done')"
      />
    </div>
  </FieldRow>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 84px;
  align-items: center;
  gap: 8px;
}
</style>
