import { MERCATOR_SIDE } from '../geo/earth'
import { wrapLongitude } from '../geo/lon-lat'
import { planeMap } from '../geo/plane'
import { clamp } from '../geometry/clamp'
import type { Box } from '../geometry/box'
import type { Point } from '../geometry/point'
import { lonWidth } from '../maps/region'
import type { Region, TileGrid } from '../journey/schema'

/** The grids of tiles that services have in common. Source: OGC 17-083r4, Two Dimensional Tile Matrix Set, annex D. */

/** The finest level that services of the usual grid are asked for: a third of a metre to the pixel of 256. */
export const USUAL_FINEST = 19

/** The levels of a grid whose columns and rows double from each to the next. */
const doubling = (columns: number, first: number, last: number): TileGrid['levels'] =>
  Array.from({ length: last - first + 1 }, (_, k) => {
    const rows = 2 ** (first + k)
    return { id: String(first + k), columns: columns * rows, rows }
  })

/**
 * The grid WebMercatorQuad: at level 0 the world is one tile.
 * @param side of a tile in pixels
 * @param first the coarsest level @param last the finest, at most 29 after it
 */
export const webMercatorGrid = (side: number, first = 0, last = USUAL_FINEST): TileGrid => ({
  plane: 'mercator',
  left: -MERCATOR_SIDE / 2,
  top: MERCATOR_SIDE / 2,
  side,
  resolution: MERCATOR_SIDE / side / 2 ** first,
  levels: doubling(1, first, last),
})

/** Metres or degrees to the pixel of a level. */
export const resolutionOf = ({ resolution }: TileGrid, level: number): number => resolution / 2 ** level

/** Latitudes beyond this are not on the square of Web Mercator: the arc whose projection is as far from the equator as the 180th meridian is from the first. */
export const MERCATOR_EDGE = 85.0511287798066

const forwardIn = ({ plane }: Pick<TileGrid, 'plane'>, lon: number, lat: number) => {
  const edge = plane === 'mercator' ? MERCATOR_EDGE : 90
  return planeMap({ kind: plane }).forward({ lon, lat: Math.min(edge, Math.max(-edge, lat)) })!
}

/** A region in the plane of a grid; its right side runs on beyond the antimeridian where the region does. */
export function regionInPlane(grid: Pick<TileGrid, 'plane'>, region: Region): Box {
  const upper = forwardIn(grid, region.west, region.north)
  const lower = forwardIn(grid, region.west + lonWidth(region), region.south)
  return { left: upper.x, right: lower.x, top: upper.y, bottom: lower.y }
}

/** A box of the plane as a region of the Earth; what is wider than the Earth is all of it. */
export function regionOfBox(grid: Pick<TileGrid, 'plane'>, { left, right, top, bottom }: Box): Region {
  const edge = grid.plane === 'mercator' ? MERCATOR_EDGE : 90
  const map = planeMap({ kind: grid.plane })
  const at = (x: number, y: number) => map.inverse({ x, y }) ?? { lon: x, lat: Math.sign(y) * edge }
  const [upper, lower] = [at(left, top), at(right, bottom)]
  const isRound = right - left >= earthWidth(grid) * 0.999
  const sides = isRound ? { west: -180, east: 180 } : { west: wrapLongitude(upper.lon), east: wrapLongitude(lower.lon) }
  return { ...sides, south: Math.max(-edge, lower.lat), north: Math.min(edge, upper.lat) }
}

/**
 * A region moved by shares of its size, to the right and down, and scaled about its middle, as it is seen in the plane of a grid. It stays within what the
 * plane shows.
 */
export function movedInPlane(grid: Pick<TileGrid, 'plane'>, region: Region, right: number, down: number, larger: number): Region {
  const box = regionInPlane(grid, region)
  const edge = grid.plane === 'mercator' ? MERCATOR_SIDE / 2 : 90
  const width = Math.min(earthWidth(grid), (box.right - box.left) * larger)
  const height = Math.min(2 * edge, (box.top - box.bottom) * larger)
  const x = (box.left + box.right) / 2 + right * (box.right - box.left)
  const y = clamp((box.top + box.bottom) / 2 - down * (box.top - box.bottom), height / 2 - edge, edge - height / 2)
  return regionOfBox(grid, { left: x - width / 2, right: x + width / 2, top: y + height / 2, bottom: y - height / 2 })
}

/** A region grown about its middle, in the plane of a grid, to a width so many times its height. */
export function ofAspect(grid: Pick<TileGrid, 'plane'>, region: Region, aspect: number): Region {
  const { left, right, top, bottom } = regionInPlane(grid, region)
  const [width, height] = [Math.max(right - left, (top - bottom) * aspect), Math.max(top - bottom, (right - left) / aspect)]
  const [x, y] = [(left + right) / 2, (top + bottom) / 2]
  return regionOfBox(grid, { left: x - width / 2, right: x + width / 2, top: y + height / 2, bottom: y - height / 2 })
}

/** Pixels to each side of a spot that is shown at its own level. */
const ABOUT = 200

/** A small region about a spot of the plane, as it is looked at before a level of it is taken. */
export function regionAbout(grid: TileGrid, { x, y }: Point, level: number): Region {
  const reach = ABOUT * resolutionOf(grid, level)
  return regionOfBox(grid, { left: x - reach, right: x + reach, top: y + reach, bottom: y - reach })
}

/** How wide the Earth is in a plane, in its units. */
export const earthWidth = ({ plane }: Pick<TileGrid, 'plane'>): number => (plane === 'mercator' ? MERCATOR_SIDE : 360)

/** Metres on the Earth to the pixel of a level, across, at a latitude in degrees. */
export function metresToPixel(grid: TileGrid, level: number, lat: number): number {
  // Web Mercator and plate carrée both stretch a parallel to the length of the equator.
  return (resolutionOf(grid, level) / earthWidth(grid)) * MERCATOR_SIDE * Math.cos((lat * Math.PI) / 180)
}

/** The coarsest level with at most so many metres to the pixel at a latitude; the finest there is if none has. */
export function levelOfMetres(grid: TileGrid, metres: number, lat: number): number {
  const found = grid.levels.findIndex((_, level) => metresToPixel(grid, level, lat) <= metres * (1 + 1e-9))
  return found < 0 ? grid.levels.length - 1 : found
}

/** The same grid with tiles of another side, of which each covers what it did. */
export const withSide = (grid: TileGrid, side: number): TileGrid => ({ ...grid, side, resolution: (grid.resolution * grid.side) / side })
