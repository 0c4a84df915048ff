import type { Vehicle } from '../dress/vehicle'
import type { Box } from '../geometry/box'
import { unionOf } from '../geometry/box'
import { carriedBox } from './carried-size'

/** What a vehicle covers about its place on the line, whichever way it faces, with what it carries; in reference pixels. */
export function coverOf({ size, carries, posture: { view, bounds } }: Vehicle): Box {
  const k = size / 100
  const aside = Math.max(-bounds.left, bounds.right) * k
  // One from above turns; the others keep their feet on the line.
  const own =
    view === 'above'
      ? { left: -aside, right: aside, top: -aside, bottom: aside }
      : { left: -aside, right: aside, top: bounds.top * k, bottom: bounds.bottom * k }
  return carries ? unionOf([own, carriedBox(carries, -own.top)]) : own
}
