import { watchDebounced } from '@vueuse/core'
import equal from 'fast-deep-equal'
import { onBeforeUnmount, watch } from 'vue'
import { compile } from '#core/frame/compile'
import { labelReplySchema } from '#core/labels/label-messages'
import { labelScene, NO_PLACES, placesOf } from '#core/labels/label-scene'
import type { LabelScene } from '#core/labels/label-solver'
import { useEditor } from '~/stores/editor'

/** Places are looked for once the journey has rested for so long, in milliseconds, and at the latest after the second time. */
const REST = 200
const LATEST = 2500

/** Keeps the places of the editor's automatic labels up to date: a worker looks for them while one goes on working. */
export function useLabelPlaces() {
  const editor = useEditor()
  let worker: Worker | undefined
  let order = 0
  let asked: LabelScene | undefined

  function start(): Worker {
    const made = new Worker(new URL('../workers/label-worker.ts', import.meta.url), { type: 'module' })
    made.onmessage = ({ data }: MessageEvent<unknown>) => {
      const reply = labelReplySchema.parse(data)
      if (reply.order !== order || !asked) return
      const places = placesOf(asked, reply.chosen)
      if (!equal([...places], [...editor.labelPlaces])) editor.labelPlaces = places
      editor.crowdedLabels = new Set(reply.crowded)
      editor.labelsPlaced = true
    }
    // Without an answer the labels stay where they are.
    made.onerror = () => (editor.labelsPlaced = true)
    return made
  }

  function ask() {
    if (!editor.journey) return
    // The scene has all possible places of a label, so it does not depend on those that were found before.
    const scene = labelScene(compile(editor.journey, NO_PLACES))
    order++
    if (!scene) {
      editor.crowdedLabels = new Set()
      editor.labelsPlaced = true
      return
    }
    asked = scene
    worker ??= start()
    worker.postMessage({ order, scene })
  }

  watch(
    () => editor.journey,
    () => (editor.labelsPlaced = false),
    { flush: 'sync' },
  )
  watch(() => editor.opening, ask, { immediate: true })
  watchDebounced(() => editor.journey, ask, { debounce: REST, maxWait: LATEST })
  onBeforeUnmount(() => worker?.terminate())
}
