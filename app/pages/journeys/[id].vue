<script setup lang="ts">
import { useLocalStorage, useRafFn, useTimeoutFn } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { onBeforeRouteLeave, useHead, useRoute, useRouter } from '#imports'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import { JourneyError } from '#core/error'
import type { Journey } from '#core/journey/schema'
import DetailsPanel from '~/components/details/DetailsPanel.vue'
import ConflictDialog from '~/components/editor/ConflictDialog.vue'
import ExportDialog from '~/components/export/ExportDialog.vue'
import SaveFileDialog from '~/components/journeys/SaveFileDialog.vue'
import NoticeBar from '~/components/editor/NoticeBar.vue'
import PanelDivider from '~/components/editor/PanelDivider.vue'
import ProgressCard from '~/components/editor/ProgressCard.vue'
import PaceStrip from '~/components/pace/PaceStrip.vue'
import ShortcutSheet from '~/components/editor/ShortcutSheet.vue'
import UnfitJourney from '~/components/editor/UnfitJourney.vue'
import StageView from '~/components/stage/StageView.vue'
import TrackDialog from '~/components/tracks/TrackDialog.vue'
import TopBar from '~/components/editor/TopBar.vue'
import TransportBar from '~/components/editor/TransportBar.vue'
import PhotoDialog from '~/components/tracks/PhotoDialog.vue'
import ArrivalDialog from '~/components/sheets/ArrivalDialog.vue'
import CreditsDialog from '~/components/sheets/CreditsDialog.vue'
import DrawMapDialog from '~/components/sheets/DrawMapDialog.vue'
import TileServiceDialog from '~/components/sheets/TileServiceDialog.vue'
import SystemDialog from '~/components/sheets/SystemDialog.vue'
import type { SaveState } from '~/composables/use-autosave'
import { useAutosave } from '~/composables/use-autosave'
import { useDrops } from '~/composables/use-drops'
import { useFilmChecks } from '~/composables/use-checks'
import { useLabelPlaces } from '~/composables/use-label-places'
import { LOWEST_STRIP, useStripHeight } from '~/composables/use-strip-height'
import { useSheetImport } from '~/composables/use-sheet-import'
import { useShortcuts } from '~/composables/use-shortcuts'
import { SHEET_FORMAT_WORDS } from '#core/sheet/limits'
import { readJourney } from '~/services/api'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'
import { usePhotos } from '~/stores/photos'
import { useSound } from '~/stores/sound'
import { useTracks } from '~/stores/tracks'
import { useVersions } from '~/stores/versions'
import { useWorldFile } from '~/stores/world-file'

const id = String(useRoute().params.id)
const router = useRouter()
const editor = useEditor()
const playback = usePlayback()
const stage = useStage()
const tracks = useTracks()
const photos = usePhotos()
const sound = useSound()
const worldFile = useWorldFile()
const versions = useVersions()

const missing = ref('')
/** A stored journey that makes no film, such as one whose times do not fit, and why. */
const unfit = shallowRef<{ journey: Journey; revision: number; why: string }>()
const autosave = shallowRef<ReturnType<typeof useAutosave>>()
try {
  const record = await readJourney(id)
  const why = whyUnfit(record.journey)
  if (why !== '') unfit.value = { ...record, why }
  else {
    editor.open(record.journey, record.past)
    stage.reset()
    playback.rewind()
    autosave.value = useAutosave(id, record)
    versions.open(id)
  }
} catch (error) {
  missing.value = error instanceof Error ? error.message : String(error)
}
function whyUnfit(journey: Journey): string {
  try {
    compile(journey, NO_PLACES)
    return ''
  } catch (error) {
    if (error instanceof JourneyError) return error.message
    throw error
  }
}
useHead({ title: computed(() => (editor.journey && !missing.value ? `${editor.journey.name} – Zephyrine` : 'Zephyrine')) })

/** Sizes of the panels in CSS pixels, 0 when folded; remembered in this browser. */
const detailsWidth = useLocalStorage('zephyrine-details-width', 320)
const { height: paceHeight, makeRoom } = useStripHeight()

/** The map comes first: the panels, which take longer to make, follow when the stage has been painted, or after this many milliseconds. */
const PANELS_WAIT = 2000
const hasPanels = ref(false)
const showPanels = () => requestAnimationFrame(() => setTimeout(() => (hasPanels.value = true)))
useTimeoutFn(showPanels, PANELS_WAIT)

