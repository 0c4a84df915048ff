import type { Frame, FrameItem, SheetItem } from '#core/frame/frame'
import type { CanvasSpace } from './canvas-space'
import { placeAt } from './canvas-space'
import { paintInk } from './ink'
import { paintLabel } from './label'
import { paintPin } from './pin'
import type { Studio, Surface } from './studio'
import { paintVehicle } from './vehicle'

export interface Painter {
  /**
   * Paints a frame onto a context, from its upper left corner.
   * @param scale output pixels per reference pixel; frame.scale for the film itself
   */
  paint(frame: Frame, context: CanvasRenderingContext2D, scale: number): void
  /** Forgets what was kept from frame to frame; to be called when a sheet's picture has come or changed. */
  invalidate(): void
}

/** What all frames have in common that share their lowest items with the one painted last. */
interface Backdrop {
  surface: Surface
  space: CanvasSpace
  ground: string
  items: FrameItem[]
}

/**
 * The one painter, for preview and export alike. From frame to frame most of the picture stays: the lowest items that two frames have in common
 * are kept as a backdrop and painted only once.
 */
export function createPainter(studio: Studio): Painter {
  const glowSurface = scratch(studio)
  const layerSurface = scratch(studio)
  let backdrop: Backdrop | undefined
  let previous: Frame | undefined

  function paintItem(context: CanvasRenderingContext2D, space: CanvasSpace, item: FrameItem): void {
    switch (item.kind) {
      case 'sheet':
        return paintSheet(context, studio, space, item)
      case 'ink':
        return paintInk(context, space, item, glowSurface)
      case 'pin':
        return paintPin(context, studio, space, item)
      case 'vehicle':
        return paintVehicle(context, studio, space, item, layerSurface)
      case 'label':
        return paintLabel(context, space, item)
    }
  }

  /** The backdrop for the first `count` items of a frame, made or carried on as far as it goes. */
  function backdropFor(frame: Frame, space: CanvasSpace, count: number): Backdrop {
    const width = Math.round(space.reference.width * space.scale)
    const height = Math.round(space.reference.height * space.scale)
    const usable =
      backdrop &&
      backdrop.surface.width === width &&
      backdrop.surface.height === height &&
      backdrop.ground === frame.ground &&
      sameView(backdrop.space, space) &&
      backdrop.items.length <= count &&
      backdrop.items.every((item, i) => sameItem(item, frame.items[i]!))
    if (!backdrop || !usable) {
      const surface =
        backdrop && backdrop.surface.width === width && backdrop.surface.height === height
          ? backdrop.surface
          : studio.createSurface(width, height)
      surface.context.setTransform(1, 0, 0, 1, 0, 0)
      surface.context.fillStyle = frame.ground
      surface.context.fillRect(0, 0, width, height)
      backdrop = { surface, space, ground: frame.ground, items: [] }
    }
    for (const item of frame.items.slice(backdrop.items.length, count)) {
      paintItem(backdrop.surface.context, space, item)
      backdrop.items.push(item)
    }
    return backdrop
  }

  return {
    paint(frame, context, scale) {
      const space: CanvasSpace = { scale, reference: frame.reference, view: frame.view }
      const sheets = frame.items.findIndex((item) => item.kind !== 'sheet')
      const lowest = sheets === -1 ? frame.items.length : sheets
      const shared = previous ? commonStart(previous.items, frame.items) : 0
      const kept = backdropFor(frame, space, Math.max(lowest, shared))
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.drawImage(kept.surface.image, 0, 0)
      for (const item of frame.items.slice(kept.items.length)) paintItem(context, space, item)
      previous = frame
    },
    invalidate() {
      backdrop = undefined
      previous = undefined
    },
  }
}

function paintSheet(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: SheetItem): void {
  const picture = studio.sheetPicture(item.image)
  if (!picture) return
  placeAt(context, space, picture, space.view.zoom)
  context.imageSmoothingEnabled = true
  context.imageSmoothingQuality = 'high'
  context.drawImage(picture.image, 0, 0, picture.width, picture.height)
}

/** A surface that is used again and again, cleared each time, and made anew only when a larger one is needed. */
function scratch(studio: Studio): (width: number, height: number) => Surface {
  let surface: Surface | undefined
  return (width, height) => {
    if (!surface || surface.width < width || surface.height < height) {
      surface = studio.createSurface(Math.max(width, surface?.width ?? 0), Math.max(height, surface?.height ?? 0))
    }
    surface.context.setTransform(1, 0, 0, 1, 0, 0)
    surface.context.clearRect(0, 0, surface.width, surface.height)
    return surface
  }
}

const sameView = (a: CanvasSpace, b: CanvasSpace): boolean =>
  a.scale === b.scale && a.view.zoom === b.view.zoom && a.view.centre.x === b.view.centre.x && a.view.centre.y === b.view.centre.y

/** Whether two items look alike: their fields are the same, or the same unchanged part of the journey. */
function sameItem(a: FrameItem, b: FrameItem): boolean {
  const keys = Object.keys(a) as (keyof FrameItem)[]
  return a.kind === b.kind && keys.every((key) => a[key] === b[key])
}

function commonStart(a: readonly FrameItem[], b: readonly FrameItem[]): number {
  let n = 0
  while (n < a.length && n < b.length && sameItem(a[n]!, b[n]!)) n++
  return n
}
