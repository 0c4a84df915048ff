<script setup lang="ts">
import { computed } from 'vue'
import type { Moment, Span } from '#core/journey/schema'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useEditor } from '~/stores/editor'

/** When something is shown: always, or from one moment of the journey to another. Emits `change`, and `done` at the end of a gesture. */
const props = defineProps<{ modelValue: Span | null }>()
const emit = defineEmits<{ change: [span: Span | null]; done: [] }>()
const editor = useEditor()

const SOME: Span = { from: { at: 'start', offset: 0 }, to: { at: 'end', offset: 0 }, fade: 0.6 }

/** A moment as the value of a list, and back. */
const valueOf = (moment: Moment): string => ('stop' in moment ? `${moment.at} ${moment.stop}` : moment.at)
function momentOf(value: string, offset: number): Moment {
  const [at, stop] = value.split(' ')
  return stop === undefined ? { at: at as 'start' | 'end', offset } : { at: at as 'arrival' | 'departure', stop, offset }
}

const moments = computed(() => [
  { value: 'start', title: 'Start of the film' },
  ...editor.journey!.stops.flatMap(({ id, name: given }) => {
    const name = given || 'a stop'
    return [
      { value: `arrival ${id}`, title: `Arrival at ${name}` },
      { value: `departure ${id}`, title: `Departure from ${name}` },
    ]
  }),
  { value: 'end', title: 'End of the film' },
])

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
    <template v-for="{ end, label } in ENDS" :key="end">
      <FieldRow v-slot="{ id }" :label="label">
        <v-select
          :aria-labelledby="id"
          :items="moments"
          :model-value="valueOf(modelValue[end])"
          @update:model-value="(value) => setOnce({ ...modelValue!, [end]: momentOf(value, 0) })"
        />
      </FieldRow>
      <FieldRow v-slot="{ id }" label="plus">
        <NumberField
          :labelledby="id"
          :model-value="modelValue[end].offset"
          :min="-600"
          :max="600"
          :step="0.1"
          :precision="2"
          unit="s"
          @change="(offset) => set({ [end]: { ...modelValue![end], offset } })"
          @done="emit('done')"
        />
      </FieldRow>
    </template>
    <NumberSlider
      label="Fade"
      :model-value="modelValue.fade"
      :min="0"
      :max="5"
      :step="0.1"
      :precision="1"
      unit="s"
      @change="(fade) => set({ fade })"
      @done="emit('done')"
    />
  </template>
</template>
