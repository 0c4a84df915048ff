<script setup lang="ts">
import {
  mdiContentDuplicate,
  mdiDeleteOutline,
  mdiDotsVertical,
  mdiFileDownloadOutline,
  mdiFolderOpenOutline,
  mdiHarddisk,
  mdiMapMarkerPath,
  mdiPencilOutline,
  mdiPlus,
  mdiTextLong,
  mdiWeatherNight,
  mdiWhiteBalanceSunny,
} from '@mdi/js'
import { useDocumentVisibility, useDropZone, useTimeoutPoll } from '@vueuse/core'
import { computed, ref, shallowRef, useTemplateRef } from 'vue'
import { setPlan } from '#core/edits/camera/shots'
import { setGround } from '#core/edits/ground/sheets'
import { rename } from '#core/edits/journey'
import { createJourney as emptyJourney } from '#core/journey/create'
import type { Journey } from '#core/journey/schema'
import { JOURNEY_FILE_ENDING } from '#core/formats/journey-file'
import { rateLabel } from '#core/pace/rate'
import { useHead, useRouter } from '#imports'
import DialogSheet from '~/components/DialogSheet.vue'
import ToolButton from '~/components/stage/ToolButton.vue'
import StorageDialog from '~/components/journeys/StorageDialog.vue'
import DayDialog from '~/components/journeys/DayDialog.vue'
import OpenFilesDialog from '~/components/journeys/OpenFilesDialog.vue'
import SaveFileDialog from '~/components/journeys/SaveFileDialog.vue'
import TripDialog from '~/components/journeys/TripDialog.vue'
import { useLastFrame } from '~/composables/use-last-frame'
import { useThemeChoice } from '~/composables/use-theme-choice'
import type { JourneySummary } from '~/services/api'
import {
  ApiError,
  createJourney,
  deleteJourney,
  duplicateJourney,
  listJourneys,
  posterAddress,
  readJourney,
  restoreJourney,
  saveJourney,
} from '~/services/api'
import { chooseFiles } from '~/services/choose-files'
import { filesDropped, isJourneyFile, isTextFile } from '~/services/dropped-files'
import { standInAddress } from '~/services/tile-services'

useHead({ title: 'Zephyrine' })
const router = useRouter()
const { isNight, toggle } = useThemeChoice()

const journeys = ref<JourneySummary[]>()
const problem = ref('')
const making = ref(false)
const { frame } = useLastFrame()
const showingStorage = ref(false)
const writing = ref(false)
/** A trip in a file that was dropped. */
const tripFile = shallowRef<File>()
/** What a film of a day is to be made of, while its dialog is open. */
const recording = ref(false)
const recorded = shallowRef<readonly File[]>([])
/** Journey files that are opened, while their dialog is there. */
const opening = ref(false)
const journeyFiles = shallowRef<readonly File[]>([])
/** The journey that is saved as a file. */
const saved = ref<{ id: string; name: string }>()
const page = useTemplateRef<HTMLElement>('page')
const { isOverDropZone } = useDropZone(page, {
  multiple: true,
  async onDrop(_files, event) {
    if (!event.dataTransfer) return
    const files = await filesDropped(event.dataTransfer)
    const kept = files.filter(isJourneyFile)
    if (kept.length > 0) {
      openFiles(kept)
    } else if (files.length === 1 && isTextFile(files[0]!)) {
      tripFile.value = files[0]
      writing.value = true
    } else {
      recorded.value = files
      recording.value = true
    }
  },
})
function openFiles(files: readonly File[]) {
  journeyFiles.value = files
  opening.value = true
}
const chooseJourneyFiles = () => chooseFiles([JOURNEY_FILE_ENDING, '.json'], true, openFiles)
function write() {
  tripFile.value = undefined
  writing.value = true
}
function record() {
  recorded.value = []
  recording.value = true
}
const deleted = ref<JourneySummary>()
const renaming = ref<JourneySummary>()
const newName = ref('')

/** Reloads the list. Answers may overtake one another: one requested before the list on screen is out of date. */
let asked = 0
let shown = 0
async function refresh() {
  const mine = ++asked
  const list = await listJourneys()
  if (mine < shown) return
  shown = mine
  journeys.value = list
}

async function attempt(run: () => Promise<unknown>) {
  problem.value = ''
  try {
    await run()
    await refresh()
  } catch (error) {
    problem.value = error instanceof ApiError ? error.message : String(error)
  }
}
await attempt(async () => undefined)

/** The tile service that comes with the demo, where it runs. */
const standIn = ref<string | null>(null)
void standInAddress()
  .then((address) => (standIn.value = address))
  .catch(() => undefined)

