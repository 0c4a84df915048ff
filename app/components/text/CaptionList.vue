<script setup lang="ts">
import { mdiDragVertical } from '@mdi/js'
import { nanoid } from 'nanoid'
import Sortable from 'sortablejs'
import { computed, onBeforeUnmount, onMounted, useTemplateRef } from 'vue'
import { addCaption, moveCaption, setMeasures } from '#core/edits/captions'
import type { Caption, CaptionKind } from '#core/journey/schema'
import { LIMITS } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import { CAPTION_NAMES, newContent, UNIT_CHOICES } from './caption-kinds'

/** The titles and readouts of the film, and what distances are measured in. */
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'captions')
const journey = computed(() => editor.journey!)
const kinds = Object.entries(CAPTION_NAMES) as [CaptionKind, string][]

function add(kind: CaptionKind) {
  const id = nanoid(10)
  if (editor.edit((j) => addCaption(j, id, newContent(kind, j.name)))) editor.select({ kind: 'caption', id })
}
const titleOf = ({ content }: Caption) => (content.kind === 'title' ? content.text.split('\n')[0] || 'Title' : CAPTION_NAMES[content.kind])
function move(from: number, to: number) {
  if (to >= 0 && to < journey.value.captions.length) editor.edit((j) => moveCaption(j, from, to))
}

const list = useTemplateRef<HTMLElement>('list')
let sortable: Sortable | undefined
onMounted(() => {
  sortable = Sortable.create(list.value!, {
    handle: '.grip',
    animation: 120,
    onEnd({ oldIndex, newIndex, item }) {
      if (oldIndex === undefined || newIndex === undefined || oldIndex === newIndex) return
      // The list is rendered from the journey, so undo the drag in the DOM before the journey changes.
      const parent = list.value!
      parent.insertBefore(item, parent.children[oldIndex < newIndex ? oldIndex : oldIndex + 1] ?? null)
      move(oldIndex, newIndex)
    },
  })
})
onBeforeUnmount(() => sortable?.destroy())

/** The scale that is told to people: how many metres a thousand ground units are. */
const scale = computed(() => (journey.value.measures.metresPerUnit ?? 0) * 1000)
</script>

<template>
  <ol ref="list" class="list">
    <li v-for="(caption, i) in journey.captions" :key="caption.id">
      <button
        type="button"
        class="grip"
        :aria-label="`Move ${titleOf(caption)}: drag, or press Alt and an arrow key`"
        title="Drag, or press Alt and an arrow key"
        @keydown.alt.up.prevent.stop="move(i, i - 1)"
        @keydown.alt.down.prevent.stop="move(i, i + 1)"
      >
        <v-icon :icon="mdiDragVertical" size="18" />
      </button>
      <button type="button" class="name" data-testid="caption" @click="editor.select({ kind: 'caption', id: caption.id })">
        {{ titleOf(caption) }}
      </button>
    </li>
  </ol>
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
    <p class="quiet">Metres to 1,000 pixels of the map, which does not know its place on the Earth. Without it no distances are shown.</p>
  </template>
</template>

<style scoped>
.list {
  list-style: none;
  padding: 0;
  margin-bottom: 6px;
}
li {
  display: flex;
  align-items: center;
}
.grip {
  cursor: grab;
  width: 24px;
  height: 28px;
  color: var(--quiet);
}
.name {
  flex: 1;
  min-width: 0;
  min-height: 28px;
  padding: 2px 4px;
  overflow: hidden;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
  border-radius: 3px;
  cursor: pointer;
}
.name:hover {
  background: color-mix(in srgb, var(--sea) 12%, transparent);
}
</style>
