import type { DrawnMap, MapStyle } from '../journey/schema'
import { drawnMapSchema } from '../journey/sheet-schema'

/** The small pictures of all styles, one below the other in their order: each so many pixels, and drawn as if it were so wide in the film. */
export const SMALL_MAPS = { width: 112, height: 64, shown: 260 } as const

/** The map that shows a style. */
export const smallMap = (style: MapStyle): DrawnMap =>
  drawnMapSchema.parse({
    region: { west: 5, south: 36, east: 21, north: 48 },
    projection: 'conic',
    style,
    borders: true,
    graticule: false,
    rivers: false,
    towns: style === 'nightfall' || style === 'night',
    aspect: SMALL_MAPS.width / SMALL_MAPS.height,
  })