/** While posters are being made the list is reloaded, this long after the last answer, in milliseconds. */
const POSTER_EVERY = 1500
const isComing = computed(() => journeys.value?.some((journey) => journey.posterIsComing) ?? false)
const visibility = useDocumentVisibility()
useTimeoutPoll(async () => {
  if (!isComing.value || visibility.value !== 'visible') return
  // If the list cannot be read, the reason is shown when something is clicked.
  await refresh().catch(() => undefined)
}, POSTER_EVERY)

/** With a camera that needs no setting up: it rests on the whole trip, and stays on the map. */
const newJourney = (): Journey => setPlan(setGround(emptyJourney('New journey', frame()), { edge: 'held' }), 'steady')

/** Opens a new journey at once: its shape, length and rate are set where they are seen. */
async function make() {
  making.value = true
  await attempt(async () => void router.push(`/journeys/${(await createJourney(newJourney())).id}`))
  making.value = false
}

const remove = (journey: JourneySummary) =>
  attempt(async () => {
    await deleteJourney(journey.id)
    deleted.value = journey
  })
const bringBack = () =>
  attempt(async () => {
    await restoreJourney(deleted.value!.id)
    deleted.value = undefined
  })
function startRenaming(journey: JourneySummary) {
  newName.value = journey.name
  renaming.value = journey
}
const finishRenaming = () =>
  attempt(async () => {
    const { id } = renaming.value!
    const name = newName.value.trim()
    renaming.value = undefined
    if (!name) return
    const record = await readJourney(id)
    await saveJourney(id, record.revision, rename(record.journey, name))
  })

const changed = (time: number) => new Date(time).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <main ref="page" class="page" :class="{ over: isOverDropZone }">
    <header>
      <svg class="mark" viewBox="0 0 48 48" aria-hidden="true">
        <path d="M6 36C14 36 12 14 24 14S32 30 42 12" />
        <circle cx="6" cy="36" r="4" />
        <circle class="head" cx="42" cy="12" r="5" />
      </svg>
      <div class="title-block">
        <h1 class="serif">Zephyrine</h1>
        <p>Route films for travellers: a line that draws itself, from stop to stop.</p>
      </div>
      <div class="tools">
        <ToolButton :icon="mdiFolderOpenOutline" label="Open a journey file" data-testid="open-file" @click="chooseJourneyFiles" />
        <ToolButton :icon="mdiHarddisk" label="Storage" data-testid="storage" @click="showingStorage = true" />
        <ToolButton
          :icon="isNight ? mdiWhiteBalanceSunny : mdiWeatherNight"
          :label="isNight ? 'Day theme' : 'Night theme'"
          @click="toggle()"
        />
      </div>
      <v-btn variant="outlined" size="large" :prepend-icon="mdiMapMarkerPath" data-testid="record-day" @click="record"
        >Track and photos</v-btn
      >
      <v-btn variant="outlined" size="large" :prepend-icon="mdiTextLong" data-testid="write-trip" @click="write">Write a trip</v-btn>
      <v-btn color="accent" variant="flat" size="large" :prepend-icon="mdiPlus" data-testid="new-journey" :loading="making" @click="make"
        >New journey</v-btn
      >
    </header>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>

    <p v-if="journeys?.length === 0" class="empty">
      No journeys yet. Write a trip in a few words, drop a recorded track, the photos of a day or a journey file here, or start one: lay a
      map, click your stops, play the film.
    </p>
    <ul v-else class="cards">
      <li v-for="journey in journeys" :key="journey.id" class="card" data-testid="journey-card">
        <NuxtLink :to="`/journeys/${journey.id}`" class="picture" :aria-label="`Open ${journey.name}`">
          <img v-if="journey.poster !== null" :src="posterAddress(journey.id, journey.poster)" alt="" loading="lazy" fetchpriority="low" />
          <svg v-else class="stand-in" viewBox="0 0 48 48" aria-hidden="true"><path d="M6 36C14 36 12 14 24 14S32 30 42 12" /></svg>
        </NuxtLink>
        <div class="words">
          <NuxtLink :to="`/journeys/${journey.id}`" class="title serif">{{ journey.name }}</NuxtLink>
          <p class="figures">
            {{ journey.seconds }} s · {{ journey.stops }} {{ journey.stops === 1 ? 'stop' : 'stops' }} · {{ journey.frame.width }} ×
            {{ journey.frame.height }} at
            {{ rateLabel(journey.frame.rate) }}
          </p>
          <p class="quiet figures">Changed {{ changed(journey.updatedAt) }}</p>
        </div>
        <v-menu>
          <template #activator="{ props: menu }">
            <v-btn
              v-bind="menu"
              :icon="mdiDotsVertical"
              variant="text"
              size="small"
              class="more"
              :aria-label="`More for ${journey.name}`"
            />
          </template>
          <v-list density="compact">
            <v-list-item :prepend-icon="mdiPencilOutline" title="Rename" @click="startRenaming(journey)" />
            <v-list-item :prepend-icon="mdiContentDuplicate" title="Duplicate" @click="attempt(() => duplicateJourney(journey.id))" />
            <v-list-item
              :prepend-icon="mdiFileDownloadOutline"
              title="Save as a file"
              @click="saved = { id: journey.id, name: journey.name }"
            />
            <v-list-item :prepend-icon="mdiDeleteOutline" title="Delete" @click="remove(journey)" />
          </v-list>
        </v-menu>
      </li>
    </ul>

    <p v-if="standIn" class="stand-in-line quiet">
      Map tiles of the Lantern Isles, to try tile services with: <code>{{ `${standIn}/xyz/{z}/{x}/{y}.png` }}</code>
    </p>

    <TripDialog v-model="writing" :file="tripFile" @made="(id) => router.push(`/journeys/${id}`)" />
    <DayDialog v-model="recording" :files="recorded" @made="(id) => router.push(`/journeys/${id}`)" />
    <OpenFilesDialog
      v-model="opening"
      :files="journeyFiles"
      @changed="attempt(async () => undefined)"
      @opened="(id) => router.push(`/journeys/${id}`)"
    />
    <SaveFileDialog v-model="saved" />
    <StorageDialog v-model="showingStorage" @restored="attempt(async () => undefined)" />
    <DialogSheet :model-value="renaming !== undefined" title="Rename" :width="440" @update:model-value="renaming = undefined">
      <form id="rename" @submit.prevent="finishRenaming">
        <v-text-field v-model="newName" label="Name of the journey" autofocus maxlength="120" />
      </form>
      <template #actions>
        <v-btn variant="text" @click="renaming = undefined">Cancel</v-btn>
        <v-btn color="accent" variant="flat" type="submit" form="rename">Rename</v-btn>
      </template>
    </DialogSheet>
    <v-snackbar :model-value="deleted !== undefined" :timeout="12000" @update:model-value="deleted = undefined">
      “{{ deleted?.name }}” was deleted.
      <template #actions><v-btn variant="text" data-testid="undo-delete" @click="bringBack">Undo</v-btn></template>
    </v-snackbar>
  </main>
