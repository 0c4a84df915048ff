import { useDebounceFn, useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Journey } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'
import { ApiError, saveJourney } from '~/services/api'

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'conflict' | 'failed'

/** Milliseconds after the last edit until it is saved, and between retries when the server does not answer. */
const QUIET = 600
const RETRY = 4000

/** Saves the edited journey automatically, one save at a time, each based on the revision before. */
export function useAutosave(id: string, opened: { journey: Journey; revision: number }) {
  const editor = useEditor()
  const state = ref<SaveState>('saved')
  const problem = ref('')
  let revision = opened.revision
  /** The stored version, as far as this window knows. */
  let saved: Journey | undefined = opened.journey
  /** Another journey may be opened while a save of this one is waiting: it must never be stored in place of this one. */
  const opening = editor.opening
  const isThisOne = () => editor.opening === opening
  let running: Promise<void> | undefined

  async function save(): Promise<void> {
    const journey = editor.journey
    if (!journey || !isThisOne() || state.value === 'conflict') return
    if (journey === saved) {
      // Undo has led back to the stored version.
      state.value = 'saved'
      return
    }
    state.value = 'saving'
    try {
      revision = (await saveJourney(id, revision, journey, editor.keptPast())).revision
      saved = journey
      state.value = editor.journey === journey ? 'saved' : 'unsaved'
      problem.value = ''
    } catch (error) {
      if (!(error instanceof ApiError)) throw error
      state.value = error.status === 409 ? 'conflict' : 'failed'
      problem.value = error.message
      if (error.status === 0) setTimeout(() => void flush(), RETRY)
    }
  }

  /** Saves unsaved changes now; resolves when there are none left, or they cannot be saved. */
  async function flush(): Promise<void> {
    while (running) await running
    running = save()
    await running
    running = undefined
    if (isThisOne() && state.value === 'unsaved') await flush()
  }

  const later = useDebounceFn(() => void flush(), QUIET)
  watch(
    () => editor.journey,
    (journey) => {
      if (!isThisOne() || state.value === 'conflict') return
      if (state.value !== 'saving') state.value = journey === saved ? 'saved' : 'unsaved'
      void later()
    },
  )
  useEventListener(window, 'beforeunload', (event) => {
    if (state.value !== 'saved') event.preventDefault()
  })

  /** Adopts the other window's revision number, so that the next save goes on top of it. */
  function overwrite(otherRevision: number) {
    revision = otherRevision
    saved = undefined
    state.value = 'unsaved'
    return flush()
  }

  /** Loads the stored version into the editor, as an edit that can be undone. */
  function take(record: { journey: Journey; revision: number }) {
    revision = record.revision
    state.value = 'saved'
    editor.edit(() => record.journey)
    saved = editor.journey
    problem.value = ''
  }

  return { state, problem, isSafe: computed(() => state.value === 'saved'), flush, overwrite, take }
}
