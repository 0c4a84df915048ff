import type { Size } from '#core/geometry/size'
import { append } from '#core/geometry/extremes'
import { startModule } from './module'
import type { Region } from './region'
import { copyPart, squaresOver } from './region'

/**
 * Pictures of which one is the mean in linear light, as what film sees while the shutter is open. They are painted one after the other into the same pixels:
 * what is the same in all of them costs nothing.
 */
export interface Exposure {
  /** The picture that is painted: RGBA, row by row, alpha not premultiplied. */
  pixels: Uint8Array
  /** Says that parts of it are about to be painted. */
  change(parts: readonly Region[]): void
  /** Adds it, as it is now, to what is seen. */
  add(): void
  /**
   * Ends with the mean of what was added, and begins anew.
   * @param out the picture that the mean was written to before; where it is the same it is left as it is
   * @returns the parts that differ from before
   */
  finish(out: Uint8Array | Uint8ClampedArray): readonly Region[]
}

/** Exposures of pictures of one size. It takes 24 bytes of memory a pixel. */
export function createExposure(size: Size): Exposure {
  const { width, height } = size
  const code = startModule()
  const bytes = 4 * width * height
  const [current, mean, sums] = [code.allocate(bytes), code.allocate(bytes), code.allocate(4 * bytes)]
  // The memory does not grow from here on, so that these stay what they are.
  const { buffer } = code.memory
  const pixels = new Uint8Array(buffer, current, bytes)
  const made = new Uint8Array(buffer, mean, bytes)
  /** Where what was written last is not the picture, or is not any more. */
  let stale: Region[] = [{ x: 0, y: 0, ...size }]
  /** Where the pictures that are added differ; only there are sums. */
  let blurred: Region[] = []
  let added = 0
  const expose = ({ x, y, width: across, height: down }: Region, times: number, isFirst: boolean) =>
    code.expose(current, width, x, y, x + across, y + down, sums, times, isFirst ? 1 : 0)

  return {
    pixels,
    change(parts) {
      if (added === 0) return append(stale, parts)
      const fresh = squaresOver(parts, size, blurred)
      for (const part of fresh) expose(part, added, true)
      append(blurred, fresh)
    },
    add() {
      for (const part of blurred) expose(part, 1, false)
      added++
    },
    finish(out) {
      const sharp = squaresOver(stale, size, blurred)
      for (const part of sharp) copyPart(pixels, out, part, width, 4)
      for (const part of blurred) {
        code.develop(sums, width, part.x, part.y, part.x + part.width, part.y + part.height, added, mean)
        copyPart(made, out, part, width, 4)
      }
      const changed = [...sharp, ...blurred]
      stale = blurred
      blurred = []
      added = 0
      return changed
    },
  }
}
