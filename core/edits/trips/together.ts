import { radians } from '../../geometry/angle'
import type { Point } from '../../geometry/point'
import type { Move } from '../ground/ground-move'
import { movedCourse } from '../ground/ground-move'
import { boundsOf } from '../../journey/bounds'
import type { Journey } from '../../journey/schema'
import { pinSchema } from '../../journey/schema'
import { liesFlat, pinOutline } from '../../marks/pins'

const MOST_LIFT = boundsOf(pinSchema, 'lift').max

/** A turn and a scaling about a pivot, and a move. */
export interface Similarity {
  pivot: Point
  /** Clockwise, in degrees. */
  turn?: number
  /** From just above 0 on. */
  scale?: number
  by?: Point
}

/** The map of the ground that a similarity is: x' = pivot + by + scale R(turn) (x - pivot), y down. */
export function similarity({ pivot, turn = 0, scale = 1, by = { x: 0, y: 0 } }: Similarity): Move {
  const [cos, sin] = [scale * Math.cos(radians(turn)), scale * Math.sin(radians(turn))]
  return ({ x, y }) => {
    const [dx, dy] = [x - pivot.x, y - pivot.y]
    return { x: pivot.x + by.x + cos * dx - sin * dy, y: pivot.y + by.y + sin * dx + cos * dy }
  }
}

/** Raises the pins of some stops so that each stands on the one before: for several that are at one place. Pins that lie, and those that are not seen, stay as they are. */
export function stackPins(journey: Journey, ids: readonly string[]): Journey {
  const lifts = new Map<string, number>()
  let height = 0
  for (const { id, pin } of ids.flatMap((wanted) => journey.stops.find((stop) => stop.id === wanted) ?? [])) {
    if (pin.shape === 'none' || liesFlat(pin)) continue
    const { top, bottom } = pinOutline(pin)
    // The first stands as it does; a disc's middle is at its place.
    const lift = height === 0 ? 0 : height / pin.size + bottom
    lifts.set(id, Math.min(MOST_LIFT, lift))
    height = pin.size * (lift - top)
  }
  return {
    ...journey,
    stops: journey.stops.map((stop) =>
      lifts.has(stop.id) ? { ...stop, pin: { ...stop.pin, lift: lifts.get(stop.id)!, stem: false } } : stop,
    ),
  }
}

/**
 * Moves some stops by a map of the ground, and with them the legs both of whose ends are among them: their nodes, tracks and via points. Legs that lead elsewhere
 * follow their stop, as when that is dragged. What was known of the stops' places on the Earth is forgotten.
 */
export function moveTogether(journey: Journey, ids: readonly string[], move: Move): Journey {
  const moved = new Set(ids)
  const places = new Map(journey.stops.map(({ id, at }) => [id, at]))
  return {
    ...journey,
    stops: journey.stops.map((stop) => (moved.has(stop.id) ? { ...stop, at: move(stop.at), place: null } : stop)),
    travellers: journey.travellers.map((traveller) => ({
      ...traveller,
      legs: traveller.legs.map((leg, i) => {
        const [from, to] = [traveller.visits[i]!.stop, traveller.visits[i + 1]!.stop]
        // Where one stop alone is moved, a way round from it to itself stays.
        if (moved.size === 1 || !moved.has(from) || !moved.has(to)) return leg
        return { ...leg, course: movedCourse(leg.course, places.get(from)!, places.get(to)!, move) }
      }),
    })),
  }
}
