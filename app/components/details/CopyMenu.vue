<script setup lang="ts">
import { mdiContentCopy } from '@mdi/js'
import { useCopies } from '~/composables/use-copies'

/** Copies the look and timing of what is selected, and pastes what was copied onto it. */
const { kind, canPaste, hasTiming, copy, pasteOnto } = useCopies()
</script>

<template>
  <v-menu v-if="kind" location="bottom end">
    <template #activator="{ props: menu }">
      <v-btn
        v-bind="menu"
        class="copies"
        size="small"
        variant="text"
        :icon="mdiContentCopy"
        aria-label="Copy and paste"
        title="Copy and paste look and timing"
        data-testid="copies"
      />
    </template>
    <v-list density="compact">
      <v-list-item title="Copy look and timing" subtitle="Ctrl+C" @click="copy" />
      <v-list-item title="Paste look" subtitle="Ctrl+V" :disabled="!canPaste" @click="pasteOnto('look')" />
      <v-list-item title="Paste timing" subtitle="Ctrl+Shift+V" :disabled="!hasTiming" @click="pasteOnto('timing')" />
      <v-list-item title="Paste both" :disabled="!hasTiming" @click="pasteOnto('both')" />
    </v-list>
  </v-menu>
</template>

<style scoped>
.copies {
  margin-left: auto;
  align-self: center;
  width: 28px !important;
  height: 28px !important;
  padding: 0 !important;
}
</style>
