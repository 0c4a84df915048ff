import type { Leg } from '../journey/schema'
import { inkSchema, vehicleSchema } from '../journey/schema'

/** The vehicle of a first leg, where none was used before: one that goes over land and water alike. */
const SEAPLANE = vehicleSchema.parse({ kind: 'catalogue', artwork: 'seaplane', size: 110 })

/** How the first leg of a trip looks: a line with a casing and a soft shadow, so that it stands out on any map, and a vehicle. */
export const firstLeg = (colour: string, vehicle: Leg['vehicle'] = SEAPLANE): Pick<Leg, 'ink' | 'vehicle'> => ({
  ink: inkSchema.parse({ colour, width: 10, casing: { width: 3.5 }, shadow: { opacity: 0.4 } }),
  vehicle,
})
