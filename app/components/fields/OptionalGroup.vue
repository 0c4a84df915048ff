<script setup lang="ts" generic="T extends object">
import FieldList from './FieldList.vue'
import type { FieldSpec } from './field-list'

/** Something that can be left out: a switch, and its fields while it is on. */
const props = defineProps<{
  label: string
  modelValue: T | null
  /** What it begins with when it is switched on. */
  initial: T
  fields: readonly FieldSpec<T>[]
}>()
const emit = defineEmits<{ change: [value: T, fields: string]; toggle: [value: T | null]; done: [] }>()

const change = (values: Partial<T>) => emit('change', { ...props.modelValue!, ...values }, Object.keys(values).join())
</script>

<template>
  <v-switch :label="label" :model-value="modelValue !== null" @update:model-value="(on) => emit('toggle', on ? initial : null)" />
  <div v-if="modelValue" role="group" :aria-label="label">
    <FieldList :model-value="modelValue" :fields="fields" @change="change" @done="emit('done')" />
  </div>
</template>
