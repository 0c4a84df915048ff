import { defineStore } from 'pinia'
import type { FilmSettings } from '#core/film/settings'
import { computed, ref } from 'vue'
import type { ExportRecord } from '~/services/api'
import { listExports, startExport, watchExport } from '~/services/api'
import { useEditor } from './editor'

/** The export of the open journey, which goes on while its dialog is closed. */
export const useExports = defineStore('exports', () => {
  const editor = useEditor()
  const current = ref<ExportRecord>()
  const earlier = ref<ExportRecord[]>([])
  /** Whether the dialog shows it, so that no notice is needed. */
  const isWatched = ref(false)
  const began = ref(0)
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

  function follow(record: ExportRecord) {
    current.value = record
    began.value = Date.now()
    stopWatching?.()
    stopWatching = watchExport(record.id, (state) => {
      if (current.value?.state === 'queued' && state.state === 'running') began.value = Date.now()
      current.value = state
      if (isWatched.value) return
      if (state.state === 'done') editor.notice = { text: 'The film is ready: see Export.' }
      else if (state.state === 'failed') editor.notice = { text: `The export failed. ${state.error ?? ''}` }
    })
  }

  /** Loads the exports of a journey, and follows a running one. */
  async function refresh(journey: string): Promise<void> {
    const all = await listExports(journey)
    const active = all.find((record) => record.state === 'running' || record.state === 'queued')
    if (active && !running.value) follow(active)
    earlier.value = all.filter((record) => record.state === 'done' && record.id !== current.value?.id)
  }

  const start = async (journey: string, settings: FilmSettings, name: string) => follow(await startExport(journey, settings, name))

  /** Stops following the export of another journey. */
  function reset() {
    stopWatching?.()
    stopWatching = undefined
    current.value = undefined
    earlier.value = []
  }

  /** Resets the dialog after an export has ended. */
  function clear() {
    if (!running.value) current.value = undefined
  }

  return { current, earlier, isWatched, running, share, left, refresh, start, reset, clear }
})
