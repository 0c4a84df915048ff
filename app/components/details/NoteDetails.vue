<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { editNote, removeNote } from '#core/edits/pace/notes'
import type { Note } from '#core/journey/schema'
import MomentFields from '~/components/fields/MomentFields.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'

/** A note for oneself at a moment of the journey. */
const props = defineProps<{ note: Note }>()
const editor = useEditor()
const { change, done } = useFieldEdits(() => `note ${props.note.id}`)

/** A note always has words: what is emptied keeps the last ones. */
function write(text: string) {
  if (text.trim() !== '') change('text', (j) => editNote(j, props.note.id, { text }))
}
</script>

<template>
  <div>
    <h2>Note</h2>
    <v-textarea
      label="Note"
      rows="3"
      auto-grow
      maxlength="200"
      data-testid="note-text"
      :model-value="note.text"
      @update:model-value="write"
      @blur="done"
    />
    <MomentFields label="At" :model-value="note.at" @change="(at) => change('at', (j) => editNote(j, note.id, { at }))" @done="done" />
    <p class="quiet">Notes stand over the pace strip. They are not in the film.</p>
    <div class="buttons">
      <v-btn
        size="small"
        variant="outlined"
        :prepend-icon="mdiDeleteOutline"
        @click="editor.edit((j) => removeNote(j, note.id)) && editor.select({ kind: 'journey' })"
        >Delete</v-btn
      >
    </div>
  </div>
</template>
