import '../services/zod-without-eval'
import { labelOrderSchema } from '#core/frame/label-messages'
import { placeLabels } from '#core/frame/label-solver'

/** Looks for the places of automatic labels off the main thread, one scene after another. */
self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const { order, scene } = labelOrderSchema.parse(data)
  self.postMessage({ order, chosen: placeLabels(scene) })
}
