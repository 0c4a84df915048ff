import { writeFile } from 'node:fs/promises'
import sharp from 'sharp'
import { cleanSvg } from '#core/formats/clean-svg'
import type { DrawnMap, Georeference } from '#core/journey/schema'
import type { CoastDetail } from '#core/maps/drawn-map'
import { coastDetail, drawMap } from '#core/maps/drawn-map'
import { drawSvg } from '../sheets/drawing'
import { shapesFor } from './world'

/** Generated maps, as the process that draws them makes them. */

/** Longer side of a preview in pixels. */
const SIDE = 880

/** Width of a film in pixels, at which the detail of coasts is stated. */
const FILM = 1920

/** A small picture of a map as WebP, and the detail of its coasts; null if none is visible. @throws JourneyError if the map cannot be drawn */
export async function drawPreview(map: DrawnMap): Promise<{ webp: Buffer; coasts: CoastDetail | null }> {
  const { svg, layout } = drawMap(map, shapesFor(map, true))
  const { size } = layout
  const k = SIDE / Math.max(size.width, size.height)
  const shown = { width: Math.round(size.width * k), height: Math.round(size.height * k) }
  const { data, width, height } = await drawSvg(cleanSvg(svg, 'map'), size, { x: 0, y: 0, ...size }, shown)
  const webp = await sharp(data, { raw: { width, height, channels: 4 } })
    .webp({ quality: 84 })
    .toBuffer()
  return { webp, coasts: coastDetail(map, shapesFor(map), FILM) ?? null }
}

/** Writes a map to an SVG file. @returns how it lies on the Earth @throws JourneyError if the map cannot be drawn */
export async function writeMap(map: DrawnMap, out: string): Promise<Georeference> {
  const { svg, layout } = drawMap(map, shapesFor(map))
  await writeFile(out, svg)
  return layout.georeference
}
