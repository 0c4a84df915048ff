import { append } from '#core/geometry/extremes'
import equal from 'fast-deep-equal'
import type { Frame, FrameItem, InkItem } from '#core/frame/frame'
import { IS_GROUND, itemName } from '#core/frame/frame'
import { alongCourse, itemRegions } from './bounds'
import type { CanvasSpace } from './canvas-space'
import { sizeOf, spaceOf } from './canvas-space'
import { paintCarried } from './marks/carried'
import { paintMapName } from './type/map-name'
import { paintCaption } from './type/caption'
import { paintCredit } from './type/credit'
import { createFader } from './fade'
import { paintDepth } from './ground/depth'
import { paintAir } from './ground/globe'
import { createEdgeShade } from './ground/edge-shade'
import { paintArea, paintGround } from './ground/ground'
import { growsAtHead, paintInk, paintPlanned } from './ink/ink'
import { inkReach } from './ink/reach'
import { paintParticles } from './ink/particles'
import { createSoftener } from './ink/soft'
import { LONGEST_PIECE } from './ink/strand'
import { paintLabel } from './marks/label'
import { paintStanding } from './marks/landmark'
import { paintPin } from './marks/pin'
import { paintDim, paintPostcard } from './marks/postcard'
import type { Region } from './region'
import { onCanvas, overlap, squaresOver } from './region'
import { createSheetPainter } from './ground/sheet'
import type { Studio, Surface } from './studio'
import { paintVehicle } from './marks/vehicle'

export interface Painter {
  /**
   * Paints a frame onto a context whose canvas has exactly its size. If the context holds the frame painted before, only what has changed
   * is repainted; the pixels are the same either way.
   *
   * @param scale output pixels per reference pixel; frame.scale for the film itself
   * @param how.isRough whether a view at rest is painted only as finely as one that moves, which is quicker
   * @param how.takeGround gets the pixels of the ground of a frame whose view moves, where they are one picture: the canvas has what is seen there only in the
   *   parts that are returned then
   * @returns the parts of the canvas that differ from before, in output pixels
   */
  paint(frame: Frame, context: CanvasRenderingContext2D, scale: number, how?: Manner): Region[]
  /** Forgets what was painted; call it when a sheet's picture has arrived, or something else has changed the canvas. */
  invalidate(): void
}

interface Manner {
  isRough?: boolean
  takeGround?: (ground: ImageData) => void
}

interface Painted {
  frame: Frame
  space: CanvasSpace
  context: CanvasRenderingContext2D
  size: { width: number; height: number }
}

