<script setup lang="ts">
import { computed } from 'vue'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { boundsOf } from '#core/journey/bounds'
import type { Journey } from '#core/journey/schema'
import { visitSchema } from '#core/journey/schema'

/** The second of the film at which something happens: as it comes, or held there. */
const props = defineProps<{
  label: string
  /** Null while nothing holds it. */
  held: number | null
  /** When it happens now, in seconds. */
  now: number
  hold: (journey: Journey, seconds: number | null) => Journey
  testid: string
}>()
const { change, done } = useFieldEdits(() => props.testid)

const CHOICES = [
  { value: 'free', title: 'Not held' },
  { value: 'held', title: 'Held at' },
] as const
const time = computed(() => Math.round(props.now * 100) / 100)
function choose(choice: 'free' | 'held') {
  change('kind', (j) => props.hold(j, choice === 'held' ? time.value : null))
  done()
}
</script>

<template>
  <ChoiceRow :label="label" :model-value="held === null ? 'free' : 'held'" :choices="CHOICES" @change="choose" />
  <FieldRow v-if="held !== null" v-slot="{ id }" :label="`${label} at`">
    <NumberField
      :labelledby="id"
      :data-testid="testid"
      :model-value="held"
      v-bind="boundsOf(visitSchema, 'arriveAt')"
      :step="0.1"
      :precision="2"
      unit="s"
      @change="(value) => change('time', (j) => hold(j, value))"
      @done="done"
    />
  </FieldRow>
  <p v-else class="quiet figures">{{ label }} at {{ time.toFixed(2) }} s</p>
</template>
