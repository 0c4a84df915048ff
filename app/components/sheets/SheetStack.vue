<script setup lang="ts">
import { mdiArrowDown, mdiArrowUp, mdiPlus } from '@mdi/js'
import { computed } from 'vue'
import { restackSheet } from '#core/edits/ground/sheets'
import type { Sheet } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'

/** The stack of sheets, the uppermost first. */
const emit = defineEmits<{ import: []; draw: []; tiles: [] }>()
const editor = useEditor()

const sheets = computed(() => editor.journey!.sheets)
const shown = computed(() => [...sheets.value].reverse())
const chosen = computed(() => editor.selectedSheet?.id)

const place = (sheet: Sheet) => sheets.value.indexOf(sheet)
const move = (sheet: Sheet, by: number) => editor.edit((journey) => restackSheet(journey, sheet.id, place(sheet) + by))
const noteOf = (sheet: Sheet) =>
  sheet.tracing ? 'for tracing' : sheet.shown ? 'for a while' : sheet.opacity < 1 ? `${Math.round(sheet.opacity * 100)} %` : ''
</script>

<template>
  <div>
    <ul v-if="sheets.length > 1" class="rows" aria-label="Sheets, top first">
      <li v-for="sheet in shown" :key="sheet.id" :class="{ chosen: sheet.id === chosen }">
        <button type="button" class="choose" :aria-pressed="sheet.id === chosen" @click="editor.select({ kind: 'sheet', id: sheet.id })">
          <span class="name">{{ sheet.name }}</span>
          <span class="note figures">{{ noteOf(sheet) }}</span>
        </button>
        <button
          type="button"
          class="act"
          :disabled="place(sheet) === sheets.length - 1"
          :aria-label="`Raise ${sheet.name}`"
          @click="move(sheet, 1)"
        >
          <v-icon :icon="mdiArrowUp" size="16" />
        </button>
        <button type="button" class="act" :disabled="place(sheet) === 0" :aria-label="`Lower ${sheet.name}`" @click="move(sheet, -1)">
          <v-icon :icon="mdiArrowDown" size="16" />
        </button>
      </li>
    </ul>
    <v-menu>
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu" size="small" variant="text" :prepend-icon="mdiPlus" data-testid="add-sheet">Add a map</v-btn>
      </template>
      <v-list density="compact">
        <v-list-item title="From a file …" @click="emit('import')" />
        <v-list-item title="Generate one …" @click="emit('draw')" />
        <v-list-item title="From a tile service …" data-testid="add-tiles" @click="emit('tiles')" />
      </v-list>
    </v-menu>
  </div>
</template>
