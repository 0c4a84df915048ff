import { defineEventHandler, setResponseHeaders } from 'h3'
import sharp from 'sharp'
import { z } from 'zod'
import { cleanSvg } from '#core/formats/clean-svg'
import { drawnMapSchema } from '#core/journey/schema'
import { coastDetail, drawMap } from '#core/sheet/drawn-map'
import { jsonBody, orRefuse } from '../../http/refuse'
import { shapesFor } from '../../maps/world'
import { drawSvg } from '../../sheets/drawing'

const body = z.object({ map: drawnMapSchema })

/** Longer side of the picture. */
const SIDE = 880

/** Width of a film in pixels, at which the detail of coasts is stated. */
const FILM = 1920

/** A small preview of a map; the headers give the detail of its coasts, in metres and in pixels of a film. */
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
  const detail = coastDetail(map, shapesFor(map), FILM)
  setResponseHeaders(event, {
    'content-type': 'image/webp',
    ...(detail && { 'x-coast-metres': detail.metres.toFixed(1), 'x-coast-pixels': detail.pixels.toFixed(2) }),
  })
  return sharp(pixels.data, { raw: { width: pixels.width, height: pixels.height, channels: 4 } })
    .webp({ quality: 84 })
    .toBuffer()
})
