<script setup lang="ts">
import { editSheet } from '#core/edits/ground/sheets'
import type { Credit, Sheet } from '#core/journey/schema'
import { useFieldEdits } from '~/composables/use-field-edits'

/** Where a map comes from and under which licence it may be used. */
const props = defineProps<{ sheet: Sheet }>()
const emit = defineEmits<{ credits: [] }>()
const { change, done } = useFieldEdits(() => `sheet ${props.sheet.id}`)

const FIELDS = [
  { field: 'title', label: 'Title' },
  { field: 'author', label: 'Author' },
  { field: 'licence', label: 'Licence' },
  { field: 'source', label: 'Source' },
] as const
const set = (field: keyof Credit, value: string) =>
  change(field, (journey) => editSheet(journey, props.sheet.id, { credit: { ...props.sheet.credit, [field]: value } }))
</script>

<template>
  <p v-if="sheet.credit.licence.trim() === ''" class="flag" role="note">
    No licence is noted. Most maps may not be shown in a video without permission: note here why this one may.
  </p>
  <div class="fields">
    <v-text-field
      v-for="{ field, label } in FIELDS"
      :key="field"
      :label="label"
      :model-value="sheet.credit[field]"
      maxlength="300"
      @update:model-value="(value) => set(field, value)"
      @blur="done"
    />
  </div>
  <div class="buttons"><v-btn size="small" variant="outlined" data-testid="credits" @click="emit('credits')">All credits …</v-btn></div>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 12px;
  margin-top: 8px;
}
</style>
