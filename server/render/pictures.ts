import { once } from 'node:events'
import { createWriteStream } from 'node:fs'
import { rename, rm, writeFile } from 'node:fs/promises'
import { finished } from 'node:stream/promises'
import { Zip, ZipPassThrough } from 'fflate'
import sharp from 'sharp'
import { isOpaque } from '#core/film/passes'
import type { FilmSettings } from '#core/film/settings'
import type { Encoder } from './encoder'
import { partOf } from './encoder'

/** The largest archive that readers without ZIP64 can open. Source: PKWARE APPNOTE 6.3.9, section 4.4. */
const MOST_BYTES = 2 ** 32 - 2 ** 20

/** Compression takes longer than painting; the lower levels lose little on maps. */
const COMPRESSION = 3

/** A frame as a PNG: transparent where the film is. */
function png(frame: Uint8Array, { width, height, shows }: FilmSettings): Promise<Buffer> {
  const picture = sharp(frame, { raw: { width, height, channels: 4 } })
  return (isOpaque(shows) ? picture.removeAlpha() : picture).png({ compressionLevel: COMPRESSION }).toBuffer()
}

/** Writes a PNG for each frame into a ZIP, while the film is rendered; the pictures are numbered as the film's frames are, from 0. */
export function startArchive(out: string, settings: FilmSettings): Encoder {
  const file = createWriteStream(partOf(out))
  const closed = finished(file)
  // An error is thrown by the next call; until then nobody waits for it.
  closed.catch(() => undefined)
  let bytes = 0
  let failure: Error | undefined
  let isFull = false
  const zip = new Zip((error, chunk, isLast) => {
    if (error) failure = error
    bytes += chunk.length
    isFull = !file.write(chunk)
    if (isLast) file.end()
  })
  let number = settings.from
  return {
    async write(frame) {
      const entry = new ZipPassThrough(`frame-${String(number++).padStart(5, '0')}.png`)
      // Without a time of its own each archive would be another.
      entry.mtime = new Date('2026-01-01T00:00:00Z')
      zip.add(entry)
      entry.push(await png(frame, settings), true)
      if (failure) throw failure
      if (bytes > MOST_BYTES)
        throw new Error('The pictures take up more than 4 GB, which is more than a ZIP can hold: export a part of the film.')
      if (isFull) await Promise.race([once(file, 'drain'), closed])
    },
    async finish() {
      zip.end()
      await closed
      await rename(partOf(out), out)
    },
    async abort() {
      zip.terminate()
      file.destroy()
      await closed.catch(() => undefined)
      await rm(partOf(out), { force: true })
    },
  }
}

/** Writes the one frame that it gets as a PNG. */
export function startPicture(out: string, settings: FilmSettings): Encoder {
  return {
    async write(frame) {
      await writeFile(partOf(out), await png(frame, settings))
    },
    finish: () => rename(partOf(out), out),
    abort: () => rm(partOf(out), { force: true }),
  }
}
