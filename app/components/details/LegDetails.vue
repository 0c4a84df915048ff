<script setup lang="ts">
import { computed } from 'vue'
import type { Leg } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useLegEdits } from '~/composables/use-leg-edits'
import { useEditor } from '~/stores/editor'
import InkFields from './InkFields.vue'
import LegPaceFields from './LegPaceFields.vue'
import VehicleFields from './VehicleFields.vue'

const props = defineProps<{ leg: Leg }>()
const editor = useEditor()
const { patch, set, done } = useLegEdits(() => props.leg)

const index = computed(() => editor.traveller!.legs.findIndex((leg) => leg.id === props.leg.id))
const ends = computed(() => [0, 1].map((k) => editor.itinerary!.visits[index.value + k]!.stop.name || 'Without a name'))

const shapes = computed(() => [
  { value: 'straight' as const, title: 'Straight' },
  { value: 'bowed' as const, title: 'Bowed' },
  ...(props.leg.course.kind === 'drawn' ? [{ value: 'drawn' as const, title: 'Drawn' }] : []),
])
function setShape(kind: 'straight' | 'bowed' | 'drawn') {
  if (kind === props.leg.course.kind || kind === 'drawn') return
  set({ course: kind === 'straight' ? { kind } : { kind, bow: 0.18 } })
}
</script>

<template>
  <div>
    <h2>{{ ends[0] }} <span class="arrow" aria-label="to">→</span> {{ ends[1] }}</h2>
    <ChoiceRow label="Course" :model-value="leg.course.kind" :choices="shapes" @change="setShape" />
    <NumberSlider
      v-if="leg.course.kind === 'bowed'"
      label="Bow"
      :model-value="Math.round(leg.course.bow * 100)"
      :min="-100"
      :max="100"
      unit="%"
      @change="(value) => patch('bow', { course: { kind: 'bowed', bow: value / 100 } })"
      @done="done"
    />
    <h3>Vehicle</h3>
    <VehicleFields :leg="leg" />
    <h3>Ink</h3>
    <InkFields :leg="leg" />
    <h3>Pace</h3>
    <LegPaceFields :leg="leg" :index="index" />
  </div>
</template>

<style scoped>
.arrow {
  color: var(--vermilion);
}
</style>
