import { greatest, least } from '#core/geometry/extremes'
import { projectedRing } from '#core/camera/projection'
import type { SheetItem } from '#core/frame/frame'
import { coversFrame } from '#core/sheet/framing'
import { levelsFor, levelsOfRow, partAt, rowDetail } from '#core/sheet/mosaic'
import { drawnAt } from '#core/sheet/pen'
import { groundCorners, groundToSheet } from '#core/sheet/place'
import { coarsestLevel, tileGrid } from '#core/sheet/pyramid'
import type { CanvasSpace } from '../canvas-space'
import { sizeOf } from '../canvas-space'
import type { Region } from '../region'
import { isEmpty, onCanvas } from '../region'
import type { Studio, Surface } from '../studio'
import type { SampledLevel, Target } from './sampler'
import { createSampler, MISSING, ROW } from './sampler'
import { createTiles, tilesKept } from './tiles'

/**
 * A tilted view at rest is sampled so many times finer in both directions, and halved: it is looked at for long, and painted once. Its error against 16 x 16
 * samples a pixel is a tenth less then; a flat one, which is at one scale all over, would only be softer.
 */
const AT_REST = 2

/** At rest so many rows of the frame are sampled at a time. */
const STRIP = 64

/** All of a level is laid over what is there. */
const WHOLE = 256

/** How finely the ground is seen changes so little from row to row that it is worked out for each so many, and interpolated between. */
const DETAIL_STEP = 8

/** What rows of the frame are painted from: one level, and the share of the next coarser one that is laid over it, 0..256. */
interface RowLevels {
  level: number
  share: number
}

/** Rows of the frame, and how many times as finely as its pixels they are sampled in both directions. */
interface Band {
  /** Its first pixel and its first row, in output pixels. */
  left: number
  top: number
  rows: number
  finer: number
}

