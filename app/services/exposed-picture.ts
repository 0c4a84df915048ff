import type { Size } from '#core/geometry/size'
import type { Frame } from '#core/frame/frame'
import type { Exposure } from '#draw/exposure'
import { createExposure } from '#draw/exposure'
import type { Painter } from '#draw/painter'
import { createSurface } from './browser-studio'

/** Lets the page answer to what has come meanwhile. */
const pause = () => new Promise((resolve) => setTimeout(resolve))

/**
 * Makes the mean of several frames, one after the other, so that the page goes on answering.
 * @param painter whose pictures they are
 */
export function createExposedPicture(painter: Painter) {
  let kept: { surface: ReturnType<typeof createSurface>; exposure: Exposure } | undefined
  let last = 0

  function fitting({ width, height }: Size) {
    if (kept?.surface.width !== width || kept.surface.height !== height)
      kept = { surface: createSurface(width, height, true), exposure: createExposure({ width, height }) }
    return kept
  }

  return {
    /** @returns the mean of the frames; undefined where it was cancelled, or another one was asked for, meanwhile */
    async paint(frames: readonly Frame[], size: Size, scale: number): Promise<ImageData | undefined> {
      const own = ++last
      const { surface, exposure } = fitting(size)
      const { width, height, context } = surface
      const whole = [{ x: 0, y: 0, width, height }]
      for (const frame of frames) {
        await pause()
        if (own !== last) return undefined
        painter.paint(frame, context, scale)
        exposure.change(whole)
        exposure.pixels.set(context.getImageData(0, 0, width, height).data)
        exposure.add()
      }
      const image = new ImageData(width, height)
      exposure.finish(image.data)
      return image
    },
    cancel: () => void last++,
  }
}
