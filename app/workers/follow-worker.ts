import '../services/zod-without-eval'
import { colourAt, followRoad } from '#core/follow/follow-road'
import type { FollowReply } from '#core/follow/messages'
import { followOrderSchema } from '#core/follow/messages'
import { tiledSource } from '#core/follow/tiled-source'
import { tileSize } from '#core/sheet/pyramid'
import { tileAddress } from '~/services/addresses'

/** Searches roads off the main thread. One request per worker: terminating it cancels the search. */
const reply = (message: FollowReply) => self.postMessage(message)

self.onmessage = async ({ data }: MessageEvent<unknown>) => {
  try {
    const { image, width, height, ask } = followOrderSchema.parse(data)
    const size = { width, height }
    const source = tiledSource(size, async (tile) => {
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
    if (ask.kind === 'colour') reply({ kind: 'colour', colour: await colourAt(source, ask.at) })
    else reply({ kind: 'way', followed: await followRoad(source, ask, (share) => reply({ kind: 'progress', share })) })
  } catch (error) {
    reply({ kind: 'failed', message: error instanceof Error ? error.message : String(error) })
  }
}
