import { greatest, least } from '../geometry/extremes'
import type { BentGround, Projection } from '../camera/projection-type'
import type { Box } from '../geometry/box'
import { distance } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { Point } from '../geometry/point'
import type { Ground, Sheet, Wash } from '../journey/schema'
import { groundToSheet, usedPart } from './place'
import type { TileAddress } from './pyramid'
import { coarsestLevel, levelFor, levelSize, TILE, tileGrid, tileSize } from './pyramid'

/** A rectangle in whole pixels of a level. */
interface LevelRegion {
  left: number
  top: number
  width: number
  height: number
}

/** The part of a sheet that a view needs: a rectangle of one level, on the grid of its tiles, and the tiles that cover it. */
export interface Mosaic extends LevelRegion {
  level: number
  /** The used part of the sheet; beyond it the mosaic shows that part mirrored. */
  part: LevelRegion
  tiles: TileAddress[]
}

/** A mosaic extends beyond a mirrored sheet by at most this many sheets, whatever the view shows. */
const MOST_MIRRORED = 4

/** What a view shows of a level of a sheet: the tiles, and the used part, which is repeated beyond its edges, mirrored, so many times to each side. */
export interface SeenLevel {
  level: number
  part: LevelRegion
  copies: number
  tiles: TileAddress[]
}

type Laid = Pick<Sheet, 'width' | 'height' | 'vector' | 'place' | 'crop'> & { pen?: number }

/**
 * How finely a row of the frame shows a sheet: the base-2 logarithm of sheet pixels per output pixel, the mean of those across and along the line of
 * sight where the ground is looked at from aside. The same all over where the view is flat.
 *
 * @param y the row in reference pixels
 * @param scale output pixels per reference pixel
 */
export function rowDetail(sheet: Pick<Laid, 'place'>, projection: Projection, y: number, scale: number): number {
  const { view, reference, isFlat, toGround } = projection
  const straight = -Math.log2(sheet.place.scale * view.zoom * scale)
  if (isFlat) return straight
  const [a, b] = [toGround({ x: reference.width / 2, y: y - 0.5 })!, toGround({ x: reference.width / 2, y: y + 0.5 })!]
  const along = Math.hypot(b.x - a.x, b.y - a.y) * view.zoom
  const across = 1 / projection.depthScale(toGround({ x: reference.width / 2, y })!)
  return straight + Math.log2(along * across) / 2
}

/** From this far between two levels on, the coarser one is laid over the finer one, so that the change does not show. */
const LEVEL_BLEND = 0.7

/** On each level of a generated map lines have the same width: mixed all the way, they keep it between two levels. */
const DRAWN_BLEND = 0

/** The levels that a row of such detail is painted from: the finer one, and how much of the next coarser one lies over it, 0..1. */
export function levelsOfRow(image: Size & { vector: boolean; pen?: number }, detail: number): { level: number; coarser: number } {
  const blend = image.pen === undefined ? LEVEL_BLEND : DRAWN_BLEND
  const level = levelFor(image, 2 ** detail)
  const beyond = detail - level
  const hasCoarser = beyond < 1 && level < coarsestLevel(image)
  return { level, coarser: hasCoarser ? Math.max(0, (beyond - blend) / (1 - blend)) : 0 }
}

/** In how many steps the frame is gone through to find which rows need which level. */
const ROW_STEPS = 180

/** Rows of the frame, in reference pixels from its top. */
interface Rows {
  from: number
  to: number
}

/** The rows for which each level is needed, from the finest to the coarsest. */
function rowsByLevel(sheet: Laid, projection: Projection, scale: number): Map<number, Rows> {
  const { height } = projection.reference
  const step = height / ROW_STEPS
  const found = new Map<number, Rows>()
  const need = (level: number, y: number) => {
    const rows = found.get(level)
    const [from, to] = [Math.max(0, y - step), Math.min(height, y + step)]
    found.set(level, rows ? { from: Math.min(rows.from, from), to: Math.max(rows.to, to) } : { from, to })
  }
  for (let y = 0; y <= height; y += projection.isFlat ? height : step) {
    const { level, coarser } = levelsOfRow(sheet, rowDetail(sheet, projection, y, scale))
    need(level, y)
    if (coarser > 0) need(level + 1, y)
  }
  if (projection.isFlat) for (const rows of found.values()) Object.assign(rows, { from: 0, to: height })
  return new Map([...found].sort(([a], [b]) => a - b))
}

/**
 * The box round what is seen at a slant holds much that is not seen. A part of the frame that shows more pixels of a level than this is halved, as what is seen
 * at a slant takes up less the squarer its parts are.
 */
const MOST_AT_ONCE = 2 ** 21

/** The frame is not parted further than this, in reference pixels. */
const LEAST_SIDE = 8

/**
 * The levels of a sheet that a view of ground that is not bent shows, the finest first: each at which some of the frame's rows are sharp enough, and the next
 * coarser one where it is laid over that. None if the sheet is not in view.
 *
 * @param scale output pixels per reference pixel
 */
