import { join } from 'node:path'
import sharp from 'sharp'
import { MERCATOR_SIDE } from '#core/geo/earth'
import { webMercator } from '#core/geo/plane'
import type { TileGrid } from '#core/journey/schema'
import { resolutionOf } from '#core/tiles/grids'
import type { ServiceTile } from '#core/tiles/template'

/** Tiles of the Lantern Isles, made of their sheet: with open sea all round the Earth, at any level. */

/** Where the sheet lies in Web Mercator, in metres: its upper left corner, and a pixel. Fitted to its control points, which are rounded to 0.001 degrees. */
export const ISLES = { left: 9_350_881, top: -4_607_686, pixel: 31.9815 } as const

/** The colour of the sea at the sheet's edges. */
const SEA = [52, 107, 131] as const

/** How the Isles can look. */
export const STYLES = { day: [1, 1, 1], dusk: [0.62, 0.55, 0.78] } as const
export type IslesStyle = keyof typeof STYLES

export const PICTURES = ['png', 'jpeg', 'webp', 'avif'] as const
export type PictureFormat = (typeof PICTURES)[number]

/** A picture of the sheet, each pixel the mean of `step` x `step` of its own. */
interface Shrunk {
  data: Buffer
  width: number
  height: number
  step: number
}

/** Halvings of the sheet; beyond them it is a dot. */
const HALVINGS = 7

async function halved(): Promise<Shrunk[]> {
  const { data, info } = await sharp(join(process.cwd(), 'demo/lantern-isles.webp')).raw().toBuffer({ resolveWithObject: true })
  const pictures: Shrunk[] = [{ data, width: info.width, height: info.height, step: 1 }]
  for (let k = 1; k <= HALVINGS; k++) {
    const [width, height] = [Math.round(info.width / 2 ** k), Math.round(info.height / 2 ** k)]
    const raw = { width: info.width, height: info.height, channels: 3 as const }
    const small = await sharp(data, { raw }).resize(width, height, { fit: 'fill', kernel: 'cubic' }).raw().toBuffer()
    pictures.push({ data: small, width, height, step: 2 ** k })
  }
  return pictures
}

let pictures: Promise<Shrunk[]> | undefined

/** For each pixel of a tile along one axis: where its middle lies on the sheet, in sheet pixels. */
function sheetPlaces(grid: TileGrid, { level, column, row }: ServiceTile): { across: Float64Array; down: Float64Array } {
  const r = resolutionOf(grid, level)
  const metresAcross = (x: number) => (grid.plane === 'mercator' ? x : (x / 360) * MERCATOR_SIDE)
  const metresDown = (y: number) =>
    grid.plane === 'mercator' ? y : webMercator.forward({ lon: 0, lat: Math.max(-89.8, Math.min(89.8, y)) })!.y
  const across = Float64Array.from(
    { length: grid.side },
    (_, i) => (metresAcross(grid.left + (column * grid.side + i + 0.5) * r) - ISLES.left) / ISLES.pixel,
  )
  const down = Float64Array.from(
    { length: grid.side },
    (_, i) => (ISLES.top - metresDown(grid.top - (row * grid.side + i + 0.5) * r)) / ISLES.pixel,
  )
  return { across, down }
}

/** Between which two pixels of a row or column each pixel of a tile lies, and how far from the first; -1 for those beside the sheet. */
function neighbours(places: Float64Array, step: number, length: number) {
  const [first, second, share] = [new Int32Array(places.length), new Int32Array(places.length), new Float64Array(places.length)]
  for (const [i, place] of places.entries()) {
    const at = Math.min(length - 1, Math.max(0, place / step - 0.5))
    first[i] = place < 0 || place > length * step ? -1 : Math.floor(at)
    second[i] = Math.min(length - 1, Math.floor(at) + 1)
    share[i] = at - Math.floor(at)
  }
  return { first, second, share }
}

/** A tile as pixels, RGB: bilinear in the picture whose pixels are as large as the tile's, or a little smaller. */
async function pixelsOf(grid: TileGrid, tile: ServiceTile): Promise<Buffer> {
  pictures ??= halved()
  const all = await pictures
  const { across, down } = sheetPlaces(grid, tile)
  const { side } = grid
  const [whole] = all
  const isSea = across.at(-1)! < 0 || down.at(-1)! < 0 || across[0]! > whole!.width || down[0]! > whole!.height
  if (isSea) return Buffer.alloc(side * side * 3, Buffer.from(SEA))
  const perPixel = Math.abs(across[1]! - across[0]!)
  const { data, width, height, step } = all[Math.min(HALVINGS, Math.max(0, Math.floor(Math.log2(perPixel))))]!
  const out = Buffer.alloc(side * side * 3)
  const [columns, rows] = [neighbours(across, step, width), neighbours(down, step, height)]
  for (let y = 0, at = 0; y < side; y++) {
    const [upper, lower, v] = [rows.first[y]! * width, rows.second[y]! * width, rows.share[y]!]
    for (let x = 0; x < side; x++, at += 3) {
      // Array patterns would take most of the time here.
      const left = columns.first[x]!
      if (left < 0 || rows.first[y]! < 0) {
        out[at] = SEA[0]
        out[at + 1] = SEA[1]
        out[at + 2] = SEA[2]
        continue
      }
      const right = columns.second[x]!
      const u = columns.share[x]!
      const a = (upper + left) * 3
      const b = (upper + right) * 3
      const c = (lower + left) * 3
      const d = (lower + right) * 3
      const wa = (1 - u) * (1 - v)
      const wb = u * (1 - v)
      const wc = (1 - u) * v
      const wd = u * v
      out[at] = data[a]! * wa + data[b]! * wb + data[c]! * wc + data[d]! * wd + 0.5
      out[at + 1] = data[a + 1]! * wa + data[b + 1]! * wb + data[c + 1]! * wc + data[d + 1]! * wd + 0.5
      out[at + 2] = data[a + 2]! * wa + data[b + 2]! * wb + data[c + 2]! * wc + data[d + 2]! * wd + 0.5
    }
  }
  return out
}

/** Multiplies the colours of pixels. */
function tinted(pixels: Buffer, tint: readonly [number, number, number]): Buffer {
  for (let i = 0; i < pixels.length; i++) pixels[i] = pixels[i]! * tint[i % 3]!
  return pixels
}

/** A tile as a file. */
export async function islesTile(grid: TileGrid, tile: ServiceTile, format: PictureFormat, style: IslesStyle = 'day'): Promise<Buffer> {
  const pixels = await pixelsOf(grid, tile)
  const picture = sharp(style === 'day' ? pixels : tinted(pixels, STYLES[style]), {
    raw: { width: grid.side, height: grid.side, channels: 3 },
  })
  switch (format) {
    case 'png':
      return picture.png({ compressionLevel: 2 }).toBuffer()
    case 'jpeg':
      return picture.jpeg({ quality: 92, chromaSubsampling: '4:4:4' }).toBuffer()
    case 'webp':
      return picture.webp({ quality: 92, effort: 1 }).toBuffer()
    case 'avif':
      return picture.avif({ quality: 70, effort: 0 }).toBuffer()
  }
}
