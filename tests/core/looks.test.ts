import { describe, expect, it } from 'vitest'
import { JOURNEY_LOOKS } from '#core/dress/looks'
import { editLeg } from '#core/edits/lines/legs'
import { dressJourney } from '#core/edits/looks'
import { editStop } from '#core/edits/marks/stops'
import { addCaption } from '#core/edits/marks/captions'
import { compile } from '#core/frame/compile'
import { leanOf } from '#core/trips/heading'
import { motionAt } from '#core/trips/motion'
import { degrees } from '#core/geometry/angle'
import { parseJourney } from '#core/journey/parse'
import { vehicleSchema } from '#core/journey/schema'
import { resolveVehicle } from '#core/dress/vehicle'
import { VEHICLE_IDS } from '#core/vehicles/catalogue'
import { palette } from '#draw/colour'
import { demo, journeyOver } from '../support/journeys'

describe('a look of the whole journey', () => {
  it('is one of at least fourteen, no two alike', () => {
    expect(JOURNEY_LOOKS.length).toBeGreaterThanOrEqual(14)
    expect(new Set(JOURNEY_LOOKS.map(({ id }) => id)).size).toBe(JOURNEY_LOOKS.length)
    const dressed = JOURNEY_LOOKS.map((look) => JSON.stringify(dressJourney(demo(), look)))
    expect(new Set(dressed).size).toBe(dressed.length)
  })

  it.each(JOURNEY_LOOKS)('“$name” changes only how things look, and leaves a valid journey', (look) => {
    let before = addCaption({ ...demo(), captions: [] }, 'title', { kind: 'title', text: 'The Isles', second: '' })
    before = editStop(before, 'lampwick', { pin: { shape: 'none' }, label: { second: { kind: 'note', text: 'two nights' } } })
    before = editLeg(before, 'seaplane', { ink: { line: { kind: 'hidden' } } })
    const after = dressJourney(before, look)
    expect(parseJourney(JSON.parse(JSON.stringify(after)))).toEqual(after)
    expect(after.stops.map(({ name, at, label }) => [name, at, label.place, label.second, label.style.size])).toEqual(
      before.stops.map(({ name, at, label }) => [name, at, label.place, label.second, label.style.size]),
    )
    expect(after.stops.map(({ pin }) => [pin.size, pin.shape === 'none'])).toEqual(
      before.stops.map(({ pin }) => [pin.size, pin.shape === 'none']),
    )
    expect(after.travellers[0]!.visits).toBe(before.travellers[0]!.visits)
    const [old, legs] = [before.travellers[0]!.legs, after.travellers[0]!.legs]
    expect(legs.map(({ course, travel, easing, vehicle }) => [course, travel, easing, vehicle?.size])).toEqual(
      old.map(({ course, travel, easing, vehicle }) => [course, travel, easing, vehicle?.size]),
    )
    expect(legs.map(({ ink }) => ink.line.kind === 'hidden')).toEqual(old.map(({ ink }) => ink.line.kind === 'hidden'))
    expect(after.captions[0]).toMatchObject({ content: before.captions[0]!.content, corner: before.captions[0]!.corner })
    expect(dressJourney(after, look)).toEqual(after)
  })
})

describe('a vehicle', () => {
  it('is one of at least 28, and has two views among them', () => {
    expect(VEHICLE_IDS.length).toBeGreaterThanOrEqual(28)
    const views = VEHICLE_IDS.map((artwork) => resolveVehicle(vehicleSchema.parse({ kind: 'catalogue', artwork })).posture.view)
    for (const view of ['above', 'side'] as const) expect(views.filter((each) => each === view).length).toBeGreaterThanOrEqual(8)
  })

  it('leans as far as it is set to', () => {
    const leanAt = (lean?: number) =>
      degrees(leanOf(1.2, false, resolveVehicle(vehicleSchema.parse({ kind: 'catalogue', artwork: 'bus', lean })).posture.mostLean))
    expect([leanAt(), leanAt(10), leanAt(0)].map((value) => Math.round(value))).toEqual([12, 10, 0])
  })

  it('rises as high as it is set to, half-way the most', () => {
    const highest = (altitude?: number) => {
      const vehicle = vehicleSchema.parse({ kind: 'catalogue', artwork: 'airliner', altitude })
      const compiled = compile(journeyOver([[0, 500], [1900, 500]], { vehicle, easing: 'linear' })) // prettier-ignore
      const { depart, arrive } = compiled.travellers[0]!.legs[0]!
      return motionAt(compiled.travellers[0]!, (depart + arrive) / 2, compiled.lastTime)!.vehicles[0]!.altitude
    }
    expect(highest()).toBeCloseTo(1, 9)
    expect(highest(1.6)).toBeCloseTo(1.6, 9)
    expect(highest(0)).toBe(0)
  })

  it('has its light and dark parts in colours of their own where these are set', () => {
    expect(palette({ body: '#d8412f', second: '#ffeeaa', third: '#112233' })).toMatchObject({
      body: '#d8412f',
      paper: '#ffeeaa',
      shade: '#112233',
    })
    expect(palette({ body: '#d8412f' }).paper).toBe('#fdf8ec')
  })
})
