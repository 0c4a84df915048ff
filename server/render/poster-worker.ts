import { mkdir, rename, rm, writeFile } from 'node:fs/promises'
import { dirname } from 'node:path'
import { parentPort } from 'node:worker_threads'
import sharp from 'sharp'
import { z } from 'zod'
import { parseJourney } from '#core/journey/parse'
import { paintStill } from './still'

/** A thread that paints posters: the finished journey as a small picture. */
export const posterOrderSchema = z.object({ folder: z.string(), document: z.string(), out: z.string() })
export type PosterOrder = z.infer<typeof posterOrderSchema>
/** `error` is null if the picture has been written. */
export type PosterReport = { error: string | null }

/** Width of a card's picture, for high-density screens. */
const WIDTH = 720

async function paintPoster({ folder, document, out }: PosterOrder): Promise<void> {
  const journey = parseJourney(JSON.parse(document))
  const surface = await paintStill(folder, journey, journey.seconds, WIDTH)
  const { width, height } = surface
  const picture = await sharp(surface.pixels(), { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .webp({ quality: 84 })
    .toBuffer()
  await mkdir(dirname(out), { recursive: true })
  // The file gets its name only when it is complete.
  const part = `${out}.part`
  try {
    await writeFile(part, picture)
    await rename(part, out)
  } catch (error) {
    await rm(part, { force: true })
    throw error
  }
}

parentPort?.on('message', (message: unknown) => {
  void paintPoster(posterOrderSchema.parse(message)).then(
    () => parentPort!.postMessage({ error: null } satisfies PosterReport),
    (error: unknown) => parentPort!.postMessage({ error: error instanceof Error ? error.message : String(error) } satisfies PosterReport),
  )
})
