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

/** A tile as pixels, RGB: bilinear in the picture whose pixels are as large as the tile's, or a little smaller. */
async function pixelsOf(grid: TileGrid, tile: ServiceTile, tint: readonly [number, number, number]): Promise<Buffer> {
  pictures ??= halved()
  const all = await pictures
  const { across, down } = sheetPlaces(grid, tile)
  const perPixel = Math.abs(across[1]! - across[0]!)
  const { data, width, height, step } = all[Math.min(HALVINGS, Math.max(0, Math.floor(Math.log2(perPixel))))]!
  const { side } = grid
  const out = Buffer.alloc(side * side * 3)
  for (let y = 0, at = 0; y < side; y++) {
    const v = down[y]! / step - 0.5
    const top = Math.floor(v)
    for (let x = 0; x < side; x++, at += 3) {
      const u = across[x]! / step - 0.5
      const left = Math.floor(u)
      if (left < -1 || top < -1 || left >= width || top >= height) {
        for (let c = 0; c < 3; c++) out[at + c] = SEA[c]! * tint[c]!
        continue
      }
      const [fu, fv] = [u - left, v - top]
      // Beside the sheet lies sea of the colour that it has at its edges.
      const [x0, x1] = [Math.max(0, left), Math.min(width - 1, left + 1)]
      const upper = Math.max(0, top) * width
      const lower = Math.min(height - 1, top + 1) * width
      const [a, b, c, d] = [(upper + x0) * 3, (upper + x1) * 3, (lower + x0) * 3, (lower + x1) * 3]
      for (let k = 0; k < 3; k++) {
        const above = data[a + k]! * (1 - fu) + data[b + k]! * fu
        const below = data[c + k]! * (1 - fu) + data[d + k]! * fu
        out[at + k] = Math.round((above * (1 - fv) + below * fv) * tint[k]!)
      }
    }
  }
  return out
}

/** A tile as a file. */
export async function islesTile(grid: TileGrid, tile: ServiceTile, format: PictureFormat, style: IslesStyle = 'day'): Promise<Buffer> {
  const picture = sharp(await pixelsOf(grid, tile, STYLES[style]), { raw: { width: grid.side, height: grid.side, channels: 3 } })
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