/** The one painter, for preview and export alike. */
export function createPainter(studio: Studio): Painter {
  const soft = { blurred: scratch(studio), light: scratch(studio) }
  const ink = { softener: createSoftener(studio), layer: scratch(studio), ends: scratch(studio), edges: scratch(studio) }
  const sheetPainter = createSheetPainter(studio)
  const edgeShade = createEdgeShade(studio)
  const fading = createFader(studio)
  const layers = { first: scratch(studio), second: scratch(studio) }
  let last: Painted | undefined

  function paintItem(context: CanvasRenderingContext2D, space: CanvasSpace, item: FrameItem): void {
    switch (item.kind) {
      case 'ground':
        return paintGround(context, space, item)
      case 'sheet':
        return sheetPainter.paint(context, space, item, soft.blurred)
      case 'area':
        return paintArea(context, space, item)
      case 'air':
        return space.projection.bent && paintAir(context, space, space.projection.bent, item, soft.light)
      case 'edge-shade':
        return edgeShade.paint(context, space, item)
      case 'map-dim':
        return paintDim(context, space, item)
      case 'depth':
        return paintDepth(context, space, item, soft)
      case 'map-name':
        return fading(context, space, item, (canvas) => paintMapName(canvas, space, item))
      case 'ink':
        return paintInk(context, studio, space, item, squaresOf(space, [item]), ink)
      case 'particles':
        return paintParticles(context, space, item)
      case 'planned':
        return paintPlanned(context, studio, space, item)
      case 'pin':
        return fading(context, space, item, (canvas) => paintPin(canvas, studio, space, item, layers))
      case 'standing':
        return paintStanding(context, studio, space, item, layers)
      case 'vehicle':
        return paintVehicle(context, studio, space, item, layers)
      case 'carried':
        return fading(context, space, item, (canvas) => paintCarried(canvas, studio, space, item))
      case 'label':
        return fading(context, space, item, (canvas) => paintLabel(canvas, space, item))
      case 'dim':
        return paintDim(context, space, item)
      case 'postcard':
        return fading(context, space, item, (canvas) => paintPostcard(canvas, studio, space, item))
      case 'caption':
        return fading(context, space, item, (canvas) => paintCaption(canvas, space, item))
      case 'credit':
        return paintCredit(context, space, item)
      default:
        return item satisfies never
    }
  }

  const sheets = createBackdrop(studio, paintItem)
  const settled = createBackdrop(studio, paintItem, sheets)

  /** A part of a picture. Some canvases copy all of one, to put a part of it. */
  function cut({ data, width }: ImageData, part: Region): ImageData {
    const pixels = new Uint8ClampedArray(4 * part.width * part.height)
    for (let row = 0; row < part.height; row++) {
      const start = 4 * (width * (part.y + row) + part.x)
      pixels.set(data.subarray(start, start + 4 * part.width), 4 * part.width * row)
    }
    return studio.imageOf(pixels, part.width, part.height)
  }

  /** Paints a frame whose ground is handed over on its own: only what stands over that needs the canvas. @returns those parts; undefined where it is more than a picture */
  function paintOverGround({ frame, space, context }: Painted, takeGround: (ground: ImageData) => void): Region[] | undefined {
    const count = sheetCount(frame)
    const uppermost = frame.items[count - 1]
    const shade = uppermost?.kind === 'edge-shade' ? uppermost : undefined
    const ground = shade ? frame.items[count - 2] : uppermost
    if (shade && shade.opacity < 1) return undefined
    const image = ground?.kind === 'sheet' && sheetPainter.whole(space, ground, shade && edgeShade.pictureOf(space, shade))
    if (!image) return undefined
    const items = frame.items.slice(count)
    const parts = squaresOf(space, items)
    context.setTransform(1, 0, 0, 1, 0, 0)
    takeGround(image)
    for (const part of parts) context.putImageData(cut(image, part), part.x, part.y)
    for (const item of items) paintItem(context, space, item)
    // The canvas does not hold the frame: the next one cannot go on from it.
    last = undefined
    return parts
  }

  return {
    paint(frame, context, scale, { isRough, takeGround } = {}) {
      const space = spaceOf(frame, scale, isRough)
      const size = sizeOf(space)
      const now: Painted = { frame, space, context, size }
      const before = last && comparable(last, now) ? last : undefined
      // While the view moves a backdrop would be good for one frame only.
      const { isMoving } = frame
      last = now
      if (!before) {
        const parts = isMoving && takeGround && paintOverGround(now, takeGround)
        if (parts) return parts
        const start = isMoving ? 0 : sheetCount(frame)
        context.setTransform(1, 0, 0, 1, 0, 0)
        context.clearRect(0, 0, size.width, size.height)
        if (!isMoving) context.drawImage(sheets.holding(now, start).image, 0, 0)
        for (const item of frame.items.slice(start)) paintItem(context, space, item)
        return [{ x: 0, y: 0, ...size }]
      }
      const same = commonStart(before.frame.items, frame.items)
      const { items, squares } = touched(before, now, same)
      const base = settled.holding(now, same)
      context.setTransform(1, 0, 0, 1, 0, 0)
      for (const { x, y, width, height } of squares) {
        context.clearRect(x, y, width, height)
        context.drawImage(base.image, x, y, width, height, x, y, width, height)
      }
      for (const item of items) paintItem(context, space, item)
      return squaresOver(
        difference(before, now).map((region) => onCanvas(region, 2, size)),
        size,
      )
    },
    invalidate() {
      last = undefined
      sheets.forget()
      settled.forget()
    },
  }
}

/** The parts of the canvas that hold all of some items, cut along a grid. */
function squaresOf(space: CanvasSpace, items: readonly FrameItem[]): Region[] {
  const size = sizeOf(space)
  return squaresOver(
    items.flatMap((item) => itemRegions(space, item).map((region) => onCanvas(region, 2, size))),
    size,
  )
}

/** How many of a frame's items are the ground, sheets and what belongs to them; they are the lowest. */
function sheetCount({ items }: Frame): number {
  const first = items.findIndex((item) => !IS_GROUND[item.kind])
  return first === -1 ? items.length : first
}

/** How many of the lowest items two frames have in common. */
function commonStart(a: readonly FrameItem[], b: readonly FrameItem[]): number {
  let n = 0
  while (n < a.length && n < b.length && sameItem(a[n]!, b[n]!)) n++
  return n
}

/**
 * The items above the lowest `same` that must be repainted, and the squares of the canvas to clear for them. A changed item draws in whatever is in its squares,
 * and so on: each item is painted whole or not at all, so that its edges always come out the same.
 */
function touched(before: Painted, now: Painted, same: number): { items: FrameItem[]; squares: Region[] } {
  const { space, size, frame } = now
  const upper = frame.items.slice(same).map((item) => ({ item, squares: squaresOf(space, [item]) }))
  const old = new Map(before.frame.items.slice(same).map((item) => [itemName(item), item]))
  const cleared: Region[] = []
  const chosen = new Set<FrameItem>()
  for (const { item, squares } of upper) {
    const was = old.get(itemName(item))
    if (was && sameItem(was, item)) old.delete(itemName(item))
    else {
      chosen.add(item)
      append(cleared, squares)
    }
  }
  append(cleared, squaresOf(space, [...old.values()]))
  for (let grown = true; grown;) {
    grown = false
    for (const { item, squares } of upper) {
      if (chosen.has(item) || !squares.some((square) => cleared.some((region) => overlap(region, square)))) continue
      chosen.add(item)
      append(cleared, squares)
      grown = true
    }
  }
  return { items: upper.flatMap(({ item }) => (chosen.has(item) ? [item] : [])), squares: squaresOver(cleared, size) }
}

