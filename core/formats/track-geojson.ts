import { z } from 'zod'
import { JourneyError } from '../error'
import type { TrackCollector } from './track-collector'

const position = z.array(z.number()).min(2)
const geometrySchema: z.ZodType<GeometryLike> = z.lazy(() =>
  z.discriminatedUnion('type', [
    z.object({ type: z.literal('Point'), coordinates: position }),
    z.object({ type: z.literal('MultiPoint'), coordinates: z.array(position) }),
    z.object({ type: z.literal('LineString'), coordinates: z.array(position) }),
    z.object({ type: z.literal('MultiLineString'), coordinates: z.array(z.array(position)) }),
    z.object({ type: z.literal('Polygon'), coordinates: z.array(z.array(position)) }),
    z.object({ type: z.literal('MultiPolygon'), coordinates: z.array(z.array(z.array(position))) }),
    z.object({ type: z.literal('GeometryCollection'), geometries: z.array(geometrySchema) }),
  ]),
)
type GeometryLike =
  | { type: 'Point'; coordinates: number[] }
  | { type: 'MultiPoint' | 'LineString'; coordinates: number[][] }
  | { type: 'MultiLineString' | 'Polygon'; coordinates: number[][][] }
  | { type: 'MultiPolygon'; coordinates: number[][][][] }
  | { type: 'GeometryCollection'; geometries: GeometryLike[] }
const featureSchema = z.object({
  type: z.literal('Feature'),
  geometry: geometrySchema.nullable(),
  properties: z
    .object({ name: z.string().optional().catch(undefined) })
    .nullable()
    .optional()
    .catch(null),
})
const geoJsonSchema = z.union([
  z.object({ type: z.literal('FeatureCollection'), features: z.array(featureSchema) }),
  featureSchema,
  geometrySchema,
])

export function readGeoJson(text: string, name: string, collector: TrackCollector): void {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch (error) {
    throw new JourneyError(`“${name}” is not JSON: ${(error as Error).message}.`)
  }
  const parsed = geoJsonSchema.safeParse(data)
  if (!parsed.success)
    throw new JourneyError(`“${name}” is not GeoJSON that can be read: it needs features with positions of numbers (RFC 7946).`)
  const take = (geometry: GeometryLike, title: string) => {
    const line = (positions: number[][]) => {
      for (const [lon, lat, height] of positions) collector.point(lon!, lat!, NaN, height ?? NaN)
      collector.endSegment()
    }
    switch (geometry.type) {
      case 'Point':
        return collector.waypoint(geometry.coordinates[0]!, geometry.coordinates[1]!, title)
      case 'MultiPoint':
        return geometry.coordinates.forEach(([lon, lat]) => collector.waypoint(lon!, lat!, title))
      case 'LineString':
        return line(geometry.coordinates)
      case 'MultiLineString':
      case 'Polygon':
        return geometry.coordinates.forEach(line)
      case 'MultiPolygon':
        return geometry.coordinates.forEach((polygon) => polygon.forEach(line))
      case 'GeometryCollection':
        return geometry.geometries.forEach((part) => take(part, title))
    }
  }
  const content = parsed.data
  const features =
    content.type === 'FeatureCollection'
      ? content.features
      : content.type === 'Feature'
        ? [content]
        : [{ geometry: content, properties: null }]
  for (const { geometry, properties } of features) if (geometry) take(geometry, properties?.name ?? '')
}
