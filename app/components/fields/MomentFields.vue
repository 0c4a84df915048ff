<script setup lang="ts">
import { computed } from 'vue'
import type { Moment } from '#core/journey/schema'
import FieldRow from './FieldRow.vue'
import NumberField from './NumberField.vue'
import { useEditor } from '~/stores/editor'

/** A moment of the journey: what it is tied to, and how long after that it is. Emits `change`, and `done` at the end of a gesture. */
const props = defineProps<{ label: string; modelValue: Moment }>()
const emit = defineEmits<{ change: [moment: Moment]; done: [] }>()
const editor = useEditor()

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

function tie(value: string) {
  emit('change', momentOf(value, 0))
  emit('done')
}
const delay = (offset: number) => emit('change', { ...props.modelValue, offset })
</script>

<template>
  <FieldRow v-slot="{ id }" :label="label">
    <v-select :aria-labelledby="id" :items="moments" :model-value="valueOf(modelValue)" @update:model-value="tie" />
  </FieldRow>
  <FieldRow v-slot="{ id }" label="plus">
    <NumberField
      :labelledby="id"
      :model-value="modelValue.offset"
      :min="-600"
      :max="600"
      :step="0.1"
      :precision="2"
      unit="s"
      @change="delay"
      @done="emit('done')"
    />
  </FieldRow>
</template>
