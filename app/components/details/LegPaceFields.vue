<script setup lang="ts">
import { computed } from 'vue'
import type { Easing, Leg } from '#core/journey/schema'
import { EASING_NAMES } from '#core/journey/schema'
import { NAMED_CURVES } from '#core/pace/easing'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useLegEdits } from '~/composables/use-leg-edits'
import { useEditor } from '~/stores/editor'

const props = defineProps<{ leg: Leg; index: number }>()
const editor = useEditor()
const { patch, set, done } = useLegEdits(() => props.leg)

/** Seconds the leg takes now, set or automatic. */
const takes = computed(() => {
  const { depart, arrive } = editor.itinerary!.legs[props.index]!
  return Math.round((arrive - depart) * 100) / 100
})
const TRAVEL = [
  { value: 'shared', title: 'Automatic' },
  { value: 'set', title: 'Set' },
] as const

const TITLES: Record<(typeof EASING_NAMES)[number], string> = {
  gentle: 'Gentle',
  recorded: 'As recorded',
  linear: 'Even',
  'ease-in': 'Starts slowly',
  'ease-out': 'Ends slowly',
  'ease-in-out': 'Slow at both ends',
}
type EasingChoice = (typeof EASING_NAMES)[number] | 'own'
/** The recorded pace is offered only for recorded tracks. */
const easings = computed(() => {
  const { course, easing } = props.leg
  const isRecorded = easing === 'recorded' || (course.kind === 'track' && course.times !== null)
  const offered = ([...EASING_NAMES, 'own'] as const).filter((name) => name !== 'recorded' || isRecorded)
  return offered.map((value) => ({ value, title: value === 'own' ? 'Custom curve' : TITLES[value] }))
})

const curve = computed(() => (typeof props.leg.easing === 'string' ? undefined : props.leg.easing))
const setEasing = (choice: EasingChoice) => set({ easing: choice === 'own' ? [...NAMED_CURVES['ease-in-out']] : choice })
function setCurve(k: number, value: number) {
  const next = [...curve.value!] as Exclude<Easing, string>
  next[k] = value
  patch(`curve ${k}`, { easing: next })
}
</script>

<template>
  <ChoiceRow
    label="Travel time"
    :model-value="leg.travel === null ? 'shared' : 'set'"
    :choices="TRAVEL"
    @change="(value) => set({ travel: value === 'set' ? takes : null })"
  />
  <NumberSlider
    v-if="leg.travel !== null"
    label="Takes"
    :model-value="leg.travel"
    :min="0.1"
    :max="30"
    :step="0.1"
    :precision="2"
    unit="s"
    @change="(travel) => patch('travel', { travel })"
    @done="done"
  />
  <p v-else class="quiet figures">Takes {{ takes.toFixed(2) }} s</p>
  <FieldRow v-slot="{ id }" label="Easing">
    <v-select
      :aria-labelledby="id"
      :items="easings"
      :model-value="curve ? 'own' : leg.easing"
      @update:model-value="(value) => setEasing(value as EasingChoice)"
    />
  </FieldRow>
  <div v-if="curve" class="curve" role="group" aria-label="Custom curve, as in CSS cubic-bezier()">
    <NumberField
      v-for="(value, k) in curve"
      :key="k"
      :label="['x1', 'y1', 'x2', 'y2'][k]"
      :model-value="value"
      :min="k % 2 === 0 ? 0 : -4"
      :max="k % 2 === 0 ? 1 : 5"
      :step="0.05"
      :precision="2"
      @change="(next) => setCurve(k, next)"
      @done="done"
    />
  </div>
</template>

<style scoped>
.curve {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
  margin-top: 8px;
}
</style>
