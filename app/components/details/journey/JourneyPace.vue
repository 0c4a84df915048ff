<script setup lang="ts">
import { computed } from 'vue'
import { setShare } from '#core/edits/pace/pace'
import { editTraveller } from '#core/edits/trips/travellers'
import { boundsOf } from '#core/journey/bounds'
import type { Share } from '#core/journey/schema'
import { travellerSchema } from '#core/journey/schema'
import { recordedSeconds } from '#core/courses/leg-weights'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'

/** How automatic travel times are shared out, and when the traveller sets off. */
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'pace')
const traveller = computed(() => editor.traveller!)
const share = computed(() => editor.journey!.share)

const isRecorded = computed(() => traveller.value.legs.some((leg) => recordedSeconds(leg) !== undefined))
const WAYS = computed<{ value: Share['by']; title: string }[]>(() => [
  { value: 'distance', title: 'Distance' },
  { value: 'speed', title: 'Vehicle speed' },
  ...(isRecorded.value || share.value.by === 'recorded' ? [{ value: 'recorded' as const, title: 'Recorded' }] : []),
])
</script>

<template>
  <h3>Pace</h3>
  <ChoiceRow label="Split time by" :model-value="share.by" :choices="WAYS" @change="(by) => editor.edit((j) => setShare(j, { by }))" />
  <PercentSlider
    v-if="share.by === 'distance'"
    label="How much"
    :model-value="share.exponent"
    @change="(exponent) => change('exponent', (j) => setShare(j, { exponent }))"
    @done="done"
  />
  <p class="quiet">
    <template v-if="share.by === 'distance'">At 0 % all legs take equally long; at 100 % time is proportional to distance.</template>
    <template v-else-if="share.by === 'speed'"
      >Legs share the time in proportion to what their vehicles would need; see a leg’s pace.</template
    >
    <template v-else>Recorded legs keep their recorded times, in proportion; others use their vehicle’s speed.</template>
  </p>
  <FieldRow v-slot="{ id }" label="Start delay">
    <NumberField
      :labelledby="id"
      :model-value="traveller.startDelay"
      v-bind="boundsOf(travellerSchema, 'startDelay')"
      :step="0.1"
      :precision="2"
      unit="s"
      @change="(value) => change('delay', (j) => editTraveller(j, traveller.id, { startDelay: value }))"
      @done="done"
    />
  </FieldRow>
</template>
