import { mkdir, rename, rm, writeFile } from 'node:fs/promises'
import { dirname } from 'node:path'
import sharp from 'sharp'
import type { Journey } from '#core/journey/schema'
import { paintStill } from './still'

/** The size of a card's picture, for high-density screens: so wide, or so high where the frame is a narrow one. */
const MOST = { width: 720, height: 1280 } as const

/** Paints the finished journey as a small picture, a WebP file. @throws JourneyError if it cannot be painted; no file is left then */
export async function paintPoster(folder: string, journey: Journey, out: string): Promise<void> {
  const { frame } = journey
  const across = Math.max(1, Math.round(Math.min(MOST.width, (MOST.height * frame.width) / frame.height)))
  const surface = await paintStill(folder, journey, journey.seconds, across)
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
