import { mkdir, readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { defineEventHandler, setResponseHeaders } from 'h3'
import sharp from 'sharp'
import { paintStill } from '#render/still'
import { idParameter, noJourney, orRefuse } from '../../../http/refuse'
import { database, dataFolder } from '../../../storage/database'
import { readJourney } from '../../../storage/journeys'

/** Width of a card's picture, for screens of twice the usual density. */
const WIDTH = 720

/** The finished journey as a small picture; asked for with its revision, so that a browser may keep it. */
export default defineEventHandler(async (event) => {
  const record = orRefuse(() => readJourney(database(), idParameter(event)))
  if (!record) throw noJourney()
  const folder = join(dataFolder(), 'posters')
  const path = join(folder, `${record.id}-${record.revision}.webp`)
  const picture = await readFile(path).catch(async () => {
    const surface = await paintStill(dataFolder(), record.journey, record.journey.seconds, WIDTH)
    const { width, height } = surface
    const made = await sharp(surface.pixels(), { raw: { width, height, channels: 4 } })
      .removeAlpha()
      .webp({ quality: 84 })
      .toBuffer()
    await mkdir(folder, { recursive: true })
    await writeFile(path, made)
    return made
  })
  setResponseHeaders(event, { 'content-type': 'image/webp', 'cache-control': 'private, max-age=86400' })
  return picture
})
