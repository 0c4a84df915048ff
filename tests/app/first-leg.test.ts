import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { addStop } from '#core/edits/trips/visits'
import { createJourney } from '#core/journey/create'
import { vehicleSchema } from '#core/journey/schema'
import { useFirstLeg } from '~/composables/use-first-leg'

beforeEach(() => {
  setActivePinia(createPinia())
  localStorage.clear()
})

describe('the first leg of a trip', () => {
  const legOf = (dress: ReturnType<ReturnType<typeof useFirstLeg>['dressFor']>) => {
    const who = { traveller: 'traveller', dress }
    const begun = addStop(createJourney('New'), { x: 0, y: 0 }, { stop: 'a', leg: 'x' }, who)
    return addStop(begun, { x: 500, y: 0 }, { stop: 'b', leg: 'l' }, who).travellers[0]!.legs[0]!
  }

  it('has a vehicle, and a line with a casing in the colour of its traveller', () => {
    const leg = legOf(useFirstLeg().dressFor({ colour: '#17646b' }))
    expect(leg.vehicle).toMatchObject({ kind: 'catalogue', artwork: 'seaplane' })
    expect(leg.ink).toMatchObject({ colour: '#17646b', casing: { width: 3.5 }, shadow: { opacity: 0.4 } })
  })

  it('has the vehicle that was used last, but neither what it carried nor a picture of one’s own', async () => {
    const ferry = vehicleSchema.parse({ kind: 'catalogue', artwork: 'ferry', size: 90, carries: { kind: 'flag', size: 30 } })
    useFirstLeg().used(ferry)
    const picture = { image: 'a'.repeat(64), width: 10, height: 10 }
    useFirstLeg().used(vehicleSchema.parse({ kind: 'image', picture }))
    useFirstLeg().used(null)
    await nextTick()
    const { vehicle } = legOf(useFirstLeg().dressFor({ colour: '#17646b' }))
    expect(vehicle).toMatchObject({ artwork: 'ferry', size: 90 })
    expect(vehicle!.carries).toBeUndefined()
  })

  it('has the usual vehicle where what was kept makes no sense', () => {
    for (const kept of ['{', '{"kind":"catalogue","artwork":"dragon"}', 'null']) {
      localStorage.setItem('zephyrine-vehicle', kept)
      expect(legOf(useFirstLeg().dressFor({ colour: '#17646b' })).vehicle).toMatchObject({ artwork: 'seaplane' })
    }
  })
})
