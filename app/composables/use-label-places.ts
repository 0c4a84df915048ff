import { watchDebounced } from '@vueuse/core'
import equal from 'fast-deep-equal'
import { onBeforeUnmount, watch } from 'vue'
import { isAbort } from '~/services/call-worker'
import { createLabelPlacer } from '~/services/label-placer'
import { useEditor } from '~/stores/editor'

/** Places are looked for once the journey has rested for so long, in milliseconds, and at the latest after the second time. */
const REST = 200
const LATEST = 2500

/** Keeps the places of the editor's automatic labels up to date: a worker looks for them while one goes on working. */
export function useLabelPlaces() {
  const editor = useEditor()
  const placer = createLabelPlacer()
  let asked = 0

  async function ask() {
    if (!editor.journey) return
    const own = ++asked
    try {
      const { places, crowded } = await placer.find(editor.journey)
      if (own !== asked) return
      if (places.size > 0 && !equal([...places], [...editor.labelPlaces])) editor.labelPlaces = places
      editor.crowdedLabels = new Set(crowded)
      editor.labelsPlaced = true
    } catch (error) {
      // Without an answer the labels stay where they are.
      if (own === asked) editor.labelsPlaced = true
      if (!isAbort(error)) throw error
    }
  }

  watch(
    () => editor.journey,
    () => (editor.labelsPlaced = false),
    { flush: 'sync' },
  )
  watch(() => editor.opening, ask, { immediate: true })
  watchDebounced(() => editor.journey, ask, { debounce: REST, maxWait: LATEST })
  onBeforeUnmount(placer.close)
}
