import { defineStore } from 'pinia'
import type { FilmPace, FilmSettings } from '#core/film/settings'
import { computed, ref } from 'vue'
import type { ExportRecord } from '~/services/api'
import { listExports, listPaces, removeExport, startExport, watchExport } from '~/services/api'
import { useEditor } from './editor'

/** The export of the open journey, which goes on while its dialog is closed. */
export const useExports = defineStore('exports', () => {
  const editor = useEditor()
  const current = ref<ExportRecord>()
  const earlier = ref<ExportRecord[]>([])
  /** What films took that were made on this machine. */
  const paces = ref<FilmPace[]>([])
  /** Whether the dialog shows it, so that no notice is needed. */
  const isWatched = ref(false)
  const began = ref(0)
  /** The films that were asked for together with the one that is made, and have yet to be. */
  const queued = ref<string[]>([])
  const waiting = computed(() => queued.value.length)
  let stopWatching: (() => void) | undefined

  const running = computed(() => current.value?.state === 'running' || current.value?.state === 'queued')
  /** 0..1 */
  const share = computed(() => (current.value ? current.value.framesDone / current.value.framesTotal : 0))
  /** Estimated time left, once the pace is steady. */
  const left = computed(() => {
    const record = current.value
    if (!record || record.framesDone < 15) return ''
    const seconds = Math.ceil((((Date.now() - began.value) / record.framesDone) * (record.framesTotal - record.framesDone)) / 1000)
    return seconds >= 60 ? `about ${Math.ceil(seconds / 60)} min left` : `about ${seconds} s left`
  })

  function follow(record: ExportRecord, journey: string) {
    current.value = record
    began.value = Date.now()
    stopWatching?.()
    stopWatching = watchExport(record.id, (state) => {
      if (current.value?.state === 'queued' && state.state === 'running') began.value = Date.now()
      current.value = state
      const isOver = state.state !== 'queued' && state.state !== 'running'
      // Films of several shapes are made one after the other.
      if (isOver && waiting.value > 0) {
        queued.value = queued.value.slice(1)
        void refresh(journey)
        if (state.state === 'done') return
      }
      if (isWatched.value) return
      if (state.state === 'done') editor.notice = { text: 'The film is ready: see Export.' }
      else if (state.state === 'failed') editor.notice = { text: `The export failed. ${state.error ?? ''}` }
    })
  }

  /** Loads the exports of a journey, and follows a running one. */
  async function refresh(journey: string): Promise<void> {
    const all = await listExports(journey)
    const active = all.find((record) => record.state === 'running' || record.state === 'queued')
    if (active && !running.value) follow(active, journey)
    paces.value = await listPaces()
    earlier.value = all.filter((record) => record.state === 'done' && record.id !== current.value?.id)
  }

  /** Starts one film or several; they are made one after the other. */
  async function start(journey: string, films: readonly { settings: FilmSettings; name: string }[]) {
    const records: ExportRecord[] = []
    for (const { settings, name } of films) records.push(await startExport(journey, settings, name))
    queued.value = records.slice(1).map(({ id }) => id)
    follow(records[0]!, journey)
  }

  /** Cancels the film that is made, and those that were asked for together with it. */
  async function cancel() {
    const ids = [...queued.value].reverse()
    queued.value = []
    for (const id of [...ids, current.value!.id]) await removeExport(id)
  }

  /** Stops following the export of another journey. */
  function reset() {
    stopWatching?.()
    stopWatching = undefined
    current.value = undefined
    queued.value = []
    earlier.value = []
  }

  /** Resets the dialog after an export has ended. */
  function clear() {
    if (!running.value) current.value = undefined
  }

  return { current, earlier, paces, waiting, isWatched, running, share, left, refresh, start, cancel, reset, clear }
})
