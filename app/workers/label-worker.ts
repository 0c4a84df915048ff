import '../services/zod-without-eval'
import { LABEL_CALLS } from '#core/labels/label-messages'
import { crowdedLabels, labelCosts, placeLabels } from '#core/labels/label-solver'
import { serve } from './serve'

/** Looks for the places of automatic labels off the main thread, one scene after another. */
serve(LABEL_CALLS, {
  place(scene) {
    const costs = labelCosts(scene)
    const chosen = placeLabels(scene, costs)
    return { chosen, crowded: crowdedLabels(scene, chosen, costs) }
  },
})
