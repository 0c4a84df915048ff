<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { computed } from 'vue'
import { setCreditLine } from '#core/edits/ground/sheets'
import { creditLine, creditsOf, creditsText } from '#core/sheet/credits'
import DialogSheet from '~/components/DialogSheet.vue'
import { useEditor } from '~/stores/editor'

/** The credits of the journey, to be copied into a video's description, or shown in its last second. */
const open = defineModel<boolean>({ required: true })
const editor = useEditor()
const { copy, copied } = useClipboard()

const journey = computed(() => editor.journey!)
const entries = computed(() => creditsOf(journey.value))
const text = computed(() => creditsText(journey.value))
const line = computed(() => creditLine(journey.value))
</script>

<template>
  <DialogSheet v-model="open" title="Credits" :width="600">
    <p v-if="entries.length === 0">Nothing in this journey needs a credit.</p>
    <template v-else>
      <pre data-testid="credits-text">{{ text }}</pre>
      <p v-if="entries.some((entry) => entry.isUnlicensed)" class="flag" role="note">
        Of {{ entries.filter((entry) => entry.isUnlicensed).length }} no licence is noted. Note it under “Source and licence” of the sheet.
      </p>
      <v-switch
        label="Show the sources in the last second of the film"
        :model-value="journey.creditLine"
        @update:model-value="(on) => editor.edit((j) => setCreditLine(j, on === true))"
      />
      <p v-if="journey.creditLine" class="quiet">{{ line || 'No source has an author or a title yet, so nothing is shown.' }}</p>
    </template>
    <template #actions>
      <v-btn v-if="entries.length > 0" variant="outlined" @click="copy(text)">{{ copied ? 'Copied' : 'Copy the text' }}</v-btn>
      <v-btn variant="text" @click="open = false">Close</v-btn>
    </template>
  </DialogSheet>
</template>

<style scoped>
pre {
  padding: 10px 12px;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  font-family: var(--sans);
  font-size: 14px;
  border: 1px solid var(--rule);
  border-radius: 4px;
}
.quiet {
  color: var(--quiet);
}
</style>
