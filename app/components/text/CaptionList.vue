<script setup lang="ts">
import { nanoid } from 'nanoid'
import { computed } from 'vue'
import { addCaption, moveCaption, setMeasures } from '#core/edits/marks/captions'
import type { CaptionKind } from '#core/journey/schema'
import { CAPTION_NAMES, nameOfCaption } from '#core/journey/lookup'
import { LIMITS } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import SortableList from '~/components/fields/SortableList.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import { newContent, UNIT_CHOICES } from './caption-kinds'

/** The titles and readouts of the film, and what distances are measured in. */
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'captions')
const journey = computed(() => editor.journey!)
const kinds = Object.entries(CAPTION_NAMES) as [CaptionKind, string][]

function add(kind: CaptionKind) {
  const id = nanoid(10)
  if (editor.edit((j) => addCaption(j, id, newContent(kind, j.name)))) editor.select({ kind: 'caption', id })
}
/** The scale that is told to people: how many metres a thousand ground units are. */
const scale = computed(() => (journey.value.measures.metresPerUnit ?? 0) * 1000)
</script>

<template>
  <SortableList
    label="Titles and readouts"
    testid="caption"
    :entries="journey.captions.map((caption) => ({ id: caption.id, name: nameOfCaption(caption) }))"
    @choose="(id) => editor.select({ kind: 'caption', id })"
    @move="(from, to) => editor.edit((j) => moveCaption(j, from, to))"
  />
  <v-menu v-if="journey.captions.length < LIMITS.captions">
    <template #activator="{ props: menu }">
      <v-btn v-bind="menu" size="small" variant="outlined" data-testid="add-caption">Add …</v-btn>
    </template>
    <v-list density="compact">
      <v-list-item v-for="[kind, title] in kinds" :key="kind" :title="title" @click="add(kind)" />
    </v-list>
  </v-menu>
  <ChoiceRow
    label="Distances"
    :model-value="journey.measures.unit"
    :choices="UNIT_CHOICES"
    @change="(unit) => editor.edit((j) => setMeasures(j, { unit }))"
  />
  <template v-if="!editor.geo">
    <FieldRow v-slot="{ id }" label="Map scale">
      <NumberField
        :labelledby="id"
        data-testid="map-scale"
        :model-value="scale"
        :min="0"
        :max="1e9"
        :step="10"
        :precision="2"
        unit="m"
        @change="(metres) => change('scale', (j) => setMeasures(j, { metresPerUnit: metres > 0 ? metres / 1000 : null }))"
        @done="done"
      />
    </FieldRow>
    <p class="quiet">Metres per 1,000 map pixels, as the map is not georeferenced. Without it no distances are shown.</p>
  </template>
</template>
