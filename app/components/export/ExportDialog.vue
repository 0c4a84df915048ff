<script setup lang="ts">
import { mdiDownload } from '@mdi/js'
import { storeToRefs } from 'pinia'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { FILM_FORMATS } from '#core/film/formats'
import { passFilms } from '#core/film/passes'
import type { FilmSettings } from '#core/film/settings'
import DialogSheet from '~/components/DialogSheet.vue'
import { isSameShape } from '#core/edits/camera/reframe'
import type { Size } from '#core/geometry/size'
import { nameOfShape } from '~/components/camera/shape-names'
import { megabytes } from '~/services/sizes'
import { ApiError, exportAddress, removeExport } from '~/services/api'
import { useEditor } from '~/stores/editor'
import { useExports } from '~/stores/exports'
import FilmFields from './FilmFields.vue'

const props = defineProps<{ journeyId: string; save: () => Promise<void>; isSaved: () => boolean }>()
const open = defineModel<boolean>({ required: true })
const editor = useEditor()

const exports = useExports()
const { current, earlier, running, left } = storeToRefs(exports)
const problem = ref('')
const starting = ref(false)
const share = computed(() => 100 * exports.share)
const settings = shallowRef<FilmSettings>()
const title = ref(editor.journey!.name)

async function refresh() {
  try {
    await exports.refresh(props.journeyId)
  } catch (error) {
    problem.value = error instanceof ApiError ? error.message : String(error)
  }
}
void refresh()
onBeforeUnmount(() => exports.reset())
watch(open, (isOpen) => {
  exports.isWatched = isOpen
  if (!isOpen) return
  exports.clear()
  title.value = editor.journey!.name
  problem.value = ''
  void refresh()
})

/** The other shapes of the journey's frame, which can be exported along with the one that is worked on. */
const others = computed(() => {
  const { frame, reframes } = editor.document!
  return [frame, ...reframes].filter((shape) => !isSameShape(shape, editor.journey!.frame))
})
const LONGEST_NAME = 120
const together = ref(false)
const inPasses = ref(false)
/** What is made: one film, or one in each shape, with the same shorter side, and of each of them its passes, where asked for. */
function films() {
  const shapes = filmsOfShapes()
  if (!inPasses.value) return shapes
  return shapes.flatMap(({ settings: film, name }) =>
    passFilms(editor.compiled!, film).map(({ settings: pass, part }) => ({
      settings: pass,
      name: `${name.slice(0, LONGEST_NAME - part.length - 1)} ${part}`,
    })),
  )
}

/** Where there are several shapes, each has its own in its name. */
function filmsOfShapes() {
  const name = title.value.trim() || editor.journey!.name
  const asked = settings.value!
  if (others.value.length === 0) return [{ settings: asked, name }]
  const named = (shape: Size) => `${name} ${nameOfShape(shape).replace(':', 'x')}`.slice(0, LONGEST_NAME)
  if (!together.value) return [{ settings: asked, name: named(asked) }]
  const short = Math.min(asked.width, asked.height)
  const even = (value: number, { width, height }: Size) => 2 * Math.round((value * short) / Math.min(width, height) / 2)
  return [
    { settings: asked, name: named(asked) },
    ...others.value.map((shape) => ({
      settings: { ...asked, width: even(shape.width, shape), height: even(shape.height, shape) },
      name: named(shape),
    })),
  ]
}

async function start() {
  problem.value = ''
  starting.value = true
  try {
    await props.save()
    if (!props.isSaved()) problem.value = 'The journey could not be saved, so it cannot be exported: see the note beside its name.'
    else await exports.start(props.journeyId, films())
  } catch (error) {
    problem.value = error instanceof ApiError ? error.message : String(error)
  } finally {
    starting.value = false
  }
}

async function deleteFilm(id: string) {
  problem.value = ''
  try {
    await removeExport(id)
    await refresh()
  } catch (error) {
    problem.value = error instanceof ApiError ? error.message : String(error)
  }
}
const clock = (time: number) => new Date(time).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <DialogSheet v-model="open" title="Export">
    <FilmFields v-show="!running" v-model="settings" v-model:title="title" v-model:in-passes="inPasses" :journey-id="journeyId" />
    <v-switch
      v-if="!running && others.length > 0"
      v-model="together"
      :label="`Also in ${others.map(nameOfShape).join(', ')}`"
      data-testid="export-together"
    />

    <div v-if="current" class="job" aria-live="polite">
      <template v-if="running">
        <v-progress-linear :model-value="share" color="accent" height="8" rounded aria-label="Progress of the export" />
        <p class="figures" data-testid="export-progress">
          {{
            current.state === 'queued' ? 'Waiting for another export to finish' : `Frame ${current.framesDone} of ${current.framesTotal}`
          }}
          <span class="quiet">{{ left }}</span>
          <span v-if="exports.waiting > 0" class="quiet">{{
            exports.waiting === 1 ? 'one more film after this' : `${exports.waiting} more films after this`
          }}</span>
        </p>
      </template>
      <p v-else-if="current.state === 'done'" class="done" data-testid="export-done">
        Done: {{ megabytes(current.bytes ?? 0) }}.
        <v-btn color="accent" variant="flat" :prepend-icon="mdiDownload" :href="exportAddress(current.id)" download data-testid="download"
          >Download</v-btn
        >
      </p>
      <p v-else-if="current.state === 'cancelled'">Cancelled. Nothing was kept.</p>
      <p v-else class="problem" role="alert">The export failed. {{ current.error }}</p>
    </div>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>

    <template v-if="earlier.length > 0">
      <h3>Earlier exports of this journey</h3>
      <ul>
        <li v-for="record in earlier" :key="record.id" class="figures">
          <a :href="exportAddress(record.id)" download>{{ clock(record.createdAt) }}</a>
          <span class="quiet"
            >{{ record.name }}, {{ FILM_FORMATS[record.format].name }},
            {{ record.framesTotal === 1 ? 'one frame' : `${record.framesTotal} frames` }}, {{ megabytes(record.bytes ?? 0) }}</span
          >
          <button type="button" class="delete" :aria-label="`Delete the film of ${clock(record.createdAt)}`" @click="deleteFilm(record.id)">
            Delete
          </button>
        </li>
      </ul>
    </template>

    <template #actions>
      <v-btn variant="text" @click="open = false">Close</v-btn>
      <v-btn v-if="running" variant="outlined" color="error" data-testid="cancel-export" @click="exports.cancel()"
        >Cancel {{ exports.waiting > 0 ? 'all' : 'export' }}</v-btn
      >
      <v-btn v-else color="accent" variant="flat" :loading="starting" :disabled="!settings" data-testid="start-export" @click="start">
        {{
          inPasses
            ? 'Export the passes'
            : settings?.format === 'still'
              ? 'Export the still'
              : current?.state === 'done'
                ? 'Export again'
                : 'Export the film'
        }}
      </v-btn>
    </template>
  </DialogSheet>
</template>

<style scoped>
h3 {
  font-size: 14px;
}
ul {
  padding-left: 18px;
  max-height: 130px;
  overflow-y: auto;
}
li a {
  color: var(--sea);
}
.delete {
  margin-left: 8px;
  text-decoration: underline;
  cursor: pointer;
}
.quiet {
  margin-left: 8px;
  color: var(--quiet);
}
.job p {
  margin-top: 8px;
}
.done {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
.problem {
  color: rgb(var(--v-theme-error));
}
</style>
