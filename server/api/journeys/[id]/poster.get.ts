import { mkdir, readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { defineEventHandler, setResponseHeaders } from 'h3'
import sharp from 'sharp'
import type { Journey } from '#core/journey/schema'
import { paintStill } from '#render/still'
import { idParameter, noJourney, orRefuse } from '../../../http/refuse'
import { database, dataFolder } from '../../../storage/database'
import { readJourney } from '../../../storage/journeys'

/** Width of a card's picture, for screens of twice the usual density. */
const WIDTH = 720

/** One poster is painted at a time: those of a long list are asked for all at once, and are not to keep other requests waiting until all are done. */
let line: Promise<unknown> = Promise.resolve()

/** The finished journey as a small picture; asked for with its revision, so that a browser may keep it. */
export default defineEventHandler(async (event) => {
  const record = orRefuse(() => readJourney(database(), idParameter(event)))
  if (!record) throw noJourney()
  const folder = join(dataFolder(), 'posters')
  const path = join(folder, `${record.id}-${record.revision}.webp`)
  const isGone = () => event.node.res.closed
  const picture = await readFile(path).catch(() => {
    // Whoever has left the page meanwhile needs no picture any more.
    const mine = line.then(async () => (isGone() ? Buffer.alloc(0) : paintPoster(record.journey, folder, path)))
    line = mine.catch(() => undefined)
    return mine
  })
  setResponseHeaders(event, { 'content-type': 'image/webp', 'cache-control': 'private, max-age=86400' })
  return picture
})

async function paintPoster(journey: Journey, folder: string, path: string): Promise<Buffer> {
  const surface = await paintStill(dataFolder(), journey, journey.seconds, WIDTH)
  const { width, height } = surface
  const made = await sharp(surface.pixels(), { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .webp({ quality: 84 })
    .toBuffer()
  await mkdir(folder, { recursive: true })
  await writeFile(path, made)
  return made
}