const sheetImport = useSheetImport()
useLabelPlaces()
useFilmChecks()
const exporting = ref(false)
const showingKeys = ref(false)
const showingCredits = ref(false)
/** The sheet that a drawn map is to replace. */
const redrawn = ref<string>()
const drawing = ref(false)
function draw(replaces?: string) {
  redrawn.value = replaces
  drawing.value = true
}
/** The sheet whose tiles are taken anew, or for more of the film. */
const retaken = ref<string>()
const taking = ref(false)
function takeTiles(replaces?: string) {
  retaken.value = replaces
  taking.value = true
}
const redrawnMap = computed(() => editor.journey?.sheets.find((sheet) => sheet.id === redrawn.value)?.drawn ?? null)
const leaving = ref(false)
const stageView = useTemplateRef<{ findPlace: () => void }>('stageView')
async function findPlace() {
  if (!editor.geo) return void (editor.refusal = 'To find places by name, georeference a sheet first: see its details.')
  stage.setTool('stop')
  await nextTick()
  stageView.value?.findPlace()
}
const isBlocked = () =>
  [exporting, showingKeys, showingCredits, drawing, taking].some((open) => open.value) ||
  sheetImport.arrival.value !== undefined ||
  tracks.overview !== undefined ||
  worldFile.question !== undefined ||
  missing.value !== ''
useShortcuts({ showKeys: () => (showingKeys.value = true), findPlace: () => void findPlace(), isBlocked })

let last = 0
const { pause, resume } = useRafFn(
  ({ timestamp }) => {
    if (last > 0) playback.advance((timestamp - last) / 1000)
    last = timestamp
    sound.follow()
  },
  { immediate: false },
)
watch(
  () => playback.playing,
  (playing) => {
    last = 0
    if (playing) resume()
    else pause()
    sound.follow()
  },
)

const desk = useTemplateRef<HTMLElement>('desk')
const { isOverDropZone } = useDrops(desk, sheetImport.importFiles)

/** What another window has done to the journey that is edited here. */
const CONFLICTS: Partial<Record<SaveState, 'changed' | 'deleted'>> = { conflict: 'changed', deleted: 'deleted' }

onBeforeRouteLeave(async () => {
  if (!autosave.value || leaving.value) return true
  await autosave.value.flush()
  return autosave.value.isSafe.value || window.confirm('Some changes could not be saved. Leave anyway and lose them?')
})
onBeforeUnmount(() => {
  playback.playing = false
  tracks.close()
  photos.cancel()
  sound.close()
})

/** What is being imported, and its progress. */
const underWay = computed(() => {
  const map = sheetImport.running.value
  if (map) return { words: sheetImport.words.value, share: map.share, label: 'Progress of the import', cancel: sheetImport.cancel }
  const { reading, name } = tracks
  if (reading !== undefined)
    return {
      words: `Reading “${name}”: ${Math.round(reading * 100)} %`,
      share: reading,
      label: 'Progress of reading the track',
      cancel: tracks.close,
    }
  const { running, words } = photos
  return running && { words, share: running.share, label: 'Progress of the photo', cancel: photos.cancel }
})
/** The journey that is saved as a file: as it is now, so it is saved first. */
const filed = ref<{ id: string; name: string }>()
async function saveAsFile() {
  await autosave.value!.flush()
  if (autosave.value!.isSafe.value) filed.value = { id, name: editor.journey!.name }
}
function act() {
  const { action } = editor.notice ?? {}
  editor.notice = undefined
  action?.run()
}
const refusalShown = computed({ get: () => editor.refusal !== '', set: (shown) => !shown && (editor.refusal = '') })
const isEmpty = computed(() => editor.journey?.sheets.length === 0 && editor.journey.stops.length === 0 && stage.tool === 'select')
</script>

