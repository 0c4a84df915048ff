import { levelFor, levelsOf } from '#core/sheet/levels'
import type { Size } from '#core/camera/view'
import type { SheetPicture, Studio, Surface } from '#draw/studio'
import { imageAddress } from './api'

function createSurface(width: number, height: number): Surface {
  const canvas = new OffscreenCanvas(width, height)
  const context = canvas.getContext('2d') as unknown as CanvasRenderingContext2D
  return { width, height, context, image: canvas }
}

/**
 * The painter's studio in the browser. Sheets come as scaled-down copies, never whole: `wantSheet` asks for the copy that is sharp enough, and
 * `onArrival` is called when one has come.
 */
export function createBrowserStudio(onArrival: () => void) {
  const arrived = new Map<string, { level: number; picture: SheetPicture }>()
  const asked = new Set<string>()

  async function load(hash: string, size: Size, level: number) {
    const address = imageAddress(hash, level)
    if (asked.has(address)) return
    asked.add(address)
    const response = await fetch(address).catch(() => undefined)
    if (!response?.ok) {
      // Asked for again at the next painting.
      asked.delete(address)
      return
    }
    const image = await createImageBitmap(await response.blob())
    const held = arrived.get(hash)
    if (held && held.level < level) return
    arrived.set(hash, {
      level,
      picture: { image, pixels: { width: image.width, height: image.height }, x: 0, y: 0, width: size.width, height: size.height },
    })
    onArrival()
  }

  const studio: Studio = {
    createSurface,
    createPath: (d) => new Path2D(d),
    sheetPicture: (hash) => arrived.get(hash)?.picture,
  }

  /** Asks for a sheet at the given sharpness (sheet pixels per output pixel); it comes in the smallest copy that has as much. */
  function wantSheet(hash: string, size: Size, sharpness: number) {
    const levels = levelsOf(size)
    const level = levelFor(levels, sharpness) ?? levels[0]!
    const held = arrived.get(hash)
    if (!held || held.level > level) void load(hash, size, level)
  }

  return { studio, wantSheet }
}
