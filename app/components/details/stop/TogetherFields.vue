<script setup lang="ts">
import { computed } from 'vue'
import { moveTogether, similarity, stackPins } from '#core/edits/trips/together'
import type { Similarity } from '#core/edits/trips/together'
import { greatest, least } from '#core/geometry/extremes'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import { useEditor } from '~/stores/editor'

/** Moves, turns and scales the selected stops by numbers, about the middle of the box round them: the fields say by how much, and are back at nothing once it is done. */
const editor = useEditor()

const middle = computed(() => {
  const places = editor.journey!.stops.filter(({ id }) => editor.selectedIds.includes(id)).map(({ at }) => at)
  const between = (values: number[]) => (least(values) + greatest(values)) / 2
  return { x: between(places.map(({ x }) => x)), y: between(places.map(({ y }) => y)) }
})
function apply(change: Omit<Similarity, 'pivot'>) {
  const move = similarity({ pivot: middle.value, ...change })
  editor.edit((journey) => moveTogether(journey, editor.selectedIds, move))
}
</script>

<template>
  <div class="together">
    <FieldRow label="Move by" role="group">
      <div class="pair">
        <NumberField label="x" :model-value="0" :precision="1" @change="(x) => apply({ by: { x, y: 0 } })" />
        <NumberField label="y" :model-value="0" :precision="1" @change="(y) => apply({ by: { x: 0, y } })" />
      </div>
    </FieldRow>
    <FieldRow v-slot="{ id }" label="Turn by">
      <NumberField
        :labelledby="id"
        :model-value="0"
        :min="-360"
        :max="360"
        :precision="2"
        unit="°"
        data-testid="together-turn"
        @change="(turn) => apply({ turn })"
      />
    </FieldRow>
    <FieldRow v-slot="{ id }" label="Scale to">
      <NumberField
        :labelledby="id"
        :model-value="100"
        :min="2"
        :max="5000"
        :precision="2"
        unit="%"
        data-testid="together-scale"
        @change="(percent) => apply({ scale: percent / 100 })"
      />
    </FieldRow>
    <div class="buttons">
      <v-btn
        size="small"
        variant="outlined"
        data-testid="stack-pins"
        @click="editor.edit((journey) => stackPins(journey, editor.selectedIds))"
        >Stack their pins</v-btn
      >
    </div>
  </div>
</template>

<style scoped>
/* Room for the label above the first field that follows. */
.together {
  margin-bottom: 14px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
</style>
