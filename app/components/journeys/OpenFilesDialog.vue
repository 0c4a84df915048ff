<script setup lang="ts">
import { onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import DialogSheet from '~/components/DialogSheet.vue'
import type { OpenedJourney } from '~/services/api'
import { ApiError, openJourneyFile, replaceJourney } from '~/services/api'

/**
 * Opens journey files, one after the other. Emits the journey where one came in as a new one with nothing to be said of it; else what there is to be said, or
 * asked, is shown first. Nothing is lost by closing it: each journey is in the list already.
 */
const { files } = defineProps<{ files: readonly File[] }>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ changed: []; opened: [id: string] }>()

interface Entry {
  file: string
  /** What came of it; undefined where it could not be opened. */
  journey?: OpenedJourney
  problem?: string
  /** Whether it is in the place of the one it was saved from now, or beside it. */
  settled?: 'both' | 'replaced'
}
const entries = shallowRef<readonly Entry[]>([])
const running = ref<{ file: string; share: number }>()
let control: AbortController | undefined

watch(
  [open, () => files],
  async () => {
    control?.abort()
    entries.value = []
    if (!open.value) return
    const own = (control = new AbortController())
    for (const file of files) {
      running.value = { file: file.name, share: 0 }
      const entry = await openOne(file, own.signal)
      if (own.signal.aborted) break
      entries.value = [...entries.value, entry]
      emit('changed')
    }
    if (control !== own) return
    running.value = undefined
    const [only, ...more] = entries.value
    if (own.signal.aborted || !only?.journey || more.length > 0) return
    if (only.journey.sameAs === null && only.journey.missing.length === 0) leaveTo(only.journey.id)
  },
  { immediate: true },
)

async function openOne(file: File, signal: AbortSignal): Promise<Entry> {
  try {
    const journey = await openJourneyFile(file, (share) => running.value && (running.value.share = share), signal)
    return { file: file.name, journey }
  } catch (error) {
    if (!(error instanceof ApiError)) throw error
    return { file: file.name, problem: error.message }
  }
}

const change = (i: number, patch: Partial<Entry>) =>
  (entries.value = entries.value.map((entry, k) => (k === i ? { ...entry, ...patch } : entry)))

async function replace(i: number) {
  const { sameAs, id } = entries.value[i]!.journey!
  try {
    await replaceJourney(sameAs!.id, id)
    change(i, { settled: 'replaced', problem: undefined })
    emit('changed')
  } catch (error) {
    if (!(error instanceof ApiError)) throw error
    change(i, { problem: error.message })
  }
}
function leaveTo(id: string) {
  open.value = false
  emit('opened', id)
}
const idOf = ({ journey, settled }: Entry): string => (settled === 'replaced' ? journey!.sameAs!.id : journey!.id)

onBeforeUnmount(() => control?.abort())
</script>

<template>
  <DialogSheet v-model="open" title="Open a journey file" :width="560" fixed>
    <div v-if="running" role="status" class="running">
      <span>Opening “{{ running.file }}” …</span>
      <v-progress-linear :model-value="100 * running.share" color="accent" />
    </div>
    <ul class="entries">
      <li v-for="(entry, i) in entries" :key="i" data-testid="opened-file">
        <p v-if="entry.journey && entry.settled === 'replaced'">
          “{{ entry.journey.name }}” is in place of the one that was here, which is kept as a version of it.
        </p>
        <p v-else-if="entry.journey?.sameAs && !entry.settled">
          “{{ entry.journey.name }}” was saved from “{{ entry.journey.sameAs.name }}”, which is in your list. Keep both, or replace that
          one? What is replaced is kept as a version.
        </p>
        <p v-else-if="entry.journey">“{{ entry.journey.name }}” is in your list.</p>
        <ul v-if="entry.journey && entry.journey.missing.length > 0" class="problem">
          <li>It was opened without what its file does not have:</li>
          <li v-for="sentence in entry.journey.missing" :key="sentence">{{ sentence }}</li>
        </ul>
        <p v-if="entry.problem" class="problem" role="alert">
          {{ entry.problem.includes(entry.file) ? '' : `“${entry.file}”: ` }}{{ entry.problem }}
        </p>
        <div v-if="entry.journey" class="row">
          <template v-if="entry.journey.sameAs && !entry.settled">
            <v-btn size="small" variant="outlined" data-testid="keep-both" @click="change(i, { settled: 'both' })">Keep both</v-btn>
            <v-btn size="small" variant="outlined" data-testid="replace-journey" @click="replace(i)">Replace</v-btn>
          </template>
          <v-btn v-else size="small" variant="outlined" @click="leaveTo(idOf(entry))">Go to it</v-btn>
        </div>
      </li>
    </ul>
    <template #actions>
      <v-btn variant="text" @click="open = false">{{ running ? 'Cancel' : 'Close' }}</v-btn>
    </template>
  </DialogSheet>
</template>

<style scoped>
.running {
  display: grid;
  gap: 6px;
}
.entries,
.entries ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.entries > li + li {
  margin-top: 14px;
}
.row {
  display: flex;
  gap: 8px;
  margin-top: 6px;
}
.problem {
  color: var(--vermilion);
}
</style>
