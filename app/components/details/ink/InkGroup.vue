<script setup lang="ts">
import { computed } from 'vue'
import { inksOf } from '#core/journey/lookup'
import type { Leg } from '#core/journey/schema'
import type { FieldSpec } from '~/components/fields/field-list'
import OptionalGroup from '~/components/fields/OptionalGroup.vue'
import { useLegEdits } from '~/composables/use-leg-edits'
import { INK_PARTS } from './ink-fields'

/** A part of one of a leg's lines that can be left out, such as its casing. */
const props = defineProps<{ leg: Leg; layer: number; part: keyof typeof INK_PARTS; label: string }>()
const { patch, set, done } = useLegEdits(() => props.leg)

const value = computed<object | null>(() => (inksOf(props.leg)[props.layer] ?? props.leg.ink)[props.part])
const parts = computed(() => INK_PARTS[props.part] as { initial: object; fields: readonly FieldSpec<object>[] })
</script>

<template>
  <OptionalGroup
    :label="label"
    :model-value="value"
    :initial="parts.initial"
    :fields="parts.fields"
    @change="(next, fields) => patch(`${layer} ${part} ${fields}`, { ink: { [part]: next }, layer })"
    @toggle="(next) => set({ ink: { [part]: next }, layer })"
    @done="done"
  />
</template>