/** Paints sheets where the ground is not bent: flat, turned or tilted. */
export function createLaidSheetPainter(studio: Studio) {
  let made: { sampler: ReturnType<typeof createSampler>; tiles: ReturnType<typeof createTiles> } | undefined
  let targets: { whole: Target; strip: Target | undefined } | undefined
  let layer: { picture: ImageData; target: Target } | undefined
  /** Images that let something through. */
  const clear = new Set<string>()

  function start(space: CanvasSpace): void {
    const most = tilesKept(sizeOf(space))
    if (made?.tiles.most === most) return
    made?.tiles.clear()
    const sampler = made?.sampler ?? createSampler(studio.imageOf)
    made = { sampler, tiles: createTiles(studio, sampler, most) }
  }

  function targetsOf({ width, height }: Region, isFiner: boolean): { whole: Target; strip: Target | undefined } {
    const { sampler } = made!
    if (targets && (targets.whole.width !== width || targets.whole.height !== height)) {
      sampler.release(targets.whole.at)
      if (targets.strip) sampler.release(targets.strip.at)
      targets = undefined
    }
    targets ??= { whole: sampler.target(width, height), strip: undefined }
    if (isFiner) targets.strip ??= sampler.target(AT_REST * width, AT_REST * STRIP)
    return { whole: targets.whole, strip: isFiner ? targets.strip : undefined }
  }

  /** The levels of a sheet that are seen, by level; where tiles are on their way, under them the coarsest one, which is a single tile. */
  function levelsOf(
    { sheet: asLaid, edge }: SheetItem,
    { projection, scale }: CanvasSpace,
  ): { seen: Map<number, SampledLevel>; under: SampledLevel | undefined } {
    const { tiles } = made!
    const sheet = drawnAt(asLaid, scale)
    const sampled = ({ level, part, copies, tiles: needed }: ReturnType<typeof levelsFor>[number]): SampledLevel => {
      const { columns, rows } = tileGrid(sheet, level)
      const table = new Uint32Array(columns * rows)
      for (const address of needed) table[address.row * columns + address.column] = tiles.of(sheet, address)
      return { tiles: table, columns, part, copies }
    }
    const needed = levelsFor(sheet, edge, projection, scale)
    const seen = new Map(needed.map((level) => [level.level, sampled(level)]))
    const isMissing = needed.some(({ level, tiles: of }) => {
      const { tiles: table, columns } = seen.get(level)!
      return of.some(({ column, row }) => table[row * columns + column] === MISSING)
    })
    if (!isMissing) return { seen, under: undefined }
    const level = coarsestLevel(sheet)
    const { copies } = needed[0]!
    return { seen, under: sampled({ level, copies, part: partAt(sheet, 2 ** level), tiles: [{ level, column: 0, row: 0 }] }) }
  }

  /** Samples a band of the frame into a target. */
  function sampleBand(target: Target, space: CanvasSpace, item: SheetItem, { seen, under }: ReturnType<typeof levelsOf>, band: Band): void {
    const { sampler } = made!
    sampler.clear(target)
    const details = detailsOf(space, item, band)
    const from = (level: number, sampled: SampledLevel, share: (row: RowLevels) => number) => {
      const shares = details.map(share)
      if (shares.some((of) => of > 0)) sampler.sample(target, rowsOn(level, space, item, band, shares), sampled)
    }
    if (under) from(coarsestLevel(item.sheet), under, () => WHOLE)
    for (const [level, sampled] of seen)
      from(level, sampled, (row) => (row.level === level ? WHOLE : row.level + 1 === level ? row.share : 0))
  }

  /** What is seen of a sheet, not premultiplied, and where; good until the next sheet is sampled. Undefined where nothing is. */
  function sampled(space: CanvasSpace, item: SheetItem): { image: ImageData; at: Region; isOpaque: boolean } | undefined {
    const at = seenRegion(space, item, sizeOf(space))
    if (isEmpty(at)) return undefined
    start(space)
    const levels = levelsOf(item, space)
    if (levels.seen.size === 0) return undefined
    const { whole, strip } = targetsOf(at, isFiner(space))
    if (!strip) sampleBand(whole, space, item, levels, { left: at.x, top: at.y, rows: at.height, finer: 1 })
    else
      for (let row = 0; row < at.height; row += STRIP) {
        const rows = Math.min(STRIP, at.height - row)
        sampleBand(strip, space, item, levels, { left: at.x, top: at.y + row, rows, finer: AT_REST })
        made!.sampler.halveInto(whole, row, strip, AT_REST * rows)
      }
    return { ...made!.sampler.finished(whole), at }
  }

  /** A picture in the sampler's memory; the last one is kept. */
  function layerOf(picture: ImageData): Target {
    if (layer?.picture !== picture) {
      if (layer) made!.sampler.release(layer.target.at)
      layer = { picture, target: made!.sampler.picture(picture) }
    }
    return layer.target
  }

  return {
    paint(
      context: CanvasRenderingContext2D,
      space: CanvasSpace,
      item: SheetItem,
      scratch: (width: number, height: number) => Surface,
    ): void {
      const seen = sampled(space, item)
      if (!seen) return
      const { image, at, isOpaque } = seen
      context.setTransform(1, 0, 0, 1, 0, 0)
      if (isOpaque && item.opacity === 1) return context.putImageData(image, at.x, at.y)
      const { width, height } = sizeOf(space)
      const surface = scratch(width, height)
      surface.context.putImageData(image, at.x, at.y)
      context.globalAlpha = item.opacity
      context.drawImage(surface.image, at.x, at.y, at.width, at.height, at.x, at.y, at.width, at.height)
      context.globalAlpha = 1
    },
    /**
     * The pixels of the whole frame where a sheet is all that is seen of the ground; good until the next sheet is sampled.
     * @param picture of the frame's size, which is laid over it
     */
    whole(space: CanvasSpace, item: SheetItem, picture: ImageData | undefined): ImageData | undefined {
      if (item.opacity < 1 || item.panel || clear.has(item.sheet.image)) return undefined
      const { reference } = space
      if (item.edge !== 'mirrored' && !coversFrame(item.sheet, space.projection.view, reference)) return undefined
      start(space)
      // Before the sheet is sampled, as memory that grows is at another place.
      const over = picture && layerOf(picture)
      const seen = sampled(space, item)
      if (!seen) return undefined
      const { width, height } = sizeOf(space)
      if (seen.isOpaque && seen.at.width === width && seen.at.height === height) {
        if (over) made!.sampler.lay(targets!.whole, over)
        return seen.image
      }
      // Through some pictures what is under them is seen: that need not be found out for each frame.
      clear.add(item.sheet.image)
      return undefined
    },
  }
}

