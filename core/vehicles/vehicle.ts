import { remembered } from '../remembered'
import equal from 'fast-deep-equal'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { Artwork, Posture } from './artwork'
import type { VehicleId } from './catalogue'
import { artworkOf, isAfloat } from './catalogue'

/** A vehicle as a journey names it: one of the catalogue, or a picture of one's own. */
export type Choice = CatalogueChoice | ImageChoice

interface CatalogueChoice {
  kind: 'catalogue'
  artwork: VehicleId
  colour: string
  second?: string
  third?: string
  size: number
  lean?: number
  altitude?: number
  carries?: Carried
  lively?: number
  speed?: number
}

interface ImageChoice {
  kind: 'image'
  picture: Picture
  view: Posture['view']
  facing: number
  /** The point that rides on the line, as shares of the picture's width and height. */
  anchor: Point
  size: number
  lean?: number
  carries?: Carried
  lively?: number
  speed?: number
}

/** What a vehicle carries over itself; `size` is its height in reference pixels. */
export type Carried =
  | { kind: 'plate'; text: string; paper: string; colour: string; size: number }
  | { kind: 'flag'; colour: string; second: string; size: number }
  | { kind: 'picture'; picture: Picture; size: number }

/** What a vehicle travels on. */
type Medium = 'land' | 'water' | 'air'

/** An imported picture; its size in pixels, which are nominal for a drawing. */
interface Picture extends Size {
  image: string
  vector: boolean
}

/** A vehicle ready to be placed and painted. `size` is its length in reference pixels: of a picture, its longer side. */
export type Vehicle = Riding &
  ({ kind: 'catalogue'; id: VehicleId; artwork: Artwork; colours: Colours; altitude: number } | { kind: 'image'; picture: Picture })

interface Riding {
  posture: Posture
  size: number
  medium: Medium
  carries: Carried | null
  /** 0..1 */
  lively: number
}

/** The colour of a drawing's body, and those of its light and dark parts, if they are not the drawing's own. */
export interface Colours {
  body: string
  second?: string
  third?: string
}

/** The highest a vehicle rises, as a share of the usual, and the most that one may be set to lean, in degrees. */
export const MOST_ALTITUDE = 2
export const MOST_SET_LEAN = 60

/** Whether two vehicles look the same, so that one may seem to go on as the other. */
export const sameVehicle = (a: Vehicle | null, b: Vehicle | null): boolean => equal(a, b)

const mediumOf = (artwork: Artwork): Medium => (artwork.flies ? 'air' : isAfloat(artwork) ? 'water' : 'land')

/** The vehicle of a choice; the same object for the same choice. */
export const resolveVehicle = remembered(resolve)

function resolve(choice: Choice): Vehicle {
  const { size, carries = null, lively = 0 } = choice
  switch (choice.kind) {
    case 'catalogue': {
      const artwork = artworkOf(choice.artwork)
      const { colour: body, second, third, lean, altitude = 1 } = choice
      const posture = lean === undefined ? artwork : { ...artwork, mostLean: lean }
      const medium = mediumOf(artwork)
      return {
        kind: choice.kind,
        posture,
        size,
        medium,
        carries,
        lively,
        id: choice.artwork,
        artwork,
        colours: { body, second, third },
        altitude,
      }
    }
    case 'image':
      return { kind: choice.kind, posture: postureOf(choice), size, medium: 'land', carries, lively, picture: choice.picture }
    default:
      return choice satisfies never
  }
}

/** A picture covers the end of its line from here on, as a share of its length behind the anchor; less where the picture ends before. */
const IMAGE_INK_BEHIND = 0.15

function postureOf({ picture: { width, height }, anchor, view, facing, lean }: ImageChoice): Posture {
  const k = 100 / Math.max(width, height)
  const bounds = {
    left: -anchor.x * width * k,
    top: -anchor.y * height * k,
    right: (1 - anchor.x) * width * k,
    bottom: (1 - anchor.y) * height * k,
  }
  const reach = Math.max(0, Math.min(-bounds.left, bounds.right, view === 'above' ? Math.min(-bounds.top, bounds.bottom) : Infinity)) / 100
  return { view, facing, inkBehind: Math.min(IMAGE_INK_BEHIND, reach), bounds, ...(lean === undefined ? {} : { mostLean: lean }) }
}

/** Width, in hundredths of its length, of the light edge that sets a vehicle off from the map; half of it lies beyond the drawing's bounds. */
export const EDGE = 7

/** The furthest that a vehicle reaches from the point that rides on the line, in its lengths. */
export function reachOf({ posture: { bounds } }: Vehicle): number {
  const { left, top, right, bottom } = bounds
  return (Math.hypot(Math.max(-left, right), Math.max(-top, bottom)) + EDGE / 2) / 100
}
