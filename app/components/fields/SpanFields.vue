<script setup lang="ts">
import { boundsOf } from '#core/journey/bounds'
import type { Span } from '#core/journey/schema'
import { landmarkSchema } from '#core/journey/schema'
import MomentFields from './MomentFields.vue'
import NumberSlider from './NumberSlider.vue'

/** When something is shown: always, or from one moment of the journey to another. Emits `change`, and `done` at the end of a gesture. */
const props = defineProps<{ modelValue: Span | null }>()
const emit = defineEmits<{ change: [span: Span | null]; done: [] }>()

const SOME: Span = { from: { at: 'start', offset: 0 }, to: { at: 'end', offset: 0 }, fade: 0.6 }

const ENDS = [
  { end: 'from', label: 'From' },
  { end: 'to', label: 'To' },
] as const
const set = (part: Partial<Span>) => emit('change', { ...props.modelValue!, ...part })
function setOnce(span: Span | null) {
  emit('change', span)
  emit('done')
}
</script>

<template>
  <v-switch label="Only part of the film" :model-value="modelValue !== null" @update:model-value="(on) => setOnce(on ? SOME : null)" />
  <template v-if="modelValue">
    <MomentFields
      v-for="{ end, label } in ENDS"
      :key="end"
      :label="label"
      :model-value="modelValue[end]"
      @change="(moment) => set({ [end]: moment })"
      @done="emit('done')"
    />
    <NumberSlider
      label="Fade"
      :model-value="modelValue.fade"
      v-bind="boundsOf(landmarkSchema, 'shown.fade')"
      :usual="[0, 5]"
      :step="0.1"
      :precision="1"
      unit="s"
      @change="(fade) => set({ fade })"
      @done="emit('done')"
    />
  </template>
</template>
