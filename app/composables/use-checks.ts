import { watchDebounced } from '@vueuse/core'
import { onBeforeUnmount, watch } from 'vue'
import { checkFilm } from '#core/checks/check-film'
import { useChecks } from '~/stores/checks'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'

/** The film is looked through once the journey has rested for so long, in milliseconds. */
const REST = 700
/** It is looked through in pieces of so long, with as long a pause between two of them: what one does meanwhile goes first. In milliseconds. */
const PIECE = 8

/** Keeps the findings of the checks up to date while one goes on working; not while the film plays, nor before its names have their places. */
export function useFilmChecks() {
  const editor = useEditor()
  const playback = usePlayback()
  const checks = useChecks()
  let run = 0

  async function look() {
    const own = ++run
    const { compiled } = editor
    if (!compiled || !editor.labelsPlaced || playback.playing) return
    const looking = checkFilm(compiled)
    for (;;) {
      const end = performance.now() + PIECE
      do {
        const { done, value } = looking.next()
        if (done) return void (checks.findings = value)
      } while (performance.now() < end)
      await new Promise((resolve) => setTimeout(resolve, PIECE))
      if (own !== run) return
    }
  }

  watch(
    () => editor.opening,
    () => (checks.findings = []),
  )
  // What is under way is of a journey that is no more.
  watch([() => editor.compiled, () => playback.playing], () => run++, { flush: 'sync' })
  watchDebounced([() => editor.compiled, () => editor.labelsPlaced, () => playback.playing], look, { debounce: REST, immediate: true })
  onBeforeUnmount(() => run++)
}
