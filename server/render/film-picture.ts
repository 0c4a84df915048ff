import type { PixelFormat } from '#core/film/pixel-format'
import { frameBytes } from '#core/film/pixel-format'
import type { Size } from '#core/geometry/size'
import { startModule } from '#draw/module'
import type { Region } from '#draw/region'
import { copyPart } from '#draw/region'

/** The frame that is painted: its pixels, and how they come to an encoder. */
export interface FilmPicture {
  /** RGBA, row by row, alpha not premultiplied. */
  rgba: Uint8Array
  /** Says where the pixels have changed since it was called last. @param parts whole pixels */
  changed(parts: readonly Region[]): void
  /** Copies parts as the encoder takes them to where they are in a whole frame of that format. */
  copyTo(frame: Uint8Array, parts: readonly Region[]): void
}

export const createFilmPicture = (format: PixelFormat, size: Size): FilmPicture =>
  format === 'rgba' ? rgbaPicture(size) : yuvPicture(size)

function rgbaPicture(size: Size): FilmPicture {
  const rgba = new Uint8Array(frameBytes('rgba', size))
  return {
    rgba,
    changed() {},
    copyTo(frame, parts) {
      for (const part of parts) copyPart(rgba, frame, part, size.width, 4)
    },
  }
}

/** Opaque pixels, converted where they have changed. */
function yuvPicture({ width, height }: Size): FilmPicture {
  const code = startModule()
  const bytes = frameBytes('yuv420p', { width, height })
  const pixels = code.allocate(4 * width * height)
  const planes = code.allocate(bytes)
  const [cb, cr] = [width * height, 1.25 * width * height]
  // The memory does not grow from here on, so that these stay what they are.
  const { buffer } = code.memory
  const made = new Uint8Array(buffer, planes, bytes)
  const halved = ({ x, y, width, height }: Region): Region => ({ x: x / 2, y: y / 2, width: width / 2, height: height / 2 })
  return {
    rgba: new Uint8Array(buffer, pixels, 4 * width * height),
    changed(parts) {
      for (const part of parts) {
        const { x, y, width: across, height: down } = onPairs(part, { width, height })
        code.toYuv(pixels, width, planes, planes + cb, planes + cr, x, y, x + across, y + down)
      }
    },
    copyTo(frame, parts) {
      for (const part of parts) {
        const pairs = onPairs(part, { width, height })
        copyPart(made, frame, pairs, width, 1)
        for (const plane of [cb, cr]) copyPart(made.subarray(plane), frame.subarray(plane), halved(pairs), width / 2, 1)
      }
    },
  }
}

/** A part grown to pairs of pixels both ways, at least two of them across. */
function onPairs({ x, y, width, height }: Region, size: Size): Region {
  const left = Math.min(x - (x % 2), size.width - 4)
  const top = y - (y % 2)
  const right = Math.max(left + 4, x + width + ((x + width) % 2))
  return { x: left, y: top, width: right - left, height: y + height + ((y + height) % 2) - top }
}
