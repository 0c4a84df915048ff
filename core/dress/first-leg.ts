import type { Leg } from '../journey/schema'
import { inkSchema, vehicleSchema } from '../journey/schema'

/** The vehicle of a first leg, where none was used before: one that goes over land and water alike. */
const SEAPLANE = vehicleSchema.parse({ kind: 'catalogue', artwork: 'seaplane', size: 110 })

/** Up to these mean speeds, in km/h, one is on foot or on a bicycle (common practice, no source). */
const ON_FOOT = 8
const BY_BICYCLE = 28

/** The vehicle of a recorded trip, by how fast it went on average while it moved, in km/h. */
export const vehicleAtSpeed = (speed: number): NonNullable<Leg['vehicle']> =>
  vehicleSchema.parse({ kind: 'catalogue', artwork: speed <= ON_FOOT ? 'walker' : speed <= BY_BICYCLE ? 'bicycle' : 'car', size: 110 })

/** How the first leg of a trip looks: a line with a casing and a soft shadow, so that it stands out on any map, and a vehicle. */
export const firstLeg = (colour: string, vehicle: Leg['vehicle'] = SEAPLANE): Pick<Leg, 'ink' | 'vehicle'> => ({
  ink: inkSchema.parse({ colour, width: 10, casing: { width: 3.5 }, shadow: { opacity: 0.4 } }),
  vehicle,
})
