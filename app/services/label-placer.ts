import { compile } from '#core/frame/compile'
import type { Journey } from '#core/journey/schema'
import { LABEL_CALLS } from '#core/labels/label-messages'
import type { LabelPlaces } from '#core/labels/label-scene'
import { labelScene, NO_PLACES, placesOf } from '#core/labels/label-scene'
import { callWorker } from './call-worker'

/** Where a journey's automatic labels lie best, and which of them overlap something for want of room. */
interface FoundPlaces {
  places: LabelPlaces
  crowded: readonly string[]
}

/** Finds the places of labels in a worker, one journey after another; closing it aborts what is under way: see isAbort. */
export function createLabelPlacer() {
  const worker = callWorker(LABEL_CALLS, () => new Worker(new URL('../workers/label-worker.ts', import.meta.url), { type: 'module' }))
  return {
    async find(journey: Journey): Promise<FoundPlaces> {
      // The scene has all possible places of a label, so it does not depend on those that were found before.
      const scene = labelScene(compile(journey, NO_PLACES))
      if (!scene) return { places: NO_PLACES, crowded: [] }
      const { chosen, crowded } = await worker.call('place', scene)
      return { places: placesOf(scene, chosen), crowded }
    },
    close: worker.close,
  }
}