export function levelsFor(sheet: Laid, edge: Ground['edge'], projection: Projection, scale: number): SeenLevel[] {
  const { width } = projection.reference
  return [...rowsByLevel(sheet, projection, scale)].flatMap(([level, { from, to }]) => {
    const tiles = new Map<string, TileAddress>()
    for (const mosaic of mosaicsWithin(sheet, edge, projection, level, { left: 0, right: width, top: from, bottom: to }))
      for (const tile of mosaic.tiles) tiles.set(`${tile.column} ${tile.row}`, tile)
    const copies = edge === 'mirrored' ? MOST_MIRRORED : 0
    return tiles.size === 0 ? [] : [{ level, part: partAt(sheet, 2 ** level), copies, tiles: [...tiles.values()] }]
  })
}

/** What a part of the frame shows of a level, in several pieces where that is much less. */
function mosaicsWithin(sheet: Laid, edge: Ground['edge'], projection: Projection, level: number, within: Box): Mosaic[] {
  const { left, top, right, bottom } = within
  const onSheet = (x: number, y: number) => groundToSheet(sheet.place, projection.toGround({ x, y })!)
  const corners = [onSheet(left, top), onSheet(right, top), onSheet(right, bottom), onSheet(left, bottom)] as const
  const mosaic = mosaicAt(level, sheet, edge, corners)
  if (!mosaic) return []
  if (projection.isFlat || mosaic.width * mosaic.height <= MOST_AT_ONCE) return [mosaic]
  const [isWide, isHigh] = [right - left >= 2 * LEAST_SIDE, bottom - top >= 2 * LEAST_SIDE]
  if (!isWide && !isHigh) return [mosaic]
  const across = distance(corners[0], corners[1]) + distance(corners[3], corners[2])
  const down = distance(corners[0], corners[3]) + distance(corners[1], corners[2])
  const [x, y] = [(left + right) / 2, (top + bottom) / 2]
  const halves = isWide && (!isHigh || across > down) ? [{ ...within, right: x }, { ...within, left: x }] : [{ ...within, bottom: y }, { ...within, top: y }] // prettier-ignore
  return halves.flatMap((half) => mosaicsWithin(sheet, edge, projection, level, half))
}

/** Places of the frame that are looked at to find which part of a sheet a bent ground shows, along its longer and its shorter side. */
const LOOKS = { across: 24, down: 14 }
/** No more pixels of a sheet than this are laid on a globe: some four to each pixel of a large film. Of a vector image fewer at levels that must be drawn first. */
const MOST_PIXELS = 2 ** 24
const MOST_DRAWN = 2 ** 22

/** The part of a sheet that is seen on bent ground, at the level that is sharp enough where it is seen largest; what is further away is averaged from it. */
export function bentMosaic(
  sheet: Laid,
  { reference, scaleAt }: Projection,
  { inside, groundBy }: BentGround,
  scale: number,
): Mosaic | undefined {
  const seen: Point[] = []
  let largest = 0
  for (let i = 0; i <= LOOKS.across; i++) {
    for (let k = 0; k <= LOOKS.down; k++) {
      const place = { x: (reference.width * i) / LOOKS.across, y: (reference.height * k) / LOOKS.down }
      const ground = inside(place) > 0 ? groundBy(place) : undefined
      if (!ground) continue
      seen.push(groundToSheet(sheet.place, ground))
      largest = Math.max(largest, scaleAt(ground))
    }
  }
  if (seen.length === 0) return undefined
  const { left, top, right, bottom } = usedPart(sheet)
  const reach = (values: number[], low: number, high: number): [number, number] => {
    const [from, to] = [least(values), greatest(values)]
    // What lies between two looks; and where both edges of a map of the world are seen, all that is between them.
    const room = (to - from) / 8
    return to - from > 0.6 * (high - low) ? [low, high] : [from - room, to + room]
  }
  const x = reach(seen.map((p) => p.x), left, right) // prettier-ignore
  const y = reach(seen.map((p) => p.y), top, bottom) // prettier-ignore
  const corners = x.flatMap((at) => y.map((down) => ({ x: at, y: down })))
  const sharp = levelFor(sheet, 1 / (sheet.place.scale * largest * scale))
  for (let level = sharp; level <= coarsestLevel(sheet); level++) {
    const mosaic = mosaicAt(level, sheet, 'plain', corners)
    if (!mosaic) return undefined
    if (mosaic.width * mosaic.height <= (level < 0 ? MOST_DRAWN : MOST_PIXELS) || level === coarsestLevel(sheet)) return mosaic
  }
  return undefined
}

/** What is smoothed at the frame's edge takes in so many pixels beyond it. */
const MARGIN = 2

