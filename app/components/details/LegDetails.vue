<script setup lang="ts">
import { computed } from 'vue'
import { insertNode, makeDrawn } from '#core/journey/course-edits'
import type { Leg } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useLegEdits } from '~/composables/use-leg-edits'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import CourseFields from './CourseFields.vue'
import InkFields from './InkFields.vue'
import LegPaceFields from './LegPaceFields.vue'
import VehicleFields from './VehicleFields.vue'

const props = defineProps<{ leg: Leg }>()
const editor = useEditor()
const stage = useStage()
const { patch, set, done } = useLegEdits(() => props.leg)

const index = computed(() => editor.traveller!.legs.findIndex((leg) => leg.id === props.leg.id))
const ends = computed(() => [0, 1].map((k) => editor.itinerary!.visits[index.value + k]!.stop.name || 'Without a name'))

const SHAPES = [
  { value: 'straight', title: 'Straight' },
  { value: 'bowed', title: 'Bowed' },
  { value: 'drawn', title: 'Drawn' },
] as const
function setShape(kind: 'straight' | 'bowed' | 'drawn') {
  if (kind === props.leg.course.kind) return
  // A drawn course begins as what was there, with a node to take hold of.
  if (kind === 'drawn') editor.edit((journey) => insertNode(makeDrawn(journey, props.leg.id), props.leg.id, { segment: 0, u: 0.5 }))
  else set({ course: kind === 'straight' ? { kind } : { kind, bow: 0.18 } })
}
</script>

<template>
  <div>
    <h2>{{ ends[0] }} <span class="arrow" aria-label="to">→</span> {{ ends[1] }}</h2>
    <ChoiceRow label="Course" :model-value="leg.course.kind" :choices="SHAPES" @change="setShape" />
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
    <CourseFields v-if="leg.course.kind === 'drawn'" :leg="leg" :course="leg.course" />
    <div class="buttons">
      <v-btn size="small" variant="outlined" :active="stage.tool === 'draw'" @click="stage.toggleTool('draw')">Draw anew</v-btn>
      <v-btn size="small" variant="outlined" :active="stage.tool === 'freehand'" @click="stage.toggleTool('freehand')">By hand</v-btn>
      <v-btn
        size="small"
        variant="outlined"
        :active="stage.tool === 'follow'"
        :disabled="editor.journey!.sheets.length === 0"
        data-testid="along-picture"
        @click="stage.toggleTool('follow')"
        >Along the picture</v-btn
      >
    </div>
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
