import type { Frame, FrameItem, SheetItem } from '#core/frame/frame'
import { inkBounds, itemBounds } from './bounds'
import type { CanvasSpace } from './canvas-space'
import { placeAt } from './canvas-space'
import { paintInk } from './ink'
import { paintLabel } from './label'
import { paintPin } from './pin'
import type { Region } from './region'
import { isEmpty, onCanvas, overlap, union, within } from './region'
import type { Studio, Surface } from './studio'
import { paintVehicle } from './vehicle'

export interface Painter {
  /**
   * Paints a frame onto a context whose canvas has just its size. Where the same context holds the frame painted before it, only what differs
   * between the two is painted; the pixels are the same either way.
   *
   * @param scale output pixels per reference pixel; frame.scale for the film itself
   * @returns the part of the canvas that was painted, in output pixels
   */
  paint(frame: Frame, context: CanvasRenderingContext2D, scale: number): Region
  /** Forgets what was painted; to be called when a sheet's picture has come, or the canvas was changed by someone else. */
  invalidate(): void
}

interface Painted {
  frame: Frame
  space: CanvasSpace
  context: CanvasRenderingContext2D
  size: { width: number; height: number }
}

/** The one painter, for preview and export alike. */
export function createPainter(studio: Studio): Painter {
  const glowSurface = scratch(studio)
  const layerSurface = scratch(studio)
  const backdrop = createBackdrop(studio)
  let last: Painted | undefined

  function paintItem(context: CanvasRenderingContext2D, space: CanvasSpace, item: FrameItem, region: Region): void {
    switch (item.kind) {
      case 'sheet':
        return // lies in the backdrop
      case 'ink':
        return paintInk(context, space, item, region, glowSurface)
      case 'pin':
        return paintPin(context, studio, space, item)
      case 'vehicle':
        return paintVehicle(context, studio, space, item, layerSurface)
      case 'label':
        return paintLabel(context, space, item)
    }
  }

  return {
    paint(frame, context, scale) {
      const space: CanvasSpace = { scale, reference: frame.reference, view: frame.view }
      const size = { width: Math.round(frame.reference.width * scale), height: Math.round(frame.reference.height * scale) }
      const now: Painted = { frame, space, context, size }
      const region = onCanvas(last && comparable(last, now) ? difference(last, now) : { x: 0, y: 0, ...size }, 2, size)
      last = now
      if (isEmpty(region)) return region
      const { x, y, width, height } = region
      within(context, region, () => {
        context.drawImage(backdrop.surfaceFor(now).image, x, y, width, height, x, y, width, height)
        for (const item of frame.items) if (overlap(itemBounds(context, space, item), region)) paintItem(context, space, item, region)
      })
      return region
    },
    invalidate() {
      last = undefined
      backdrop.forget()
    },
  }
}

/** Whether two frames show the same ground in the same way, on the same canvas, so that only their items can differ. */
const comparable = (a: Painted, b: Painted): boolean => a.context === b.context && sameGround(a, b)

const sameGround = (a: Omit<Painted, 'context'>, b: Omit<Painted, 'context'>): boolean =>
  a.size.width === b.size.width &&
  a.size.height === b.size.height &&
  a.space.scale === b.space.scale &&
  a.space.view.zoom === b.space.view.zoom &&
  a.space.view.centre.x === b.space.view.centre.x &&
  a.space.view.centre.y === b.space.view.centre.y &&
  a.frame.ground === b.frame.ground &&
  sheetsOf(a.frame).join() === sheetsOf(b.frame).join()

const sheetsOf = (frame: Frame): string[] => frame.items.flatMap((item) => (item.kind === 'sheet' ? [item.image] : []))

/** The region in which two frames differ, from what has come, gone or changed between them. */
function difference(before: Painted, now: Painted): Region {
  const { context, space } = now
  const old = new Map(before.frame.items.map((item) => [nameOf(item), item]))
  let region: Region = { x: 0, y: 0, width: 0, height: 0 }
  const add = (part: Region) => (region = union(region, part))
  for (const item of now.frame.items) {
    const name = nameOf(item)
    const was = old.get(name)
    old.delete(name)
    if (was && sameItem(was, item)) continue
    if (was?.kind === 'ink' && item.kind === 'ink' && was.course === item.course && was.ink === item.ink) {
      add(inkBounds(space, item, Math.min(was.head, item.head), Math.max(was.head, item.head)))
      continue
    }
    if (was) add(itemBounds(context, space, was))
    add(itemBounds(context, space, item))
  }
  for (const gone of old.values()) add(itemBounds(context, space, gone))
  return region
}

const nameOf = (item: FrameItem): string => (item.kind === 'sheet' ? item.image : 'leg' in item ? `${item.kind} ${item.leg}` : `${item.kind} ${item.stop}`)

/** Whether two items look alike: their fields are the same, or the same unchanged part of the journey. Sheets were compared before. */
function sameItem(a: FrameItem, b: FrameItem): boolean {
  const keys = Object.keys(a) as (keyof FrameItem)[]
  return a.kind === 'sheet' || (a.kind === b.kind && keys.every((key) => a[key] === b[key]))
}

/** The ground and the sheets, which are costly to paint and stay the same as long as the view does. */
function createBackdrop(studio: Studio) {
  let surface: Surface | undefined
  let painted: Omit<Painted, 'context'> | undefined
  return {
    surfaceFor(now: Omit<Painted, 'context'>): Surface {
      if (surface && painted && sameGround(painted, now)) return surface
      const { frame, space, size } = now
      if (!surface || surface.width !== size.width || surface.height !== size.height) surface = studio.createSurface(size.width, size.height)
      const { context } = surface
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.fillStyle = frame.ground
      context.fillRect(0, 0, size.width, size.height)
      for (const item of frame.items) if (item.kind === 'sheet') paintSheet(context, studio, space, item)
      painted = now
      return surface
    },
    forget() {
      painted = undefined
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
