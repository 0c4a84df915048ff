import type { Feature, FeatureCollection, Geometry, MultiLineString, Position } from 'geojson'
import { remembered } from '../remembered'
import type { LonLatBox } from './land-index'

/** Shapes of the whole Earth are picked by their bounds before they are projected: most lie elsewhere. */

const boxOf = (line: readonly Position[]): LonLatBox => {
  const box = { west: Infinity, south: Infinity, east: -Infinity, north: -Infinity }
  for (const [lon, lat] of line) {
    box.west = Math.min(box.west, lon!)
    box.east = Math.max(box.east, lon!)
    box.south = Math.min(box.south, lat!)
    box.north = Math.max(box.north, lat!)
  }
  return box
}

/** Whether two boxes have a place in common, of which either may go on beyond 180 degrees. */
const meet = (a: LonLatBox, b: LonLatBox): boolean =>
  a.south <= b.north && a.north >= b.south && [-360, 0, 360].some((turn) => a.west + turn <= b.east && a.east + turn >= b.west)

const linesWithBoxes = remembered((shape: MultiLineString) => shape.coordinates.map((line) => ({ line, box: boxOf(line) })))

/** The lines that may be seen within some bounds; all where there are none. */
export const linesNear = (shape: MultiLineString, bounds: LonLatBox | undefined): MultiLineString =>
  bounds ? { ...shape, coordinates: linesWithBoxes(shape).flatMap(({ line, box }) => (meet(box, bounds) ? [line] : [])) } : shape

type Parts = Feature<Geometry>[]

const featuresWithBoxes = remembered((shapes: FeatureCollection) =>
  shapes.features.flatMap(partsOf).map((part) => ({ part, box: boxOf(outlineOf(part.geometry)) })),
)

/** A feature of several shapes as several features. */
function partsOf(feature: Feature): Parts {
  const { geometry } = feature
  if (geometry.type === 'MultiPolygon')
    return geometry.coordinates.map((coordinates) => ({ ...feature, geometry: { type: 'Polygon', coordinates } }))
  if (geometry.type === 'MultiLineString')
    return geometry.coordinates.map((coordinates) => ({ ...feature, geometry: { type: 'LineString', coordinates } }))
  return [feature]
}

const outlineOf = (geometry: Geometry): Position[] =>
  geometry.type === 'Polygon' ? geometry.coordinates[0]! : geometry.type === 'LineString' ? geometry.coordinates : []

/** The features that may be seen within some bounds; all where there are none. */
export const featuresNear = (shapes: FeatureCollection, bounds: LonLatBox | undefined): FeatureCollection =>
  bounds ? { ...shapes, features: featuresWithBoxes(shapes).flatMap(({ part, box }) => (meet(box, bounds) ? [part] : [])) } : shapes
