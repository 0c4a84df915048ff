import equal from 'fast-deep-equal'
import type { Artwork } from './artwork'
import type { VehicleId } from './catalogue'
import { artworkOf } from './catalogue'

/** A vehicle as a journey names it: one of the catalogue. */
export interface CatalogueChoice {
  kind: 'catalogue'
  artwork: VehicleId
  colour: string
  size: number
}

/** A vehicle ready to be placed and painted. */
export type Vehicle = CatalogueVehicle

export interface CatalogueVehicle {
  kind: 'catalogue'
  id: VehicleId
  artwork: Artwork
  /** The colour of its body. */
  colour: string
  /** Length in reference pixels. */
  size: number
}

/** Whether two vehicles look the same, so that one may seem to go on as the other. */
export const sameVehicle = (a: Vehicle | null, b: Vehicle | null): boolean => equal(a, b)

const resolved = new WeakMap<CatalogueChoice, Vehicle>()

/** The vehicle of a choice; the same object for the same choice. */
export function resolveVehicle(choice: CatalogueChoice): Vehicle {
  const known = resolved.get(choice)
  if (known) return known
  const { kind, artwork: id, colour, size } = choice
  const vehicle: Vehicle = { kind, id, artwork: artworkOf(id), colour, size }
  resolved.set(choice, vehicle)
  return vehicle
}

/** Width, in artwork units, of the light edge that sets a vehicle off from the map; half of it lies beyond the drawing's bounds. */
export const EDGE = 7

/** The furthest that a vehicle reaches from the point that rides on the line, in its lengths. */
export function reachOf({ artwork: { bounds } }: Vehicle): number {
  const { left, top, right, bottom } = bounds
  return (Math.hypot(Math.max(-left, right), Math.max(-top, bottom)) + EDGE / 2) / 100
}