/** The part of a level within the bounds of some spots of the sheet. */
function mosaicAt(level: number, sheet: Laid, edge: Ground['edge'], corners: readonly Point[]): Mosaic | undefined {
  const k = 2 ** level
  const part = partAt(sheet, k)
  const range = (values: number[], start: number, length: number) => {
    const beyond = edge === 'mirrored' ? MOST_MIRRORED * length : 0
    const low = Math.max(start - beyond, TILE * Math.floor((least(values) / k - MARGIN) / TILE))
    const high = Math.min(start + length + beyond, TILE * Math.ceil((greatest(values) / k + MARGIN) / TILE))
    return { low, high }
  }
  const xs = corners.map((corner) => corner.x)
  const ys = corners.map((corner) => corner.y)
  const x = range(xs, part.left, part.width)
  const y = range(ys, part.top, part.height)
  if (x.low >= x.high || y.low >= y.high) return undefined
  const { columns, rows } = tileGrid(sheet, level)
  const tiles: TileAddress[] = []
  for (const row of tilesAlong(y, part.top, part.height, rows))
    for (const column of tilesAlong(x, part.left, part.width, columns)) tiles.push({ level, column, row })
  return { level, part, left: x.low, top: y.low, width: x.high - x.low, height: y.high - y.low, tiles }
}

/** The whole image, at the coarsest level with a pixel for each output pixel of its width. */
export function wholeMosaic(image: Size & { vector: boolean }, outputWidth: number): Mosaic {
  const level = levelFor(image, image.width / outputWidth)
  const part = { left: 0, top: 0, ...levelSize(image, level) }
  const { columns, rows } = tileGrid(image, level)
  const tiles = Array.from({ length: columns * rows }, (_, i) => ({ level, column: i % columns, row: Math.floor(i / columns) }))
  return { ...part, level, part, tiles }
}

/** The used part in whole pixels of a level whose pixels are k sheet pixels wide. */
export function partAt(sheet: Laid, k: number): LevelRegion {
  const { left, top, right, bottom } = usedPart(sheet)
  const [x, y] = [Math.floor(left / k), Math.floor(top / k)]
  return { left: x, top: y, width: Math.max(1, Math.ceil(right / k) - x), height: Math.max(1, Math.ceil(bottom / k) - y) }
}

/** A stretch along one axis, and the copy of the picture in it: the picture itself, or a mirrored one. */
export interface Cell {
  /** Where the copy's part in the stretch begins and ends. */
  from: number
  to: number
  mirrored: boolean
  /** The offset of the copy: a position minus this is the picture's or, if mirrored, this minus the position. */
  shift: number
}

/** Cuts a range into copies of a picture that begins at `start` and is repeated by mirroring. */
export function cellsOf({ low, high }: { low: number; high: number }, start: number, length: number): Cell[] {
  const cells: Cell[] = []
  for (let i = Math.floor((low - start) / length); start + i * length < high; i++) {
    const from = Math.max(low, start + i * length)
    const to = Math.min(high, start + (i + 1) * length)
    const mirrored = i % 2 !== 0
    cells.push({ from, to, mirrored, shift: mirrored ? 2 * start + (i + 1) * length : i * length })
  }
  return cells
}

/** Tiles along one axis that a range needs. */
function tilesAlong(range: { low: number; high: number }, start: number, length: number, count: number): number[] {
  const needed = new Set<number>()
  for (const { from, to, mirrored, shift } of cellsOf(range, start, length)) {
    const [first, end] = mirrored ? [shift - to, shift - from] : [from - shift, to - shift]
    for (let i = Math.floor(first / TILE); i * TILE < end && i < count; i++) needed.add(i)
  }
  return [...needed].sort((a, b) => a - b)
}

/** A picture that is so many times as large as the part that is needed takes so much longer to sample that a smaller one is worth laying. */
const TOO_LARGE = 3

/** Whether a mosaic holds all that another needs, at its level, and not far more. */
export const holds = (mosaic: Mosaic, wanted: Mosaic): boolean =>
  mosaic.level === wanted.level &&
  mosaic.width * mosaic.height <= TOO_LARGE * wanted.width * wanted.height &&
  mosaic.left <= wanted.left &&
  mosaic.top <= wanted.top &&
  mosaic.left + mosaic.width >= wanted.left + wanted.width &&
  mosaic.top + mosaic.height >= wanted.top + wanted.height

/** How far beyond a tile its wash needs to see, in pixels of its level: three standard deviations of what is blurred. */
export const washReach = (wash: Wash, level: number): number =>
  Math.ceil((3 * Math.max(wash.blur, wash.glowingLines?.radius ?? 0)) / 2 ** level)

/** A tile with so many pixels round it, mirrored beyond the image's edges, as a part of its level. */
export function surroundings(image: Size, { level, column, row }: TileAddress, reach: number): Mosaic {
  const part = { left: 0, top: 0, ...levelSize(image, level) }
  const size = tileSize(image, { level, column, row })
  const region = { left: column * TILE - reach, top: row * TILE - reach, width: size.width + 2 * reach, height: size.height + 2 * reach }
  const { columns, rows } = tileGrid(image, level)
  const tiles: TileAddress[] = []
  for (const y of tilesAlong({ low: region.top, high: region.top + region.height }, 0, part.height, rows))
    for (const x of tilesAlong({ low: region.left, high: region.left + region.width }, 0, part.width, columns))
      tiles.push({ level, column: x, row: y })
  return { ...region, level, part, tiles }
}
