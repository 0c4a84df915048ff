import type { Size } from '../camera/view'
import { matrixOfWorldFile, readWorldFile } from '../formats/world-file'
import { JourneyError } from '../journey/error'
import type { Georeference } from '../journey/schema'
import { affine, transformed } from './homography'

/** Half the width of the Web Mercator square in metres. */
const HALF_WORLD = Math.PI * 6378137

/**
 * The georeference that a world file gives an image. The file does not say which coordinates it means: numbers that fit degrees are taken for
 * longitude and latitude, others for metres of Web Mercator (common practice, no source).
 * @throws JourneyError if the file is no world file, or its numbers are neither.
 */
export function georeferenceFromWorldFile(text: string, name: string, { width, height }: Size): Georeference {
  const matrix = matrixOfWorldFile(readWorldFile(text, name))
  const map = affine(...matrix)
  const corners = [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ].map(([x, y]) => transformed(map, { x: x!, y: y! })!)
  const fits = (mostX: number, mostY: number) => corners.every(({ x, y }) => Math.abs(x) <= mostX && Math.abs(y) <= mostY)
  // Maps across the antimeridian run past 180 degrees; half a pixel may stand over at the poles.
  if (fits(540, 90.5)) return { kind: 'affine', source: 'world-file', plane: { kind: 'degrees' }, matrix }
  if (fits(3 * HALF_WORLD, 2 * HALF_WORLD)) return { kind: 'affine', source: 'world-file', plane: { kind: 'mercator' }, matrix }
  throw new JourneyError(
    `“${name}” puts the picture outside the Earth, in degrees as in metres of Web Mercator: set control points instead.`,
  )
}
