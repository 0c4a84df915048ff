<script setup lang="ts">
import { computed } from 'vue'
import { boundsOf } from '#core/journey/bounds'
import type { Shot } from '#core/journey/schema'
import { shotSchema } from '#core/journey/schema'
import FieldList from '~/components/fields/FieldList.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import type { DollyFields } from './shot-fields'
import { dollyFields } from './shot-fields'

/** How the camera moves about what it looks at. Emits the changed shot, and what of it has changed. */
const props = defineProps<{ shot: Shot }>()
const emit = defineEmits<{ change: [shot: Shot, field: string]; done: [] }>()

const dolly = computed<DollyFields>(() => props.shot.dolly ?? { kind: 'still', amount: 0.5 })
function changeDolly(values: Partial<DollyFields>) {
  const { kind, amount } = { ...dolly.value, ...values }
  emit('change', { ...props.shot, dolly: kind === 'still' ? null : { kind, amount } }, 'dolly')
}
</script>

<template>
  <NumberSlider
    label="Orbit"
    data-testid="shot-orbit"
    :model-value="shot.orbit"
    v-bind="boundsOf(shotSchema, 'orbit')"
    :step="1"
    :precision="1"
    unit="°/s"
    @change="(orbit) => emit('change', { ...shot, orbit }, 'orbit')"
    @done="emit('done')"
  />
  <FieldList :model-value="dolly" :fields="dollyFields(shot.dolly)" data-testid="shot-dolly" @change="changeDolly" @done="emit('done')" />
</template>
