import { useLocalStorage } from '@vueuse/core'
import { firstLeg } from '#core/dress/first-leg'
import type { Traveller, VehicleChoice } from '#core/journey/schema'
import { vehicleSchema } from '#core/journey/schema'
import { JSON_TEXT } from '~/services/json-text'

/** How the first leg of a trip looks: with the vehicle that was used last, in whichever journey. */
export function useFirstLeg() {
  const last = useLocalStorage<unknown>('zephyrine-vehicle', null, { serializer: JSON_TEXT })
  return {
    /** @param suited the vehicle where one is known that suits the trip better than the last one */
    dressFor({ colour }: Pick<Traveller, 'colour'>, suited?: VehicleChoice) {
      const known = vehicleSchema.safeParse(last.value)
      return firstLeg(colour, suited ?? (known.success ? { ...known.data, carries: undefined } : undefined))
    },
    /** Keeps a vehicle for the next trip; pictures of one's own stay with their journeys. */
    used(vehicle: VehicleChoice | null) {
      if (vehicle?.kind === 'catalogue') last.value = vehicle
    },
  }
}