/** Whether two frames show the same ground in the same way, on the same canvas, so that only their items can differ. */
const comparable = (a: Painted, b: Painted): boolean => a.context === b.context && sameGround(a, b)

const sameGround = (a: Painted, b: Painted): boolean =>
  a.size.width === b.size.width &&
  a.size.height === b.size.height &&
  a.space.scale === b.space.scale &&
  a.space.isRough === b.space.isRough &&
  equal(a.frame.view, b.frame.view) &&
  equal(a.frame.sun, b.frame.sun) &&
  sheetCount(a.frame) === sheetCount(b.frame) &&
  commonStart(a.frame.items, b.frame.items) >= sheetCount(a.frame)

/** The regions in which two frames differ, from what has come, gone or changed between them. */
function difference(before: Painted, now: Painted): Region[] {
  const { space } = now
  const old = new Map(before.frame.items.map((item) => [itemName(item), item]))
  const regions: Region[] = []
  for (const item of now.frame.items) {
    const name = itemName(item)
    const was = old.get(name)
    old.delete(name)
    if (was && sameItem(was, item)) continue
    if (was?.kind === 'ink' && item.kind === 'ink' && hasOnlyGrown(was, item)) {
      const from = Math.max(item.tail, Math.min(was.head, item.head) - LONGEST_PIECE / space.projection.view.zoom)
      regions.push(alongCourse(space, item.course, from, Math.max(was.head, item.head), inkReach(item.ink)))
      continue
    }
    if (was) append(regions, itemRegions(space, was))
    append(regions, itemRegions(space, item))
  }
  for (const gone of old.values()) append(regions, itemRegions(space, gone))
  return regions
}

const hasOnlyGrown = (was: InkItem, item: InkItem): boolean =>
  was.course === item.course && was.ink === item.ink && was.opacity === item.opacity && was.tail === item.tail && growsAtHead(item.ink)

/** Whether two items look the same: their fields are equal, or the same unchanged part of the journey. */
function sameItem(a: FrameItem, b: FrameItem): boolean {
  const keys = Object.keys(a) as (keyof FrameItem)[]
  return a.kind === b.kind && keys.every((key) => a[key] === b[key] || (MADE_ANEW.has(key) && equal(a[key], b[key])))
}

/** What is worked out for each frame, and may come out as it was: the place of something, and what a title or readout shows. */
const MADE_ANEW: ReadonlySet<string> = new Set(['at', 'figure'])

/**
 * A picture of the lowest items of a frame, reused from frame to frame while they stay the same. `under` is a backdrop of fewer items
 * that it can start from.
 */
function createBackdrop(
  studio: Studio,
  paintItem: (context: CanvasRenderingContext2D, space: CanvasSpace, item: FrameItem) => void,
  under?: { holding(now: Painted, count: number): Surface },
) {
  let surface: Surface | undefined
  let painted: Painted | undefined
  let held = 0

  const start = (now: Painted) => {
    const { frame, size } = now
    if (!surface || surface.width !== size.width || surface.height !== size.height) surface = studio.createSurface(size.width, size.height)
    surface.context.setTransform(1, 0, 0, 1, 0, 0)
    surface.context.clearRect(0, 0, size.width, size.height)
    held = 0
    if (under) {
      held = sheetCount(frame)
      surface.context.drawImage(under.holding(now, held).image, 0, 0)
    }
    return surface
  }

  return {
    /** The backdrop with the lowest `count` items of a frame; at least all its sheets. */
    holding(now: Painted, count: number): Surface {
      const fits = painted && held <= count && sameGround(painted, now) && commonStart(painted.frame.items, now.frame.items) >= held
      const canvas = fits ? surface! : start(now)
      for (const item of now.frame.items.slice(held, count)) paintItem(canvas.context, now.space, item)
      held = Math.max(held, count)
      painted = now
      return canvas
    },
    forget() {
      painted = undefined
    },
  }
}

/** A reused surface, cleared each time, and replaced when another size is needed: pixels must not depend on what was painted before. */
function scratch(studio: Studio): (width: number, height: number) => Surface {
  let surface: Surface | undefined
  return (width, height) => {
    if (!surface || surface.width !== width || surface.height !== height) surface = studio.createSurface(width, height)
    surface.context.setTransform(1, 0, 0, 1, 0, 0)
    surface.context.clearRect(0, 0, width, height)
    return surface
  }
}
