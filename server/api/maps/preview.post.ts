import { defineEventHandler, setResponseHeaders } from 'h3'
import sharp from 'sharp'
import { z } from 'zod'
import { cleanSvg } from '#core/formats/clean-svg'
import { drawnMapSchema } from '#core/journey/schema'
import { drawMap } from '#core/sheet/drawn-map'
import { jsonBody, orRefuse } from '../../http/refuse'
import { shapesFor } from '../../maps/world'
import { drawSvg } from '../../sheets/drawing'

const body = z.object({ map: drawnMapSchema })

/** Longer side of the picture. */
const SIDE = 880

/** A small picture of a map as it would be drawn. */
export default defineEventHandler(async (event) => {
  const { map } = await jsonBody(event, body)
  const { svg, layout } = orRefuse(() => drawMap(map, shapesFor(map, true)))
  const { size } = layout
  const k = SIDE / Math.max(size.width, size.height)
  const pixels = await drawSvg(
    cleanSvg(svg, 'map'),
    size,
    { x: 0, y: 0, ...size },
    { width: Math.round(size.width * k), height: Math.round(size.height * k) },
  )
  setResponseHeaders(event, { 'content-type': 'image/webp' })
  return sharp(pixels.data, { raw: { width: pixels.width, height: pixels.height, channels: 4 } })
    .webp({ quality: 84 })
    .toBuffer()
})
