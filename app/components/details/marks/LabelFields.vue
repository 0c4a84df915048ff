<script setup lang="ts">
import { computed } from 'vue'
import type { Marked } from '#core/trips/compiled'
import { boundsOf } from '#core/journey/bounds'
import type { Label, LabelPlaceChoice, Side } from '#core/journey/schema'
import { labelSchema } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import NumberField from '~/components/fields/NumberField.vue'
import AppearsFields from '~/components/text/AppearsFields.vue'
import TextStyleFields from '~/components/text/TextStyleFields.vue'
import { useMarkEdits } from '~/composables/use-mark-edits'
import { useEditor } from '~/stores/editor'
import SidePicker from '../../fields/SidePicker.vue'

/** The name beside the pin of a stop, or of a mark beside the way: where it lies, how it is set, what stands under it and how it appears. */
const props = defineProps<{ stop: Marked; isBeside?: boolean }>()
const editor = useEditor()
const { patch, set, done } = useMarkEdits(() => props.stop)

const label = computed(() => props.stop.label)
/** Where it lies now: reference pixels from the stop to its middle. */
const laid = computed(() => editor.compiled!.marks.find((mark) => mark.stop.id === props.stop.id)?.label)
const middle = computed(() => {
  if (!laid.value) return { x: 0, y: 0 }
  const { block, align, x, top } = laid.value
  const aside = align === 'left' ? block.width / 2 : align === 'right' ? -block.width / 2 : 0
  return { x: Math.round(x + aside), y: Math.round(top + block.height / 2) }
})

const PLACES = [
  { value: 'automatic', title: 'Automatic' },
  { value: 'side', title: 'Side' },
  { value: 'free', title: 'By hand' },
] as const satisfies readonly { value: LabelPlaceChoice['kind']; title: string }[]
function setPlace(kind: LabelPlaceChoice['kind']) {
  if (kind === label.value.place.kind) return
  // It stays where it is.
  const places = {
    automatic: { kind: 'automatic' },
    side: { kind: 'side', side: sideNow() },
    free: { kind: 'free', ...middle.value },
  } as const satisfies Record<LabelPlaceChoice['kind'], LabelPlaceChoice>
  set({ label: { place: places[kind] } })
}
/** The side on which the label lies now, by where its middle is. */
function sideNow(): Side {
  const { x, y } = middle.value
  const [across, along] = [x > 20 ? 'right' : x < -20 ? 'left' : '', y < -props.stop.pin.size ? 'top' : y > 20 ? 'bottom' : '']
  return ([along, across].filter(Boolean).join('-') || 'right') as Side
}

const SECONDS = [
  { value: 'none', title: 'Nothing' },
  { value: 'note', title: 'Note' },
  { value: 'date', title: 'Date' },
  { value: 'distance', title: 'Distance' },
] as const
/** A mark beside the way is not reached, so it has no date, and no distance from the start. */
const seconds = computed(() => (props.isBeside ? SECONDS.slice(0, 2) : SECONDS))
type SecondKind = (typeof SECONDS)[number]['value']
const SECOND_LINES: Readonly<Record<SecondKind, Label['second']>> = {
  none: null,
  note: { kind: 'note', text: '' },
  date: { kind: 'date' },
  distance: { kind: 'distance' },
}
const date = computed(() => editor.compiled!.marks.find((mark) => mark.stop.id === props.stop.id)?.date ?? null)
const knowsDistance = computed(() => editor.geo !== undefined || editor.journey!.measures.metresPerUnit !== null)

const note = computed(() => {
  const { second, appears, leader } = label.value
  const words = [second?.kind, appears.by !== 'whole' && `by ${appears.by}`, appears.style !== 'pop' && appears.style, !leader && 'no line']
  return words.filter(Boolean).join(', ') || 'none'
})
</script>

<template>
  <v-switch label="Show the name" :model-value="label.shown" @update:model-value="(shown) => set({ label: { shown: shown === true } })" />
  <template v-if="label.shown">
    <ChoiceRow label="Place" :model-value="label.place.kind" :choices="PLACES" @change="setPlace" />
    <p v-if="editor.crowdedLabels.has(stop.id)" class="flag" role="status" data-testid="crowded-name">
      At times this name overlaps something or leaves the frame. Drag it elsewhere, or make it smaller.
    </p>
    <FieldRow v-if="label.place.kind === 'side'" v-slot="{ id }" label="Side">
      <SidePicker
        :aria-labelledby="id"
        :model-value="label.place.side"
        @change="(side) => set({ label: { place: { kind: 'side', side } } })"
      />
    </FieldRow>
    <FieldRow v-else-if="label.place.kind === 'free'" label="From the pin" role="group">
      <div class="pair">
        <NumberField
          v-for="axis in ['x', 'y'] as const"
          :key="axis"
          :label="axis"
          :model-value="label.place[axis]"
          v-bind="boundsOf(labelSchema, 'place.x')"
          unit="px"
          @change="(value) => patch(`label ${axis}`, { label: { place: { kind: 'free', ...middle, [axis]: value } } })"
          @done="done"
        />
      </div>
    </FieldRow>
    <TextStyleFields
      :model-value="label.style"
      :sample="stop.name"
      :largest="140"
      @change="(style, field) => patch(`label ${field}`, { label: { style } })"
      @done="done"
    />
    <FoldedSection title="Second line, entrance" :note="note">
      <ChoiceRow
        label="Below"
        :model-value="label.second?.kind ?? 'none'"
        :choices="seconds"
        @change="(kind) => set({ label: { second: SECOND_LINES[kind] } })"
      />
      <FieldRow v-if="label.second?.kind === 'note'" v-slot="{ id }" label="Note">
        <v-text-field
          :aria-labelledby="id"
          :model-value="label.second.text"
          maxlength="120"
          @update:model-value="(text: string) => patch('note', { label: { second: { kind: 'note', text } } })"
          @blur="done"
        />
      </FieldRow>
      <p v-else-if="label.second?.kind === 'date' && date === null" class="quiet">Set the day of arrival under Layover to see it.</p>
      <p v-else-if="label.second?.kind === 'distance' && !knowsDistance" class="quiet">
        The map is not georeferenced: set its scale in the journey’s details, under Titles and readouts.
      </p>
      <v-switch
        label="Leader line when far away"
        :model-value="label.leader"
        @update:model-value="(leader) => set({ label: { leader: leader === true } })"
      />
      <AppearsFields
        :model-value="label.appears"
        @once="(appears) => set({ label: { appears } })"
        @change="(appears, field) => patch(`appears ${field}`, { label: { appears } })"
        @done="done"
      />
      <NumberSlider
        label="Later by"
        :model-value="label.delay"
        v-bind="boundsOf(labelSchema, 'delay')"
        :usual="[-2, 5]"
        :step="0.1"
        :precision="2"
        unit="s"
        @change="(delay) => patch('label delay', { label: { delay } })"
        @done="done"
      />
    </FoldedSection>
  </template>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
</style>
