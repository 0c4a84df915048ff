<script setup lang="ts">
import { computed } from 'vue'
import { setGround } from '#core/edits/ground/sheets'
import { boundsOf } from '#core/journey/bounds'
import type { Ground } from '#core/journey/schema'
import { groundSchema } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import ColourField from '~/components/fields/ColourField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'

/** What shows beyond the edge of the first sheet. */
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'ground')

const ground = computed(() => editor.journey!.ground)
const set = (field: string, patch: Partial<Ground>) => change(field, (journey) => setGround(journey, patch))
const setPanel = (field: string, patch: Partial<Ground['panel']>) => set(field, { panel: { ...ground.value.panel, ...patch } })
const setOnce = (patch: Partial<Ground>) => editor.edit((journey) => setGround(journey, patch))

const EDGES = [
  { value: 'plain', title: 'Colour' },
  { value: 'mirrored', title: 'Mirrored' },
  { value: 'held', title: 'Kept in' },
  { value: 'panel', title: 'Panel' },
] as const
const WORDS: Record<Ground['edge'], string> = {
  plain: 'The ground colour shows beyond the map.',
  mirrored: 'The map is mirrored at its edges, without a seam.',
  held: 'The camera stays within the map.',
  panel: 'The map is a panel that casts a shadow on the ground.',
}
</script>

<template>
  <template v-if="editor.journey!.sheets.length > 0">
    <ChoiceRow label="Edge" :model-value="ground.edge" :choices="EDGES" @change="(edge) => setOnce({ edge })" />
    <p class="quiet">{{ WORDS[ground.edge] }}</p>
  </template>
  <template v-if="ground.edge === 'plain' || ground.edge === 'panel'">
    <ColourField label="Ground" :model-value="ground.colour" @change="(colour) => set('colour', { colour })" @done="done" />
    <v-switch
      label="Gradient to a second colour"
      :model-value="ground.second !== null"
      @update:model-value="(on) => setOnce({ second: on ? '#8fb3b5' : null })"
    />
    <template v-if="ground.second !== null">
      <ColourField label="Second" :model-value="ground.second" @change="(second) => set('second', { second })" @done="done" />
      <NumberSlider
        label="Direction"
        :model-value="ground.direction"
        v-bind="boundsOf(groundSchema, 'direction')"
        unit="°"
        @change="(direction) => set('direction', { direction })"
        @done="done"
      />
    </template>
  </template>
  <template v-if="ground.edge === 'panel'">
    <PercentSlider
      label="Shadow"
      :model-value="ground.panel.shadow"
      @change="(value) => setPanel('shadow', { shadow: value })"
      @done="done"
    />
    <NumberSlider
      label="Reach"
      :model-value="ground.panel.reach"
      v-bind="boundsOf(groundSchema, 'panel.reach')"
      unit="px"
      @change="(reach) => setPanel('reach', { reach })"
      @done="done"
    />
    <NumberSlider
      label="Border"
      :model-value="ground.panel.border"
      v-bind="boundsOf(groundSchema, 'panel.border')"
      unit="px"
      @change="(border) => setPanel('border', { border })"
      @done="done"
    />
    <ColourField
      v-if="ground.panel.border > 0"
      label="Colour"
      :model-value="ground.panel.borderColour"
      @change="(borderColour) => setPanel('border colour', { borderColour })"
      @done="done"
    />
  </template>
</template>
