import type { Size } from '../geometry/size'
import { degrees, radians, wrapDegrees } from '../geometry/angle'
import type { Point } from '../geometry/point'
import { JourneyError } from '../error'
import type { Crop, Place, Sheet } from '../journey/schema'

/** How sheets lie on the ground: the similarity ground = (x, y) + scale · rotation · sheet. */
export const AT_ORIGIN: Place = { x: 0, y: 0, scale: 1, rotation: 0 }

/** From sheet pixels to the ground. */
export function sheetToGround({ x, y, scale, rotation }: Place, p: Point): Point {
  const [cos, sin] = [Math.cos(radians(rotation)), Math.sin(radians(rotation))]
  return { x: x + scale * (cos * p.x - sin * p.y), y: y + scale * (sin * p.x + cos * p.y) }
}

/** From the ground to sheet pixels. */
export function groundToSheet({ x, y, scale, rotation }: Place, p: Point): Point {
  const [cos, sin] = [Math.cos(radians(rotation)), Math.sin(radians(rotation))]
  const [dx, dy] = [(p.x - x) / scale, (p.y - y) / scale]
  return { x: cos * dx + sin * dy, y: cos * dy - sin * dx }
}

/** The part of a sheet that is used: its crop, or all of it. */
export const usedPart = ({ crop, width, height }: Pick<Sheet, 'crop' | 'width' | 'height'>): Crop =>
  crop ?? { left: 0, top: 0, right: width, bottom: height }

/** The four corners of the used part on the ground, clockwise from its upper left. */
export function groundCorners(sheet: Pick<Sheet, 'crop' | 'width' | 'height' | 'place'>): Point[] {
  const { left, top, right, bottom } = usedPart(sheet)
  const corners = [
    [left, top],
    [right, top],
    [right, bottom],
    [left, bottom],
  ] as const
  return corners.map(([x, y]) => sheetToGround(sheet.place, { x, y }))
}

/** The placement that puts a sheet's points a and b on two ground points. @throws JourneyError if the points do not determine it. */
export function placeByTwoPoints(a: Point, b: Point, groundA: Point, groundB: Point): Place {
  const [dx, dy] = [b.x - a.x, b.y - a.y]
  const [gx, gy] = [groundB.x - groundA.x, groundB.y - groundA.y]
  const length = Math.hypot(dx, dy)
  if (length < 1 || Math.hypot(gx, gy) < 1e-6) throw new JourneyError('The two points lie on one spot: choose two that are far apart.')
  const rotation = wrapDegrees(degrees(Math.atan2(gy, gx) - Math.atan2(dy, dx)))
  const turned = sheetToGround({ x: 0, y: 0, scale: Math.hypot(gx, gy) / length, rotation }, a)
  return { x: groundA.x - turned.x, y: groundA.y - turned.y, scale: Math.hypot(gx, gy) / length, rotation }
}

/** A placement turned about a ground point, in degrees. */
export function turnedPlace(place: Place, about: Point, degrees: number): Place {
  const corner = turnedAbout({ x: place.x, y: place.y }, about, degrees)
  return { ...place, ...corner, rotation: wrapDegrees(place.rotation + degrees) }
}

/** A point turned clockwise about another. */
export function turnedAbout(p: Point, about: Point, degrees: number): Point {
  return sheetToGround({ ...about, scale: 1, rotation: degrees }, { x: p.x - about.x, y: p.y - about.y })
}

/** The placement of a sheet in the middle of a frame of `size` gu around a ground point, as large as fits. */
export function placeInside(sheet: Size, centre: Point, size: Size): Place {
  const scale = Math.min(size.width / sheet.width, size.height / sheet.height)
  return { x: centre.x - (sheet.width * scale) / 2, y: centre.y - (sheet.height * scale) / 2, scale, rotation: 0 }
}