<template>
  <div v-if="missing" class="missing">
    <h1 class="serif">This journey cannot be opened</h1>
    <p>{{ missing }}</p>
    <v-btn color="accent" variant="flat" to="/">All journeys</v-btn>
  </div>
  <UnfitJourney v-else-if="unfit" :id="id" :data-journey="id" v-bind="unfit" />
  <main
    v-else-if="editor.journey && autosave"
    ref="desk"
    class="desk"
    :data-journey="id"
    :style="{ '--details': `${detailsWidth}px`, '--pace': `${paceHeight}px` }"
  >
    <TopBar
      :save-state="autosave.state.value"
      :problem="autosave.problem.value"
      :retry-at="autosave.retryAt.value"
      @leave="router.push('/')"
      @export="exporting = true"
      @file="saveAsFile"
      @shortcuts="showingKeys = true"
      @retry="autosave.flush()"
    />
    <StageView ref="stageView" class="stage" @painted.once="showPanels">
      <ProgressCard v-if="underWay" v-bind="underWay" @cancel="underWay.cancel" />
      <div v-else-if="isOverDropZone" class="card"><p>Drop a map, a track, or photos; a photo on a stop becomes a postcard</p></div>
      <div v-else-if="isEmpty" class="card">
        <h2 class="serif">Lay out your map</h2>
        <p>Drop it here: {{ SHEET_FORMAT_WORDS }}, up to 600 megapixels. Or generate one, or start on plain ground.</p>
        <div class="row">
          <v-btn color="accent" variant="flat" data-testid="choose-picture" @click="sheetImport.choose()">Choose a map</v-btn>
          <v-btn variant="outlined" data-testid="draw-me" @click="draw()">Generate a map</v-btn>
          <v-btn variant="outlined" data-testid="take-tiles" @click="takeTiles()">From a tile service</v-btn>
          <v-btn variant="outlined" @click="stage.setTool('stop')">Place stops</v-btn>
        </div>
      </div>
    </StageView>
    <DetailsPanel
      v-if="hasPanels && detailsWidth > 0"
      class="details"
      @import="(id) => sheetImport.choose(id)"
      @draw="draw"
      @tiles="takeTiles"
      @credits="showingCredits = true"
    />
    <PanelDivider v-model="detailsWidth" class="details-divider" axis="x" label="Width of the details" :min="260" :max="520" :usual="320" />
    <TransportBar class="transport" />
    <PaceStrip v-if="hasPanels && paceHeight > 0" class="pace" @wants="makeRoom" />
    <PanelDivider
      v-model="paceHeight"
      class="pace-divider"
      axis="y"
      label="Height of the pace strip"
      :min="LOWEST_STRIP"
      :max="560"
      :usual="LOWEST_STRIP"
    />

    <template v-if="hasPanels">
      <ExportDialog v-model="exporting" :journey-id="id" :save="autosave.flush" :is-saved="() => autosave!.isSafe.value" />
      <SaveFileDialog v-model="filed" />
      <ShortcutSheet v-model="showingKeys" />
      <CreditsDialog v-model="showingCredits" />
      <DrawMapDialog v-model="drawing" :from="redrawnMap" @draw="(map, name, isNamed) => sheetImport.draw(map, name, isNamed, redrawn)" />
      <TileServiceDialog
        v-model="taking"
        :from="editor.journey?.sheets.find((sheet) => sheet.id === retaken)"
        @take="(order, showsCredit) => sheetImport.take(order, showsCredit, retaken)"
      />
      <ArrivalDialog :arrival="sheetImport.arrival.value" @settle="sheetImport.settle" @cancel="sheetImport.arrival.value = undefined" />
      <SystemDialog />
      <TrackDialog />
      <PhotoDialog />
      <ConflictDialog
        :id="id"
        :conflict="CONFLICTS[autosave.state.value]"
        @overwrite="autosave.overwrite"
        @take="autosave.take"
        @leaving="leaving = true"
      />
    </template>
    <v-snackbar
      v-model="refusalShown"
      color="error"
      location="top"
      :timeout="editor.fixes.length > 0 ? -1 : 7000"
      :vertical="editor.fixes.length > 0"
      role="alert"
    >
      {{ editor.refusal }}
      <template v-if="editor.fixes.length > 0" #actions>
        <v-btn v-for="fix in editor.fixes" :key="fix.title" variant="text" data-testid="fix" @click="editor.fix(fix)">{{
          fix.title
        }}</v-btn>
        <v-btn variant="text" @click="editor.refusal = ''">Close</v-btn>
      </template>
    </v-snackbar>
    <NoticeBar :text="sheetImport.problem.value" @close="sheetImport.problem.value = ''" />
    <NoticeBar :text="tracks.problem" @close="tracks.problem = ''">
      <v-btn v-if="tracks.swappable" variant="text" @click="tracks.openSwapped()">Swap them</v-btn>
    </NoticeBar>
    <NoticeBar :text="editor.notice?.text ?? ''" :is-problem="false" @close="editor.notice = undefined">
      <v-btn v-if="editor.notice?.action" variant="text" data-testid="notice-action" @click="act">{{ editor.notice.action.title }}</v-btn>
    </NoticeBar>
    <NoticeBar :text="sound.problem" @close="sound.problem = ''" />
    <NoticeBar :text="photos.outcome" :is-problem="photos.failed" @close="photos.outcome = ''" />
  </main>
</template>

<style scoped>
.desk {
  display: grid;
  grid-template:
    'top top' 52px
    'stage details' minmax(160px, 1fr)
    'transport transport' 48px
    'pace pace' var(--pace)
    / minmax(0, 1fr) var(--details);
  height: 100dvh;
}
/* Enlarged text or a small window: the panels are stacked, and the page scrolls. */
@media (width < 1000px) {
  .desk {
    grid-template:
      'top' auto
      'stage' minmax(240px, 60vw)
      'transport' auto
      'pace' var(--pace)
      'details' auto
      / minmax(0, 1fr);
    height: auto;
    min-height: 100dvh;
  }
  .details-divider,
  .pace-divider {
    display: none;
  }
}
.desk > :deep(header) {
  grid-area: top;
}
.stage {
  grid-area: stage;
}
.details,
.details-divider {
  grid-area: details;
}
.details-divider {
  justify-self: start;
}
.transport {
  grid-area: transport;
}
.pace,
.pace-divider {
  grid-area: pace;
}
.pace-divider {
  align-self: start;
}
.card h2 {
  font-size: 26px;
  line-height: 1.1;
}
.row {
  display: flex;
  gap: 8px;
}
.missing {
  display: grid;
  gap: 16px;
  justify-items: start;
  max-width: 560px;
  margin: 15vh auto;
}
</style>
