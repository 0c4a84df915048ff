<script setup lang="ts">
import { mdiDownload } from '@mdi/js'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { rateLabel } from '#core/pace/rate'
import DialogSheet from '~/components/DialogSheet.vue'
import type { ExportRecord } from '~/services/api'
import { ApiError, cancelExport, exportAddress, listExports, startExport, watchExport } from '~/services/api'
import { useEditor } from '~/stores/editor'

const props = defineProps<{ journeyId: string; save: () => Promise<void>; isSaved: () => boolean }>()
const open = defineModel<boolean>({ required: true })
const editor = useEditor()

const current = ref<ExportRecord>()
const earlier = ref<ExportRecord[]>([])
const problem = ref('')
const starting = ref(false)
let stopWatching: (() => void) | undefined

const running = computed(() => current.value?.state === 'running' || current.value?.state === 'queued')
const share = computed(() => (current.value ? (100 * current.value.framesDone) / current.value.framesTotal : 0))
const began = ref(0)
/** Time left by the pace so far, once that is steady. */
const left = computed(() => {
  const record = current.value
  if (!record || record.framesDone < 15) return ''
  const seconds = Math.ceil((((Date.now() - began.value) / record.framesDone) * (record.framesTotal - record.framesDone)) / 1000)
  return seconds >= 60 ? `about ${Math.ceil(seconds / 60)} min left` : `about ${seconds} s left`
})

async function refresh() {
  try {
    const all = await listExports(props.journeyId)
    const active = all.find((record) => record.state === 'running' || record.state === 'queued')
    if (active && !running.value) follow(active)
    earlier.value = all.filter((record) => record.state === 'done' && record.id !== current.value?.id)
  } catch (error) {
    problem.value = error instanceof ApiError ? error.message : String(error)
  }
}
watch(open, (isOpen) => {
  if (!isOpen) return
  if (!running.value) current.value = undefined
  problem.value = ''
  void refresh()
})

function follow(record: ExportRecord) {
  current.value = record
  began.value = Date.now()
  stopWatching?.()
  stopWatching = watchExport(record.id, (state) => {
    if (current.value?.state === 'queued' && state.state === 'running') began.value = Date.now()
    current.value = state
  })
}
onBeforeUnmount(() => stopWatching?.())

async function start() {
  problem.value = ''
  starting.value = true
  try {
    await props.save()
    if (!props.isSaved()) problem.value = 'The journey could not be saved, so it cannot be exported: see the note beside its name.'
    else follow(await startExport(props.journeyId))
  } catch (error) {
    problem.value = error instanceof ApiError ? error.message : String(error)
  } finally {
    starting.value = false
  }
}

const megabytes = (bytes: number | null) => `${((bytes ?? 0) / 1e6).toFixed(1)} MB`
const clock = (time: number) => new Date(time).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <DialogSheet v-model="open" title="Export">
    <p class="figures">
      MP4 (H.264), {{ editor.journey!.frame.width }} × {{ editor.journey!.frame.height }},
      {{ rateLabel(editor.journey!.frame.rate) }} frames a second, {{ editor.journey!.seconds }} s: {{ editor.compiled!.frames }} frames.
    </p>

    <div v-if="current" class="job" aria-live="polite">
      <template v-if="running">
        <v-progress-linear :model-value="share" color="accent" height="8" rounded aria-label="Progress of the export" />
        <p class="figures" data-testid="export-progress">
          {{
            current.state === 'queued' ? 'Waiting for another export to finish' : `Frame ${current.framesDone} of ${current.framesTotal}`
          }}
          <span class="quiet">{{ left }}</span>
        </p>
      </template>
      <p v-else-if="current.state === 'done'" class="done" data-testid="export-done">
        Done: {{ megabytes(current.bytes) }}.
        <v-btn color="accent" variant="flat" :prepend-icon="mdiDownload" :href="exportAddress(current.id)" download data-testid="download"
          >Download</v-btn
        >
      </p>
      <p v-else-if="current.state === 'cancelled'">Cancelled. Nothing was kept of it.</p>
      <p v-else class="problem" role="alert">The export failed. {{ current.error }}</p>
    </div>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>

    <template v-if="earlier.length > 0">
      <h3>Earlier exports of this journey</h3>
      <ul>
        <li v-for="record in earlier" :key="record.id" class="figures">
          <a :href="exportAddress(record.id)" download>{{ clock(record.createdAt) }}</a>
          <span class="quiet">{{ record.framesTotal }} frames, {{ megabytes(record.bytes) }}</span>
        </li>
      </ul>
    </template>

    <template #actions>
      <v-btn variant="text" @click="open = false">Close</v-btn>
      <v-btn v-if="running" variant="outlined" color="error" data-testid="cancel-export" @click="cancelExport(current!.id)"
        >Cancel the export</v-btn
      >
      <v-btn v-else color="accent" variant="flat" :loading="starting" data-testid="start-export" @click="start">
        {{ current?.state === 'done' ? 'Export again' : 'Export the film' }}
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
