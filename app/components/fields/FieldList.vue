<script setup lang="ts" generic="T extends object">
import ChoiceRow from './ChoiceRow.vue'
import ColourField from './ColourField.vue'
import type { FieldSpec } from './field-list'
import NumberSlider from './NumberSlider.vue'
import PercentSlider from './PercentSlider.vue'

/** Fields for the values of an object, one below the other. Emits the values that change, while they do, and `done` at the end. */
const props = defineProps<{ modelValue: T; fields: readonly FieldSpec<T>[] }>()
const emit = defineEmits<{ change: [values: Partial<T>]; done: [] }>()

const valueOf = <V,>(key: keyof T) => props.modelValue[key] as V
const change = (key: keyof T, value: unknown) => emit('change', { [key]: value } as Partial<T>)
/** A value that is set at a click. */
function set(key: keyof T, value: unknown) {
  change(key, value)
  emit('done')
}
</script>

<template>
  <template v-for="field in fields" :key="field.key">
    <ColourField
      v-if="field.as === 'colour'"
      :label="field.label"
      :model-value="valueOf<string>(field.key)"
      @change="(value) => change(field.key, value)"
      @done="emit('done')"
    />
    <PercentSlider
      v-else-if="field.as === 'percent'"
      :label="field.label"
      :min="field.min"
      :max="field.max"
      :model-value="valueOf<number>(field.key)"
      @change="(value) => change(field.key, value)"
      @done="emit('done')"
    />
    <NumberSlider
      v-else-if="field.as === 'number'"
      :label="field.label"
      :model-value="valueOf<number>(field.key)"
      :min="field.min"
      :max="field.max"
      :usual="field.usual"
      :step="field.step ?? 1"
      :precision="field.precision ?? 0"
      :unit="field.unit ?? ''"
      @change="(value) => change(field.key, value)"
      @done="emit('done')"
    />
    <ChoiceRow
      v-else-if="field.as === 'choice'"
      :label="field.label"
      :model-value="valueOf<string>(field.key)"
      :choices="field.choices"
      @change="(value) => set(field.key, value)"
    />
    <v-switch
      v-else-if="field.as === 'switch'"
      :label="field.label"
      :model-value="valueOf<boolean>(field.key)"
      @update:model-value="(value) => set(field.key, value === true)"
    />
    <template v-else>{{ field satisfies never }}</template>
  </template>
</template>
