<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import SheetDetails from '~/components/sheets/SheetDetails.vue'
import { useEditor } from '~/stores/editor'
import { SELECTABLE } from '~/stores/editor/selectable'
import JourneyDetails from './journey/JourneyDetails.vue'
import LegDetails from './leg/LegDetails.vue'
import AudioDetails from './AudioDetails.vue'
import CopyMenu from './CopyMenu.vue'
import CaptionDetails from '~/components/text/CaptionDetails.vue'
import LandmarkDetails from './marks/LandmarkDetails.vue'
import NoteDetails from './NoteDetails.vue'
import StopDetails from './stop/StopDetails.vue'
import OwnPictureDialog from './marks/OwnPictureDialog.vue'
import ValueDetails from './values/ValueDetails.vue'
import ShotDetails from '~/components/camera/ShotDetails.vue'

const emit = defineEmits<{ import: [replaces?: string]; draw: [replaces?: string]; tiles: [replaces?: string]; credits: [] }>()
const editor = useEditor()

/** The tabs that are always there; what else is selected has one while it is. */
const TABS = ['journey', 'sheet'] as const
const other = computed(() => {
  const { kind } = editor.selection
  return TABS.some((tab) => tab === kind) ? undefined : SELECTABLE[kind].title
})

/** Scroll to the top when another kind of thing is selected; from stop to stop, or leg to leg, the same fields stay in view. */
const body = ref<HTMLElement>()
watch(
  () => editor.selection.kind,
  () => {
    if (body.value) body.value.scrollTop = 0
  },
  { flush: 'post' },
)
</script>

<template>
  <aside class="details" aria-label="Details">
    <nav class="tabs" aria-label="What the details show">
      <button
        v-for="tab in TABS"
        :key="tab"
        type="button"
        :aria-pressed="editor.selection.kind === tab"
        :class="{ chosen: editor.selection.kind === tab }"
        @click="editor.select({ kind: tab })"
      >
        {{ SELECTABLE[tab].title }}
      </button>
      <span v-if="other" class="chosen" aria-current="true">{{ other }}</span>
      <CopyMenu />
    </nav>
    <div ref="body" class="body">
      <StopDetails v-if="editor.selectedStop" :key="editor.selectedStop.id" :stop="editor.selectedStop" />
      <LegDetails v-else-if="editor.selectedLeg" :key="editor.selectedLeg.id" :leg="editor.selectedLeg" />
      <ShotDetails
        v-else-if="editor.selectedShot || (editor.selection.kind === 'shot' && editor.selection.id === undefined)"
        :key="editor.selectedShot?.shot.id ?? 'opening'"
        :entry="editor.selectedShot"
      />
      <CaptionDetails v-else-if="editor.selectedCaption" :key="editor.selectedCaption.id" :caption="editor.selectedCaption" />
      <LandmarkDetails v-else-if="editor.selectedLandmark" :key="editor.selectedLandmark.id" :landmark="editor.selectedLandmark" />
      <AudioDetails v-else-if="editor.selectedAudio" :key="editor.selectedAudio.id" :piece="editor.selectedAudio" />
      <NoteDetails v-else-if="editor.selectedNote" :key="editor.selectedNote.id" :note="editor.selectedNote" />
      <ValueDetails v-else-if="editor.selectedValue" :key="editor.selectedValue.id" :mark="editor.selectedValue" />
      <SheetDetails
        v-else-if="editor.selection.kind === 'sheet'"
        @import="(id) => emit('import', id)"
        @draw="(id) => emit('draw', id)"
        @tiles="(id) => emit('tiles', id)"
        @credits="emit('credits')"
      />
      <JourneyDetails v-else @import="emit('import')" @draw="emit('draw')" @credits="emit('credits')" />
    </div>
    <OwnPictureDialog />
  </aside>
</template>

<style scoped>
.details {
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: var(--surface);
  border-left: 1px solid var(--rule);
}
.tabs {
  display: flex;
  gap: 2px;
  padding: 6px 12px 0;
  border-bottom: 1px solid var(--rule);
}
.tabs > * {
  padding: 6px 12px 7px;
  font-weight: 600;
  font-size: 14px;
  border-bottom: 3px solid transparent;
  color: var(--quiet);
}
.tabs > button {
  cursor: pointer;
}
.tabs > .chosen {
  color: var(--ink);
  border-bottom-color: var(--vermilion);
}
.body {
  /* What is hidden in it, and placed without it, would make the whole page scroll. */
  position: relative;
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 12px 14px 20px;
}
.body :deep(h2) {
  font-family: var(--serif);
  font-size: 22px;
  line-height: 1.2;
  margin: 2px 0 8px;
  overflow-wrap: anywhere;
}
.body :deep(h3) {
  font-size: 12px;
  font-weight: 600;
  letter-spacing: 0.06em;
  text-transform: uppercase;
  color: var(--quiet);
  margin: 12px 0 4px;
  padding-top: 8px;
  border-top: 1px solid var(--rule);
}
.body :deep(p) {
  font-size: 14px;
  line-height: 1.4;
}
.body :deep(.quiet) {
  color: var(--quiet);
}
.body :deep(.buttons) {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 10px;
}
</style>
