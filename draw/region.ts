/** A rectangle of output pixels. */
export interface Region {
  x: number
  y: number
  width: number
  height: number
}

export const isEmpty = (region: Region): boolean => region.width <= 0 || region.height <= 0

/** The rectangle round two regions. */
export function union(a: Region | undefined, b: Region): Region {
  if (!a || isEmpty(a)) return b
  if (isEmpty(b)) return a
  const x = Math.min(a.x, b.x)
  const y = Math.min(a.y, b.y)
  return { x, y, width: Math.max(a.x + a.width, b.x + b.width) - x, height: Math.max(a.y + a.height, b.y + b.height) - y }
}

/** The rectangle round regions; undefined where there is none. */
export const unionOf = (regions: readonly Region[]): Region | undefined =>
  regions.reduce<Region | undefined>((all, region) => union(all, region), undefined)

/** The side of the squares that `squaresOver` cuts a canvas into, in pixels. */
const SQUARE = 64

/**
 * Regions that cover all that some do, none twice, cut from a canvas along a grid: for those that lie scattered over much of it, as along lines.
 * @param except what is left out, cut along the same grid
 */
export function squaresOver(regions: readonly Region[], size: { width: number; height: number }, except: readonly Region[] = []): Region[] {
  const columns = Math.ceil(size.width / SQUARE)
  const rows = Math.ceil(size.height / SQUARE)
  const isUsed = new Uint8Array(columns * rows)
  const mark = (region: Region, mark: 0 | 1) => {
    const { x, y, width, height } = onCanvas(region, 0, size)
    if (width === 0 || height === 0) return
    for (let row = Math.floor(y / SQUARE); row * SQUARE < y + height; row++)
      isUsed.fill(mark, row * columns + Math.floor(x / SQUARE), row * columns + Math.ceil((x + width) / SQUARE))
  }
  for (const region of regions) mark(region, 1)
  for (const region of except) mark(region, 0)
  const list: Region[] = []
  /** Squares side by side are one region, and rows of them that are alike. */
  const open = new Map<number, Region>()
  for (let row = 0; row < rows; row++) {
    const height = Math.min(SQUARE, size.height - row * SQUARE)
    for (let column = 0; column < columns; column++) {
      if (!isUsed[row * columns + column]) continue
      const start = column
      while (column < columns && isUsed[row * columns + column]) column++
      const x = start * SQUARE
      const width = Math.min(size.width, column * SQUARE) - x
      const above = open.get(start)
      if (above && above.width === width && above.y + above.height === row * SQUARE) above.height += height
      else {
        const region = { x, y: row * SQUARE, width, height }
        open.set(start, region)
        list.push(region)
      }
    }
  }
  return list
}

export const overlap = (a: Region, b: Region): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height

/** A region grown by a margin to whole pixels, and held within a canvas of the given size. */
export function onCanvas(region: Region, margin: number, size: { width: number; height: number }): Region {
  const x = Math.max(0, Math.floor(region.x - margin))
  const y = Math.max(0, Math.floor(region.y - margin))
  return {
    x,
    y,
    width: Math.max(0, Math.min(size.width, Math.ceil(region.x + region.width + margin)) - x),
    height: Math.max(0, Math.min(size.height, Math.ceil(region.y + region.height + margin)) - y),
  }
}

/** The square around a point. */
export const around = (x: number, y: number, reach: number): Region => ({ x: x - reach, y: y - reach, width: 2 * reach, height: 2 * reach })

/** Copies a part of a picture's pixels to the same place of another's. @param width of both, in pixels @param each bytes of a pixel */
export function copyPart(from: Uint8Array, to: Uint8Array | Uint8ClampedArray, part: Region, width: number, each: number): void {
  // Whole rows are one piece.
  if (part.width === width)
    return to.set(from.subarray(each * part.y * width, each * (part.y + part.height) * width), each * part.y * width)
  for (let row = part.y; row < part.y + part.height; row++) {
    const start = each * (row * width + part.x)
    to.set(from.subarray(start, start + each * part.width), start)
  }
}
