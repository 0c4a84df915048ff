import sharp from 'sharp'
import { layoutMap } from '#core/maps/layout'
import { writeRecipe } from '#core/maps/recipe'
import { creditOfMap } from '#core/sheet/credits'
import { mapDataMade } from '../../server/maps/data'
import { drawMapBlock } from '../../server/maps/draw'
import type { Output } from '../command'
import type { MapOptions } from './map-options'

/** The longer side of a film in reference pixels: a map that is a picture is drawn as one that fills the frame. */
const FILM = 1920

/** Draws a generated map into a file, and prints its size and whom it is by as JSON. @throws JourneyError for a region that its projection cannot show */
export async function drawMap({ map, width, height, out }: MapOptions, output: Output): Promise<void> {
  const { size } = layoutMap(map)
  await mapDataMade()
  const block = { left: 0, top: 0, width, height, step: size.width / width }
  const { data } = await drawMapBlock(writeRecipe(map), block, Math.max(width, height) / FILM)
  // JPEG knows no transparency, and there is none.
  await sharp(data, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .toFile(out)
  const { author, licence } = creditOfMap(map)
  output.result(`${JSON.stringify({ width, height, out, credit: `${author} (${licence})` })}\n`)
}
