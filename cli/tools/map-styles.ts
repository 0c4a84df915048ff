/**
 * Draws all styles of generated maps: small, for the choice in the interface, and at four scales, for the guide:
 * `npm run map-styles -- [--small FILE] [--scales FILE]`.
 */
import { parseArgs } from 'node:util'
import { createCanvas, ImageData } from '@napi-rs/canvas'
import sharp from 'sharp'
import type { DrawnMap } from '#core/journey/schema'
import { drawnMapSchema, MAP_STYLES } from '#core/journey/schema'
import { layoutMap } from '#core/maps/layout'
import { SMALL_MAPS, smallMap } from '#core/maps/small-maps'
import { writeRecipe } from '#core/maps/recipe'
import { mapDataMade } from '../../server/maps/data'
import { drawMapBlock } from '../../server/maps/draw'

const { values } = parseArgs({
  options: {
    small: { type: 'string', default: 'app/assets/map-styles.webp' },
    scales: { type: 'string', default: 'docs/screenshots/map-styles.webp' },
  },
})

/** A map as a picture. @param shown how wide it would be in the film, in reference pixels */
async function picture(map: DrawnMap, width: number, shown: number): Promise<ImageData> {
  const { size } = layoutMap(map)
  const block = { left: 0, top: 0, width, height: Math.round(width / map.aspect), step: size.width / width }
  const { data } = await drawMapBlock(writeRecipe(map), block, width / shown)
  return new ImageData(new Uint8ClampedArray(data), block.width, block.height)
}

await mapDataMade()
const { width, height, shown } = SMALL_MAPS
const small = createCanvas(width, MAP_STYLES.length * height)
for (const [i, style] of MAP_STYLES.entries())
  small.getContext('2d').putImageData(await picture(smallMap(style), width, shown), 0, i * height)
await sharp(small.toBuffer('image/png')).webp({ quality: 88 }).toFile(values.small)

const SCALES = [
  { region: { west: -180, south: -90, east: 180, north: 90 }, projection: 'orthographic' },
  { region: { west: -12, south: 35, east: 32, north: 61 }, projection: 'conic' },
  { region: { west: 6, south: 36.5, east: 19, north: 47.3 }, projection: 'conic' },
  { region: { west: 24.2, south: 36.2, east: 26.6, north: 37.6 }, projection: 'mercator' },
] as const
const CELL = { width: 480, height: 270 }
const scales = createCanvas(SCALES.length * CELL.width, MAP_STYLES.length * CELL.height)
for (const [row, style] of MAP_STYLES.entries()) {
  for (const [column, scale] of SCALES.entries()) {
    const map = drawnMapSchema.parse({ ...scale, style, borders: true, graticule: column === 0, towns: column > 1, aspect: 16 / 9 })
    scales.getContext('2d').putImageData(await picture(map, CELL.width, 960), column * CELL.width, row * CELL.height)
  }
}
await sharp(scales.toBuffer('image/png')).webp({ quality: 82 }).toFile(values.scales)
process.exit()
