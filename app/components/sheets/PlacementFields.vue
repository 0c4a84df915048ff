<script setup lang="ts">
import { computed } from 'vue'
import { editSheet } from '#core/edits/ground/sheets'
import { boundsOf } from '#core/journey/bounds'
import type { Place, Sheet } from '#core/journey/schema'
import { sheetSchema } from '#core/journey/schema'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import SpanFields from '~/components/fields/SpanFields.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'

/** Placement, opacity and span of an upper sheet. */
const props = defineProps<{ sheet: Sheet }>()
const editor = useEditor()
const stage = useStage()
const { change, done } = useFieldEdits(() => `sheet ${props.sheet.id}`)

const set = (field: string, patch: Parameters<typeof editSheet>[2]) => change(field, (journey) => editSheet(journey, props.sheet.id, patch))
const setPlace = (field: keyof Place, value: number) => set(field, { place: { ...props.sheet.place, [field]: value } })
const aligning = computed(() => stage.tool === 'align')
const STEPS = ['a spot on this map', 'where that spot belongs', 'a second spot on this map, far from the first', 'where that one belongs']
</script>

<template>
  <h3>Above the others</h3>
  <PercentSlider label="Opacity" :model-value="sheet.opacity" @change="(value) => set('opacity', { opacity: value })" @done="done" />
  <v-switch
    label="For tracing only, never in the film"
    :model-value="sheet.tracing"
    @update:model-value="(tracing) => editor.edit((journey) => editSheet(journey, sheet.id, { tracing: tracing === true }))"
  />
  <SpanFields v-if="!sheet.tracing" :model-value="sheet.shown" @change="(shown) => set('shown', { shown })" @done="done" />

  <h3>Place</h3>
  <p class="quiet">Drag it on the stage; drag a corner to scale it, the round handle to turn it.</p>
  <FieldRow label="Ground" role="group">
    <div class="pair">
      <NumberField label="x" :model-value="sheet.place.x" :precision="1" @change="(x) => setPlace('x', x)" @done="done" />
      <NumberField label="y" :model-value="sheet.place.y" :precision="1" @change="(y) => setPlace('y', y)" @done="done" />
    </div>
  </FieldRow>
  <FieldRow v-slot="{ id }" label="Scale">
    <NumberField
      :labelledby="id"
      :model-value="sheet.place.scale"
      v-bind="boundsOf(sheetSchema, 'place.scale')"
      :step="0.01"
      :precision="4"
      @change="(scale) => setPlace('scale', scale)"
      @done="done"
    />
  </FieldRow>
  <div class="buttons">
    <v-btn
      size="small"
      variant="outlined"
      :active="aligning"
      data-testid="align-sheet"
      @click="stage.setTool(aligning ? 'select' : 'align')"
    >
      {{ aligning ? 'Stop aligning' : 'Align by two points' }}
    </v-btn>
  </div>
  <p v-if="aligning" class="step" role="status">Click {{ STEPS[stage.alignment.length] }} ({{ stage.alignment.length + 1 }} of 4).</p>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.step {
  margin-top: 8px;
  padding-left: 10px;
  border-left: 4px solid var(--vermilion);
}
</style>
