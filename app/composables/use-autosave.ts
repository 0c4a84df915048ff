import { tryOnScopeDispose, useDebounceFn, useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { changesBetween } from '#core/journey/history'
import type { Journey } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'
import { ApiError, readJourney, saveJourney } from '~/services/api'

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'conflict' | 'deleted' | 'failed'

/** Milliseconds after the last edit until it is saved. */
const QUIET = 600

/** The pause before the first retry of a failed save, and the longest one, to which it doubles. In milliseconds. */
const FIRST_PAUSE = 2000
const LONGEST_PAUSE = 60_000

/** Answers after which trying again may help: none at all, or the server's trouble with the machine. */
const isPassing = (status: number): boolean => status === 0 || status === 408 || status === 429 || status >= 500

/** Saves the edited journey automatically, one save at a time, each based on the revision before. */
export function useAutosave(id: string, opened: { journey: Journey; revision: number }) {
  const editor = useEditor()
  const state = ref<SaveState>('saved')
  const problem = ref('')
  /** When the next retry is due, in milliseconds since 1970; undefined if none is. */
  const retryAt = ref<number>()
  let retry: ReturnType<typeof setTimeout> | undefined
  let pause = FIRST_PAUSE
  let revision = opened.revision
  /** The stored version, as far as this window knows. */
  let saved: Journey | undefined = opened.journey
  /** A version that was sent without an answer, so that nobody knows whether it was stored. */
  let uncertain: Journey | undefined
  /** Another journey may be opened while a save of this one is waiting: it must never be stored in place of this one. */
  const opening = editor.opening
  const isThisOne = () => editor.opening === opening
  const isStopped = () => state.value === 'conflict' || state.value === 'deleted'
  let running: Promise<void> | undefined

  async function save(): Promise<void> {
    const journey = editor.document
    if (!journey || !isThisOne() || isStopped()) return
    clearTimeout(retry)
    retryAt.value = undefined
    if (journey === saved && !uncertain) {
      // Undo has led back to the stored version.
      state.value = 'saved'
      return
    }
    state.value = 'saving'
    try {
      revision = (await saveJourney(id, revision, journey, editor.keptPast())).revision
      settled(journey)
    } catch (error) {
      await recover(error, journey)
    }
  }

  function settled(journey: Journey): void {
    saved = journey
    uncertain = undefined
    pause = FIRST_PAUSE
    problem.value = ''
    state.value = editor.document === journey ? 'saved' : 'unsaved'
  }

  async function recover(error: unknown, journey: Journey): Promise<void> {
    const { message, status } = error instanceof ApiError ? error : { message: String(error), status: 0 }
    if (status === 409 && (await wasOwn())) return
    if (status === 409) state.value = 'conflict'
    else if (status === 404) state.value = 'deleted'
    else state.value = 'failed'
    problem.value = message
    if (!isPassing(status)) return
    uncertain = journey
    retryAt.value = Date.now() + pause
    retry = setTimeout(() => void flush(), pause)
    pause = Math.min(LONGEST_PAUSE, 2 * pause)
  }

  /** Whether the newer revision on the server is what this window sent without getting an answer; then it goes on from that. */
  async function wasOwn(): Promise<boolean> {
    if (!uncertain) return false
    try {
      const stored = await readJourney(id)
      if (changesBetween(uncertain, stored.journey).length > 0) return false
      revision = stored.revision
      settled(uncertain)
      return true
    } catch {
      return false
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
    () => editor.document,
    (journey) => {
      if (!isThisOne() || isStopped()) return
      if (state.value !== 'saving') state.value = journey === saved ? 'saved' : 'unsaved'
      void later()
    },
  )
  tryOnScopeDispose(() => clearTimeout(retry))
  useEventListener(window, 'beforeunload', (event) => {
    if (state.value !== 'saved') event.preventDefault()
  })

  /** Adopts the other window's revision number, so that the next save goes on top of it. */
  function overwrite(otherRevision: number) {
    revision = otherRevision
    saved = undefined
    uncertain = undefined
    state.value = 'unsaved'
    return flush()
  }

  /** Loads the stored version into the editor, as an edit that can be undone. */
  function take(record: { journey: Journey; revision: number }) {
    revision = record.revision
    state.value = 'saved'
    editor.edit(() => record.journey)
    saved = editor.document
    uncertain = undefined
    problem.value = ''
  }

  return { state, problem, retryAt, isSafe: computed(() => state.value === 'saved'), flush, overwrite, take }
}
