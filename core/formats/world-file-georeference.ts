import type { Size } from '../geometry/size'
import type { WorldFile } from './world-file'
import { matrixOfWorldFile, readWorldFile, worldFileOfMatrix } from './world-file'
import { JourneyError } from '../error'
import type { Georeference, Plane } from '../journey/schema'
import { MERCATOR_SIDE } from '../geo/earth'
import type { GeoSheet } from '../geo/georeference'
import type { Homography } from '../geo/homography'
import { affine, transformed } from '../geo/homography'
import { planeMap } from '../geo/plane'

export type WorldMatrix = [number, number, number, number, number, number]

/** The coordinate systems that a world file's numbers allow; the file does not name its own. */
export interface WorldFileReading {
  /** From sheet pixels to the file's coordinates. */
  matrix: WorldMatrix
  /** The only system possible: degrees, as numbers this small are nothing else (common practice, no source). Otherwise the user has to be asked. */
  plane: Plane | undefined
  /** Whether they may be metres of Web Mercator, or of a zone of UTM. */
  mayBe: { mercator: boolean; utm: boolean }
}

/** @throws JourneyError if the file is no world file. */
export function readingOfWorldFile(text: string, name: string, size: Size): WorldFileReading {
  const matrix = matrixOfWorldFile(readWorldFile(text, name))
  const corners = cornersOf(affine(...matrix), size)
  const fits = (west: number, east: number, south: number, north: number) =>
    corners.every(({ x, y }) => x >= west && x <= east && y >= south && y <= north)
  // Maps across the antimeridian run past 180 degrees; half a pixel may stand over at the poles.
  const isDegrees = fits(-540, 540, -90.5, 90.5)
  return {
    matrix,
    plane: isDegrees ? { kind: 'degrees' } : undefined,
    mayBe: { mercator: fits(-1.5 * MERCATOR_SIDE, 1.5 * MERCATOR_SIDE, -MERCATOR_SIDE, MERCATOR_SIDE), utm: fits(-5e5, 15e5, -1e5, 1e7) },
  }
}

const cornersOf = (map: Homography, { width, height }: Size) =>
  [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ].map(([x, y]) => transformed(map, { x: x!, y: y! })!)

/**
 * The georeference that a world file gives an image in a coordinate system.
 * @throws JourneyError if the system has no place on the Earth for what lies in the image's middle
 */
export function georeferenceIn(plane: Plane, matrix: WorldMatrix, name: string, { width, height }: Size): Georeference {
  const middle = transformed(affine(...matrix), { x: width / 2, y: height / 2 })!
  const at = planeMap(plane).inverse(middle)
  if (!at || Math.abs(at.lon) > 540)
    throw new JourneyError(`“${name}” puts the picture outside the Earth in these coordinates: choose others, or set control points.`)
  return { kind: 'affine', source: 'world-file', plane, matrix }
}

const IN_WKT = /^\s*(?:PROJCS|PROJCRS|GEOGCS|GEOGCRS|GEODCRS|BOUNDCRS|COMPD_CS|COMPOUNDCRS)\s*\[\s*"([^"]{1,120})"/i

/**
 * The coordinate system that a .prj file names, in well-known text (OGC 01-009, or Esri's).
 * @throws JourneyError if it is not a world file, or one that cannot be used
 */
export function planeOfPrj(text: string, name: string): Plane {
  const called = IN_WKT.exec(text)?.[1]
  if (!called || text.length > 4000) throw new JourneyError(`“${name}” does not describe a coordinate system in well-known text.`)
  // Recognised by name: what other programs write for Web Mercator has the same numbers as an ellipsoidal Mercator.
  if (/web_?\s?mercator|pseudo-?mercator|3857|900913/i.test(called)) return { kind: 'mercator' }
  if (/^\s*GEO/i.test(text) && /WGS_?\s?(19)?84|ETRS|NAD_?83|GRS_?80/i.test(text)) return { kind: 'degrees' }
  const plane: Plane = { kind: 'crs', name: called.replaceAll('_', ' '), definition: text.trim() }
  planeMap(plane)
  return plane
}

/** The world file of a sheet: undefined where it lies in another plane than degrees or Web Mercator, or in perspective. */
export function worldFileOf({ kind, toPlane: { plane, map } }: GeoSheet): WorldFile | undefined {
  if (kind === 'projective' || (plane.kind !== 'degrees' && plane.kind !== 'mercator')) return undefined
  const [a, b, c, d, e, f] = map.map((v) => v / map[8]) as unknown as Homography
  return worldFileOfMatrix([a, b, c, d, e, f])
}