</template>

<style scoped>
.page {
  min-height: 100vh;
  width: 100%;
  max-width: 1240px;
  margin: 0 auto;
  padding: 28px 32px 60px;
}
/* While files are held over it. */
.over {
  outline: 3px dashed var(--vermilion);
  outline-offset: -8px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 14px;
  margin-bottom: 28px;
}
.stand-in-line {
  margin-top: 26px;
  font-size: 13px;
}
.mark {
  width: 56px;
  height: 56px;
}
.stand-in {
  width: 72px;
}
.stand-in path {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 2;
  stroke-linecap: round;
  stroke-dasharray: 4 4;
  opacity: 0.6;
}
.mark path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 4;
  stroke-linecap: round;
  stroke-dasharray: 7 6;
}
.mark circle {
  fill: var(--ink);
}
.mark .head {
  fill: var(--vermilion);
}
h1 {
  font-size: 40px;
  line-height: 1;
}
header p {
  color: var(--quiet);
}
/* Its line of words breaks before the buttons do. */
.title-block {
  flex: 1 1 230px;
}
.tools {
  display: flex;
}
.cards {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(340px, 1fr));
  gap: 24px;
}
.card {
  position: relative;
  background: var(--surface);
  border: 1px solid var(--rule);
  border-radius: 6px;
  overflow: hidden;
}
.picture {
  display: grid;
  place-items: center;
  position: relative;
  aspect-ratio: 16 / 9;
  background: color-mix(in srgb, var(--ink) 12%, transparent);
}
/* Out of the flow: a tall picture must not make the card taller when it arrives, and move what is about to be clicked. */
.picture img {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  object-fit: contain;
}
.words {
  padding: 12px 48px 14px 16px;
}
.title {
  font-size: 22px;
  font-weight: 700;
  line-height: 1.2;
  color: inherit;
  text-decoration: none;
}
.title:hover {
  text-decoration: underline;
  text-decoration-color: var(--vermilion);
}
.words p {
  font-size: 14px;
}
.quiet {
  color: var(--quiet);
}
.more {
  position: absolute;
  right: 8px;
  bottom: 14px;
}
.problem {
  color: rgb(var(--v-theme-error));
  margin-bottom: 16px;
}
.empty {
  font-size: 18px;
  color: var(--quiet);
}
</style>
