import { z } from 'zod'
import { JourneyError } from '../error'
import { describeIssue } from '../journey/parse'
import type { ControlPoint } from '../journey/schema'
import { coordinate, LIMITS, lonLat } from '../journey/values'

const pointSchema = z.object({ x: coordinate, y: coordinate, ...lonLat, name: z.string().max(120).optional() })
const listSchema = z.array(pointSchema).min(2, 'must have at least two points').max(LIMITS.controlPoints)
const fileSchema = z.union([listSchema, z.object({ points: listSchema }).transform(({ points }) => points)])

/**
 * Reads control points from JSON: a list of `{ "x": …, "y": …, "lon": …, "lat": …, "name": … }`, or an object with such a list in its field
 * "points". x and y are image pixels from the outer upper left corner, degrees are WGS 84, names may be left out.
 * @throws JourneyError that says what is wrong where
 */
export function readControlPoints(text: string, name: string): ControlPoint[] {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch (error) {
    throw new JourneyError(`“${name}” is not JSON: ${(error as Error).message}.`)
  }
  const result = (Array.isArray(data) ? listSchema : fileSchema).safeParse(data)
  if (!result.success) throw new JourneyError(`“${name}” does not hold control points: ${describeIssue(result.error)}.`)
  return result.data.map(({ x, y, lon, lat, name: title }, i) => ({
    id: `point-${i + 1}`,
    name: title ?? `Point ${i + 1}`,
    at: { x, y },
    lon,
    lat,
  }))
}
