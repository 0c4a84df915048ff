import { remembered } from '../remembered'
import equal from 'fast-deep-equal'
import type { Carried, Emblem, Photo, VehicleChoice } from '../journey/schema'
import type { Artwork, Medium, Posture, Voice } from '../vehicles/artwork'
import type { VehicleId } from '../vehicles/catalogue'
import { artworkOf } from '../vehicles/catalogue'

/** A vehicle ready to be placed and painted. `size` is its length in reference pixels: of a picture, its longer side. */
export type Vehicle = Riding &
  (
    | { kind: 'catalogue'; id: VehicleId; artwork: Artwork; colours: Colours; emblem: Emblem | null; altitude: number }
    | { kind: 'image'; picture: Photo }
  )

interface Riding {
  posture: Posture
  size: number
  medium: Medium
  carries: Carried | null
  /** How dark its shadow is, 0 to 1; null where nothing is said. */
  shadow: number | null
  /** 0..1 */
  lively: number
}

/** The colour of a drawing's body, and those of its light and dark parts, if they are not the drawing's own. */
export interface Colours {
  body: string
  second?: string
  third?: string
}

/** How dark the shadow of a vehicle that flies is where nothing is said, and no sun shines. */
export const FLIGHT_SHADOW = 0.34

/** Whether two vehicles look the same, so that one may seem to go on as the other. */
export const sameVehicle = (a: Vehicle | null, b: Vehicle | null): boolean => equal(a, b)

/** The vehicle of a choice; the same object for the same choice. */
export const resolveVehicle = remembered(resolve)

function resolve(choice: VehicleChoice): Vehicle {
  const { size, carries = null, shadow = null, lively = 0 } = choice
  switch (choice.kind) {
    case 'catalogue': {
      const artwork = artworkOf(choice.artwork)
      const { colour: body, second, third, lean, emblem = null, altitude = 1 } = choice
      const posture = lean === undefined ? artwork : { ...artwork, mostLean: lean }
      return {
        kind: choice.kind,
        posture,
        size,
        medium: artwork.medium,
        carries,
        shadow,
        lively,
        id: choice.artwork,
        artwork,
        colours: { body, second, third },
        emblem,
        altitude,
      }
    }
    case 'image':
      return { kind: choice.kind, posture: postureOf(choice), size, medium: 'land', carries, shadow, lively, picture: choice.picture }
    default:
      return choice satisfies never
  }
}

/** A picture covers the end of its line from here on, as a share of its length behind the anchor; less where the picture ends before. */
const IMAGE_INK_BEHIND = 0.15

function postureOf({ picture: { width, height }, anchor, view, facing, lean }: Extract<VehicleChoice, { kind: 'image' }>): Posture {
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

/** Of a picture of one's own, or where nothing is seen to travel, in km/h. */
const USUAL_SPEED = 60

/** How fast a vehicle travels, in km/h: as its maker said, or as such vehicles do. */
export const speedOf = (choice: VehicleChoice | null): number =>
  choice?.speed ?? (choice?.kind === 'catalogue' ? artworkOf(choice.artwork).speed : USUAL_SPEED)

/** What is heard of a vehicle. */
export const voiceOf = (choice: VehicleChoice | null): Voice =>
  choice === null ? 'none' : choice.kind === 'catalogue' ? artworkOf(choice.artwork).voice : choice.voice
