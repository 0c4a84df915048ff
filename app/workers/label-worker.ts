import '../services/zod-without-eval'
import { labelOrderSchema } from '#core/labels/label-messages'
import { crowdedLabels, labelCosts, placeLabels } from '#core/labels/label-solver'

/** Looks for the places of automatic labels off the main thread, one scene after another. */
self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const { order, scene } = labelOrderSchema.parse(data)
  const costs = labelCosts(scene)
  const chosen = placeLabels(scene, costs)
  self.postMessage({ order, chosen, crowded: crowdedLabels(scene, chosen, costs) })
}
