import type { Artwork } from './artwork'
import * as air from './air'
import * as rail from './rail'
import * as road from './road'
import * as water from './water'

/** The vehicles that ship with the application, by the name that journeys store. */
const VEHICLES = {
  car: road.car,
  hatchback: road.hatchback,
  camper: road.camper,
  jeep: road.jeep,
  lorry: road.lorry,
  bus: road.bus,
  'coach-above': road.coachtop,
  'three-wheeler': road.threewheeler,
  motorbike: road.motorbike,
  scooter: road.scooter,
  bicycle: road.bicycle,
  walker: road.walker,
  train: rail.train,
  'steam-engine': rail.steamer,
  tram: rail.tram,
  'railcar-above': rail.railcar,
  ferry: water.ferry,
  'cruise-ship': water.liner,
  sailboat: water.sailboat,
  'yacht-above': water.yacht,
  motorboat: water.motorboat,
  rowboat: water.rowboat,
  kayak: water.kayak,
  seaplane: air.seaplane,
  airliner: air.airliner,
  'jet-side': air.jet,
  helicopter: air.helicopter,
  balloon: air.balloon,
} as const satisfies Record<string, Artwork>

export type VehicleId = keyof typeof VEHICLES
export const VEHICLE_IDS = Object.keys(VEHICLES) as [VehicleId, ...VehicleId[]]

export const artworkOf = (id: VehicleId): Artwork => VEHICLES[id]
