import { z } from 'zod'
import { JourneyError } from '../error'
import { describeIssue } from '../journey/parse'
import type { Described } from './described'
import { checkedService, plainText, vectorTiles } from './described'
import { MERCATOR_EDGE, USUAL_FINEST, webMercatorGrid } from './grids'
import { checkAddress, hostOf } from './template'

/** Source: TileJSON 3.0.0, section 3. Unknown fields are allowed there. */
const tileJsonSchema = z.object({
  tilejson: z.string().regex(/^[123]\.\d+\.\d+/, 'should be the version of the specification, such as 3.0.0'),
  tiles: z.array(z.string().max(2000)).min(1),
  name: z.string().optional(),
  attribution: z.string().nullable().optional(),
  scheme: z.enum(['xyz', 'tms']).optional(),
  minzoom: z.int().min(0).max(30).optional(),
  maxzoom: z.int().min(0).max(30).optional(),
  bounds: z.tuple([z.number(), z.number(), z.number(), z.number()]).optional(),
  format: z.string().optional(),
  vector_layers: z.array(z.unknown()).optional(),
})

/** Bounds west, south, east, north as a region; null where they are not of this Earth. Longitudes may run on beyond 180. */
export function regionOfBounds([west, south, east, north]: readonly [number, number, number, number]) {
  if (!(south < north && west < east && south >= -90 && north <= 90)) return null
  if (east - west >= 360) return { west: -180, east: 180, south, north }
  const wrap = (lon: number) => lon - 360 * Math.floor((lon + 180) / 360)
  // A whole turn ends at 180, where it would begin anew.
  const end = wrap(east) === -180 ? 180 : wrap(east)
  return wrap(west) === end ? null : { west: wrap(west), east: end, south, north }
}

/**
 * Reads what a TileJSON document says of its tiles.
 * @param address of the document, to which those of its tiles may be relative
 * @throws JourneyError that says what is wrong with it, or that its tiles are no pictures
 */
export function readTileJson(data: unknown, address: string): Described {
  const result = tileJsonSchema.safeParse(data)
  if (!result.success) throw new JourneyError(`The TileJSON at this address cannot be used: ${describeIssue(result.error)}.`)
  const { name, attribution, scheme, bounds, format, ...rest } = result.data
  const title = plainText(name ?? '', 120) || 'Tiles'
  const tiles = absolute(rest.tiles[0]!, address)
  if (rest.vector_layers || format === 'pbf' || /\.(pbf|mvt)(\?|$)/i.test(tiles)) throw new JourneyError(vectorTiles(title))
  const [first, last] = [rest.minzoom ?? 0, Math.min(rest.maxzoom ?? USUAL_FINEST, (rest.minzoom ?? 0) + 29)]
  if (last < first) throw new JourneyError('The TileJSON at this address cannot be used: its maxzoom is below its minzoom.')
  const template = scheme === 'tms' ? tiles.replaceAll('{y}', '{-y}') : tiles
  checkAddress(template)
  return {
    is: 'tilejson',
    credit: { title, author: plainText(attribution ?? ''), licence: '', source: hostOf(address) },
    terms: '',
    maps: [
      {
        id: 'tiles',
        title,
        service: checkedService({
          name: title,
          kind: 'template',
          address: template,
          grid: webMercatorGrid(256, first, last),
          covers: bounds ? withinMercator(regionOfBounds(bounds)) : null,
        }),
      },
    ],
    unusable: [],
  }
}

function withinMercator(region: ReturnType<typeof regionOfBounds>) {
  if (!region) return null
  const [south, north] = [Math.max(-MERCATOR_EDGE, region.south), Math.min(MERCATOR_EDGE, region.north)]
  return south < north ? { ...region, south, north } : null
}

/** An address in a document, which may be relative to the document's own. Source: RFC 3986, section 5.2, without dots in paths. */
function absolute(tiles: string, address: string): string {
  if (/^[a-z]+:/i.test(tiles)) return tiles
  const [, scheme = '', host = '', folder = '/'] = /^(https?:)\/\/([^/?#]+)((?:\/[^/?#]*)*\/)?/i.exec(address) ?? []
  if (tiles.startsWith('//')) return scheme + tiles
  return `${scheme}//${host}${tiles.startsWith('/') ? '' : folder}${tiles}`
}
