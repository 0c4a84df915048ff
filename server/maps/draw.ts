import type { Canvas } from '@napi-rs/canvas'
import { createCanvas, ImageData, Path2D } from '@napi-rs/canvas'
import sharp from 'sharp'
import type { DrawnMap } from '#core/journey/schema'
import { coastDetail } from '#core/maps/coast-detail'
import type { Block } from '#core/maps/map-block'
import { layoutMap } from '#core/maps/layout'
import { readRecipe } from '#core/maps/recipe'
import { HOUSE_FACE } from '#core/type/measure'
import { paintMap } from '#draw/maps/paint-map'
import type { MapTools } from '#draw/maps/map-part'
import type { Pixels } from '../sheets/drawing'
import { registerFace } from '../fonts/register-face'
import { mapSource } from './source'

/** Generated maps, as the process that draws them makes them. */

const tools: MapTools = {
  createSurface(width, height) {
    const canvas = createCanvas(width, height)
    return {
      width,
      height,
      context: canvas.getContext('2d') as unknown as CanvasRenderingContext2D,
      image: canvas as unknown as CanvasImageSource,
    }
  },
  createPath: (d) => new Path2D(d) as unknown as globalThis.Path2D,
  imageOf: (pixels, width, height) => new ImageData(pixels, width, height) as unknown as globalThis.ImageData,
}

async function paintBlock(map: DrawnMap, block: Block, pen: number): Promise<Canvas> {
  // The packages have it: no data folder is asked.
  registerFace(HOUSE_FACE, '')
  const canvas = createCanvas(block.width, block.height)
  const context = canvas.getContext('2d') as unknown as CanvasRenderingContext2D
  paintMap(context, tools, await mapSource(map.style), { map, layout: layoutMap(map), block, pen })
  return canvas
}

/** Draws a block of a generated map. @param pen pixels of the block to a reference pixel */
export async function drawMapBlock(recipe: string, block: Block, pen: number): Promise<Pixels> {
  const canvas = await paintBlock(readRecipe(recipe, 'The map'), block, pen)
  return { width: block.width, height: block.height, data: canvas.data() }
}

/** Longer side of a preview in pixels, and of a film in reference pixels. */
const SIDE = 880
const FILM = 1920

/** A small picture of a map as WebP, and how far apart the points of its coasts are in metres; null if it has none. @throws JourneyError if it cannot be drawn */
export async function drawPreview(map: DrawnMap): Promise<{ webp: Buffer; coasts: number | null }> {
  const { size } = layoutMap(map)
  const step = Math.max(size.width, size.height) / SIDE
  const [width, height] = [Math.round(size.width / step), Math.round(size.height / step)]
  const canvas = await paintBlock(map, { left: 0, top: 0, width, height, step }, SIDE / FILM)
  const webp = await sharp(canvas.data(), { raw: { width, height, channels: 4 } })
    .webp({ quality: 84 })
    .toBuffer()
  const { land } = await mapSource(map.style)
  return { webp, coasts: coastDetail(land(), map.region) ?? null }
}
