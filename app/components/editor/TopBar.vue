<script setup lang="ts">
import {
  mdiArrowLeft,
  mdiExportVariant,
  mdiFileDownloadOutline,
  mdiKeyboardOutline,
  mdiRedo,
  mdiUndo,
  mdiWeatherNight,
  mdiWhiteBalanceSunny,
} from '@mdi/js'
import { useNow, useSessionStorage } from '@vueuse/core'
import { computed } from 'vue'
import type { SaveState } from '~/composables/use-autosave'
import { useThemeChoice } from '~/composables/use-theme-choice'
import { useEditor } from '~/stores/editor'
import { useChecks } from '~/stores/checks'
import { useExports } from '~/stores/exports'
import ToolButton from '../stage/ToolButton.vue'
import JourneyName from './JourneyName.vue'

const props = defineProps<{ saveState: SaveState; problem: string; retryAt: number | undefined }>()
defineEmits<{ leave: []; export: []; file: []; shortcuts: []; retry: [] }>()

const editor = useEditor()
const exports = useExports()
const checks = useChecks()
const { isNight, toggle } = useThemeChoice()

const WORDS: Record<SaveState, string> = {
  saved: 'Saved',
  unsaved: 'Not saved yet',
  saving: 'Saving …',
  conflict: 'Changed elsewhere',
  deleted: 'Deleted elsewhere',
  failed: 'Not saved',
}
const words = computed(() => WORDS[props.saveState])
const now = useNow({ interval: 1000 })
/** Seconds until the next try to save. */
const wait = computed(() => props.retryAt && Math.max(0, Math.ceil((props.retryAt - now.value.getTime()) / 1000)))

/** Whether the list of what was found is folded out, in the journey's details. */
const isListOpen = useSessionStorage('zephyrine-open-Checks', false)
function showChecks() {
  isListOpen.value = true
  checks.isWanted = true
  editor.select({ kind: 'journey' })
}
</script>

<template>
  <header class="bar">
    <ToolButton :icon="mdiArrowLeft" label="All journeys" @click="$emit('leave')" />
    <JourneyName />
    <span class="state" :class="saveState" role="status" data-testid="save-state" :title="problem">{{ words }}</span>
    <template v-if="saveState === 'failed'">
      <span class="problem">{{ problem }}</span>
      <span v-if="wait !== undefined" class="again figures">
        Trying again in {{ wait }} s <button type="button" @click="$emit('retry')">Try now</button>
      </span>
    </template>
    <span class="gap" />
    <ToolButton :icon="mdiUndo" label="Undo" keys="Ctrl+Z" :disabled="!editor.canUndo" @click="editor.undo()" />
    <ToolButton :icon="mdiRedo" label="Redo" keys="Ctrl+Shift+Z" :disabled="!editor.canRedo" @click="editor.redo()" />
    <ToolButton :icon="mdiFileDownloadOutline" label="Save as a file" data-testid="save-as-file" @click="$emit('file')" />
    <ToolButton :icon="mdiKeyboardOutline" label="Keys" keys="?" @click="$emit('shortcuts')" />
    <ToolButton :icon="isNight ? mdiWhiteBalanceSunny : mdiWeatherNight" :label="isNight ? 'Day theme' : 'Night theme'" @click="toggle()" />
    <button v-if="checks.count > 0" type="button" class="checks" data-testid="checks-count" @click="showChecks">
      {{ checks.count }} to look at
    </button>
    <v-btn color="accent" variant="flat" :prepend-icon="mdiExportVariant" data-testid="export" @click="$emit('export')">
      {{ exports.running ? `Export: ${Math.floor(100 * exports.share)} %` : 'Export' }}
      <v-progress-linear
        v-if="exports.running"
        class="progress"
        :model-value="100 * exports.share"
        color="white"
        height="3"
        aria-label="Progress of the export"
      />
    </v-btn>
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 0 12px 0 6px;
  background: var(--surface);
  border-bottom: 1px solid var(--rule);
}
.again {
  flex: none;
  font-size: 13px;
}
.again button {
  margin-left: 4px;
  text-decoration: underline;
  cursor: pointer;
}
.checks {
  margin-right: 8px;
  color: var(--vermilion);
  font-size: 14px;
  text-decoration: underline;
  white-space: nowrap;
  cursor: pointer;
}
.progress {
  position: absolute;
  inset: auto 0 0;
}
.state {
  font-size: 13px;
  color: var(--quiet);
  white-space: nowrap;
}
.state::before {
  content: '';
  display: inline-block;
  width: 8px;
  height: 8px;
  margin-right: 6px;
  border-radius: 50%;
  background: var(--brass);
}
.saved::before {
  background: rgb(var(--v-theme-success));
}
.failed,
.conflict {
  color: rgb(var(--v-theme-error));
}
.failed::before,
.conflict::before {
  background: rgb(var(--v-theme-error));
}
.problem {
  margin-left: 8px;
  font-size: 13px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.gap {
  flex: 1;
}
</style>
