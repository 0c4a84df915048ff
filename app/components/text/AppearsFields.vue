<script setup lang="ts">
import { USUAL_APPEARING, usualApart } from '#core/marks/reveal'
import type { Appears } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import LastsField from '~/components/fields/LastsField.vue'
import { APPEARS_BY, APPEARS_STYLES } from './text-fields'

/** How a text comes into the picture. Emits what it changes to, and which field of it; `once` for a single change. */
const props = withDefaults(defineProps<{ modelValue: Appears; hasParts?: boolean }>(), { hasParts: true })
const emit = defineEmits<{ change: [appears: Appears, field: string]; once: [appears: Appears]; done: [] }>()
const change = (values: Partial<Appears>) => emit('change', { ...props.modelValue, ...values }, Object.keys(values).join())
</script>

<template>
  <ChoiceRow
    label="Appears"
    :model-value="modelValue.style"
    :choices="APPEARS_STYLES"
    @change="(style) => emit('once', { ...modelValue, style })"
  />
  <ChoiceRow
    v-if="hasParts"
    label="In parts"
    :model-value="modelValue.by"
    :choices="APPEARS_BY"
    @change="(by) => emit('once', { ...modelValue, by })"
  />
  <LastsField
    v-if="modelValue.style !== 'none'"
    label="Takes"
    data-testid="appears-takes"
    :model-value="modelValue.seconds"
    :usual="USUAL_APPEARING"
    @change="(seconds) => change({ seconds })"
    @done="emit('done')"
  />
  <LastsField
    v-if="hasParts && modelValue.by !== 'whole'"
    label="Apart"
    :model-value="modelValue.apart"
    :usual="usualApart(modelValue.by, 2)"
    :min="0"
    :max="2"
    @change="(apart) => change({ apart })"
    @done="emit('done')"
  />
</template>
