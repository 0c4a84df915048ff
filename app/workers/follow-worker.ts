import '../services/zod-without-eval'
import { colourAt, followRoad } from '#core/follow/follow-road'
import { FOLLOW_CALLS } from '#core/follow/messages'
import { tiledSource } from '#core/follow/tiled-source'
import { tileSize } from '#core/sheet/pyramid'
import { tileAddress } from '~/services/addresses'
import { serve } from './serve'

/** Searches roads off the main thread. */
function pictureOf({ image, width, height }: { image: string; width: number; height: number }) {
  const size = { width, height }
  return tiledSource(size, async (tile) => {
    const response = await fetch(tileAddress(image, tile))
    if (response.status === 204) return undefined
    if (!response.ok) throw new Error(`A part of the map could not be read (${response.status}): try again.`)
    const bitmap = await createImageBitmap(await response.blob())
    const { width: w, height: h } = tileSize(size, tile)
    const context = new OffscreenCanvas(w, h).getContext('2d', { willReadFrequently: true })!
    context.drawImage(bitmap, 0, 0)
    bitmap.close()
    return context.getImageData(0, 0, w, h).data
  })
}

serve(FOLLOW_CALLS, {
  way: (order, { onProgress }) => followRoad(pictureOf(order), order, onProgress),
  colour: (order) => colourAt(pictureOf(order), order.at),
})