/** Whether more than one sample is taken for a pixel. */
const isFiner = ({ isMoving, isRough, projection }: CanvasSpace): boolean => !isMoving && !isRough && !projection.isFlat

/**
 * The levels of the rows of a band. A tilted view at rest is sampled so finely that it needs no coarser one over them, and a flat one has none; but the lines of
 * a generated map are as wide on each level, so that one goes over into the next all the way.
 */
function detailsOf(space: CanvasSpace, { sheet: asLaid }: SheetItem, { top, rows, finer }: Band): RowLevels[] {
  const { projection, scale } = space
  const sheet = drawnAt(asLaid, scale)
  const isMixed = sheet.drawn !== null || !(projection.isFlat || isFiner(space))
  const detailAt = (row: number) => rowDetail(sheet, projection, (top + row) / scale, scale)
  const known = Array.from({ length: Math.ceil(rows / DETAIL_STEP) + 1 }, (_, i) => detailAt(i * DETAIL_STEP))
  return Array.from({ length: rows * finer }, (_, i) => {
    const row = (i + 0.5) / finer / DETAIL_STEP
    const k = Math.floor(row)
    const { level, coarser } = levelsOfRow(sheet, known[k]! + (known[k + 1]! - known[k]!) * (row - k))
    return { level, share: isMixed ? Math.round(WHOLE * coarser) : 0 }
  })
}

/** Where the rows of a band are on a level, as the sampler takes it. @param shares how much of the level is laid over what is there, for each row, 0..256 */
function rowsOn(
  level: number,
  { projection, scale }: CanvasSpace,
  { sheet: { place } }: SheetItem,
  { left, top, finer }: Band,
  shares: readonly number[],
): Float64Array {
  const step = 2 ** level
  // Along a row the ground is at one distance, so that places on it lie in even steps. The far end says more exactly how long they are.
  const far = projection.reference.width
  const apart = step * far * scale * finer
  const rows = new Float64Array(ROW * shares.length)
  shares.forEach((share, row) => {
    if (share === 0) return
    const [x, y] = [(left + 0.5 / finer) / scale, (top + (row + 0.5) / finer) / scale]
    const a = groundToSheet(place, projection.toGround({ x, y })!)
    const b = groundToSheet(place, projection.toGround({ x: x + far, y })!)
    rows.set([a.x / step - 0.5, a.y / step - 0.5, (b.x - a.x) / apart, (b.y - a.y) / apart, share], ROW * row)
  })
  return rows
}

/** The part of the frame in which a sheet is seen: all of it, where it is repeated beyond its edges. */
function seenRegion({ projection, scale }: CanvasSpace, { sheet, edge }: SheetItem, size: { width: number; height: number }): Region {
  if (edge === 'mirrored') return { x: 0, y: 0, ...size }
  const ring = projectedRing(projection, groundCorners(sheet))
  if (ring.length === 0) return { x: 0, y: 0, width: 0, height: 0 }
  const [left, right] = [least(ring.map(({ x }) => x)), greatest(ring.map(({ x }) => x))]
  const [top, bottom] = [least(ring.map(({ y }) => y)), greatest(ring.map(({ y }) => y))]
  return onCanvas({ x: left * scale, y: top * scale, width: (right - left) * scale, height: (bottom - top) * scale }, 1, size)
}
