import { ref, shallowRef } from 'vue'
import { compile } from '#core/frame/compile'
import type { Journey } from '#core/journey/schema'
import type { LabelPlaces } from '#core/labels/label-scene'
import { NO_PLACES } from '#core/labels/label-scene'
import type { CompiledJourney } from '#core/trips/compiled'

/** Journeys made ready for any moment, with the places of labels that were found last. */
export function useCompiling() {
  /** The places of automatic labels that were found last, and whether they are those of the journey as it is now. */
  const labelPlaces = shallowRef<LabelPlaces>(NO_PLACES)
  const labelsPlaced = ref(false)
  /** The stops and marks whose names overlap something for a while, as there is no room for them. */
  const crowdedLabels = shallowRef<ReadonlySet<string>>(new Set())
  /** The journey that was compiled last: an edit is tried out before it is shown, and need not be compiled twice. */
  let latest: { journey: Journey; places: LabelPlaces; compiled: CompiledJourney } | undefined

  /** @throws JourneyError if it makes no film */
  function compiledOf(journey: Journey): CompiledJourney {
    const places = labelPlaces.value
    if (latest?.journey !== journey || latest.places !== places) latest = { journey, places, compiled: compile(journey, places) }
    return latest.compiled
  }

  function forgetPlaces() {
    labelPlaces.value = NO_PLACES
    crowdedLabels.value = new Set()
  }

  return { labelPlaces, labelsPlaced, crowdedLabels, compiledOf, forgetPlaces }
}
