import { watchDebounced } from '@vueuse/core'
import equal from 'fast-deep-equal'
import { onBeforeUnmount, watch } from 'vue'
import { compile } from '#core/frame/compile'
import { LABEL_CALLS } from '#core/labels/label-messages'
import { labelScene, NO_PLACES, placesOf } from '#core/labels/label-scene'
import type { LabelScene } from '#core/labels/label-solver'
import { callWorker, isAbort } from '~/services/call-worker'
import { useEditor } from '~/stores/editor'

/** Places are looked for once the journey has rested for so long, in milliseconds, and at the latest after the second time. */
const REST = 200
const LATEST = 2500

/** Keeps the places of the editor's automatic labels up to date: a worker looks for them while one goes on working. */
export function useLabelPlaces() {
  const editor = useEditor()
  const worker = callWorker(LABEL_CALLS, () => new Worker(new URL('../workers/label-worker.ts', import.meta.url), { type: 'module' }))
  let asked: LabelScene | undefined

  async function ask() {
    if (!editor.journey) return
    // The scene has all possible places of a label, so it does not depend on those that were found before.
    const scene = labelScene(compile(editor.journey, NO_PLACES))
    asked = scene
    if (!scene) {
      editor.crowdedLabels = new Set()
      editor.labelsPlaced = true
      return
    }
    try {
      const { chosen, crowded } = await worker.call('place', scene)
      if (asked !== scene) return
      const places = placesOf(scene, chosen)
      if (!equal([...places], [...editor.labelPlaces])) editor.labelPlaces = places
      editor.crowdedLabels = new Set(crowded)
      editor.labelsPlaced = true
    } catch (error) {
      // Without an answer the labels stay where they are.
      if (asked === scene) editor.labelsPlaced = true
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
  onBeforeUnmount(worker.close)
}
