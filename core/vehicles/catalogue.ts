import type { Artwork } from './artwork'
import * as artwork from './artwork'

/** The vehicles that ship with the application, by the name that journeys store. */
export const VEHICLES = {
  car: artwork.car,
  camper: artwork.camper,
  bus: artwork.bus,
  motorbike: artwork.motorbike,
  bicycle: artwork.bicycle,
  walker: artwork.walker,
  train: artwork.train,
  ferry: artwork.ferry,
  sailboat: artwork.sailboat,
  rowboat: artwork.rowboat,
  seaplane: artwork.seaplane,
  airliner: artwork.airliner,
  balloon: artwork.balloon,
} as const satisfies Record<string, Artwork>

export type VehicleId = keyof typeof VEHICLES
export const VEHICLE_IDS = Object.keys(VEHICLES) as [VehicleId, ...VehicleId[]]

export const artworkOf = (id: VehicleId): Artwork => VEHICLES[id]
