import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { laySideBySide } from '#core/edits/trips/aside'
import { editLeg } from '#core/edits/lines/legs'
import { setLayover } from '#core/edits/pace/pace'
import { addTraveller, editTraveller } from '#core/edits/trips/travellers'
import { insertStop, removeVisit, reverseTrip } from '#core/edits/trips/trips'
import { visitStop } from '#core/edits/trips/visits'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import type { FrameItem, VehicleItem } from '#core/frame/frame'
import { frameAt } from '#core/frame/frame-at'
import { motionAt } from '#core/trips/motion'
import { nearestOnCourse, pointAt } from '#core/geometry/course'
import { distance } from '#core/geometry/point'
import { imagesOf } from '#core/journey/images'
import { parseJourney } from '#core/journey/parse'
import type { Journey, VehicleChange, VehicleChoice } from '#core/journey/schema'
import { carriedSchema, vehicleSchema } from '#core/journey/schema'
import { VEHICLE_IDS } from '#core/vehicles/catalogue'
import { journeyOver, paperPhoto } from '../support/journeys'

const made = (artwork: string, fields: object = {}) => vehicleSchema.parse({ kind: 'catalogue', artwork, ...fields })
const [bus, train, ferry] = [made('bus'), made('train'), made('ferry')]
const line = (vehicle: VehicleChoice | null, changes: VehicleChange[] = []): Journey =>
  editLeg(journeyOver([[100, 500], [1100, 500], [1800, 500]], { vehicle, easing: 'linear' }, 20), 'l1', { changes }) // prettier-ignore
const idsOf = (items: readonly FrameItem[]) =>
  items.flatMap((item) => (item.kind === 'vehicle' && item.vehicle.kind === 'catalogue' ? [[item.vehicle.id, item.opacity] as const] : []))
const vehicleAt = (journey: Journey, share: number) => {
  const compiled = compile(journey, NO_PLACES)
  const { depart, arrive } = compiled.travellers[0]!.legs[0]!
  return idsOf(frameAt(compiled, depart + (arrive - depart) * share).items)
}

describe('a vehicle that takes over on the way', () => {
  const changes: VehicleChange[] = [
    { at: 0.7, vehicle: ferry, how: 'pop' },
    { at: 0.3, vehicle: train, how: 'cut' },
  ]

  it('is there from its mark on, in whichever order the marks are written', () => {
    const journey = line(bus, changes)
    expect(vehicleAt(journey, 0.29)).toEqual([['bus', 1]])
    expect(vehicleAt(journey, 0.31)).toEqual([['train', 1]])
    expect(vehicleAt(journey, 0.69)).toEqual([['train', 1]])
    expect(vehicleAt(journey, 0.95)).toEqual([['ferry', 1]])
    expect(parseJourney(JSON.parse(JSON.stringify(journey)))).toEqual(journey)
  })

  it('fades into the one before it, both at the same spot of the line, and both half there at the mark', () => {
    const journey = line(bus, [{ at: 0.5, vehicle: train, how: 'fade' }])
    const compiled = compile(journey, NO_PLACES)
    const { rides } = compiled.travellers[0]!.legs[0]!
    const { items } = frameAt(compiled, rides[1]!.at)
    const [going, coming] = items.filter((item): item is VehicleItem => item.kind === 'vehicle')
    expect([going!.isGoing, coming!.isGoing]).toEqual([true, false])
    expect(going!.opacity).toBeCloseTo(0.5, 3)
    expect(coming!.opacity).toBeCloseTo(0.5, 3)
    expect(going!.at).toEqual(coming!.at)
    for (const t of [-0.21, 0.21]) expect(idsOf(frameAt(compiled, rides[1]!.at + t).items)).toHaveLength(1)
    let before: number | undefined
    for (let t = -0.3; t < 0.3; t += 0.01) {
      const [first] = idsOf(frameAt(compiled, rides[1]!.at + t).items)
      if (before !== undefined && first![0] === 'bus') expect(Math.abs(first![1] - before)).toBeLessThan(0.1)
      before = first![0] === 'bus' ? first![1] : undefined
    }
  })

  it('may be none: the rest of the way is travelled unseen', () => {
    expect(vehicleAt(line(bus, [{ at: 0.5, vehicle: null, how: 'cut' }]), 0.6)).toEqual([])
  })

  it('goes on over the next leg as one, without turning again, where that has the same one', () => {
    const journey = setLayover(editLeg(line(bus, [{ at: 0.5, vehicle: train, how: 'cut' }]), 'l2', { vehicle: train }), 1, 0, 'traveller')
    const { legs } = compile(journey, NO_PLACES).travellers[0]!
    expect(legs[0]!.rides[1]!.stretch).toBe(legs[1]!.rides[0]!.stretch)
    expect(legs[0]!.run).toBe(legs[1]!.run)
  })

  it('keeps its spot on the way when a stop is put into its leg, and when that is taken out again', () => {
    const journey = line(bus, changes)
    const split = insertStop(journey, 'l1', { x: 600, y: 500 }, { stop: 'new', leg: 'second' })
    const [first, second] = split.travellers[0]!.legs
    expect(first).toMatchObject({ vehicle: { artwork: 'bus' }, changes: [{ vehicle: { artwork: 'train' } }] })
    expect(first!.changes[0]!.at).toBeCloseTo(0.6, 6)
    expect(second).toMatchObject({ vehicle: { artwork: 'train' }, changes: [{ vehicle: { artwork: 'ferry' } }] })
    expect(second!.changes[0]!.at).toBeCloseTo(0.4, 6)
    const [joined] = removeVisit(split, 1, 'traveller').travellers[0]!.legs
    expect(joined!.changes.map(({ at, vehicle }) => [at.toFixed(3), vehicle && 'artwork' in vehicle && vehicle.artwork])).toEqual([
      ['0.300', 'train'],
      ['0.700', 'ferry'],
    ])
  })

  it('of two legs that become one takes over where the first ended', () => {
    const journey = editLeg(line(bus), 'l2', { vehicle: ferry })
    const [joined] = removeVisit(journey, 1, 'traveller').travellers[0]!.legs
    expect(joined).toMatchObject({ vehicle: { artwork: 'bus' }, changes: [{ vehicle: { artwork: 'ferry' } }] })
    expect(joined!.changes[0]!.at).toBeCloseTo(1000 / 1700, 6)
  })

  it('comes in the other order when the trip is turned round, and twice turned it is as before', () => {
    const journey = line(bus, changes)
    const [, leg] = reverseTrip(journey, 'traveller').travellers[0]!.legs
    expect([leg!.vehicle, ...leg!.changes.map(({ vehicle }) => vehicle)]).toEqual([ferry, train, bus])
    expect(leg!.changes.map(({ at }) => at.toFixed(3))).toEqual(['0.300', '0.700'])
    const twice = reverseTrip(reverseTrip(journey, 'traveller'), 'traveller')
    expect(vehicleAt(twice, 0.5)).toEqual(vehicleAt(journey, 0.5))
  })

  it('is not copied to a leg by which the trip goes on', () => {
    const [, , more] = visitStop(editLeg(line(bus), 'l2', { changes, aside: 9 }), 's0', 'l3', 'traveller').travellers[0]!.legs
    expect(more).toMatchObject({ changes: [], aside: 0 })
  })
})

describe('a vehicle that comes, changes and leaves', () => {
  const journey = editLeg(line(bus), 'l2', { vehicle: ferry })
  const seen = (j: Journey, t: number) => {
    const compiled = compile(j, NO_PLACES)
    return motionAt(compiled.travellers[0]!, t, compiled.lastTime)!.vehicles
  }

  it('is there at once, fades in, or pops up with a bounce', () => {
    const entering = (enters: 'none' | 'fade' | 'pop') => (t: number) => seen(editTraveller(journey, 'traveller', { enters }), t)[0]
    expect(entering('none')(0)).toMatchObject({ opacity: 1, scale: 1 })
    expect(entering('fade')(0)).toBeUndefined()
    expect(entering('fade')(0.175)!.opacity).toBeCloseTo(0.5, 6)
    expect(Math.max(...Array.from({ length: 40 }, (_, i) => entering('pop')(i / 100)?.scale ?? 0))).toBeGreaterThan(1.02)
    for (const enters of ['none', 'fade', 'pop'] as const) expect(entering(enters)(0.4)).toMatchObject({ opacity: 1, scale: 1 })
  })

  it('changes at a stop by a fade, one after the other, by a pop, or at once', () => {
    const { arrive, leave } = compile(journey, NO_PLACES).travellers[0]!.visits[1]!
    const middle = (arrive + leave) / 2
    const changing = (changes: 'fade' | 'pop' | 'cut') => (t: number) => seen(editTraveller(journey, 'traveller', { changes }), middle + t)
    expect(changing('fade')(-0.05)[0]!.opacity).toBeLessThan(0.2)
    expect(changing('fade')(0.05)[0]!.opacity).toBeLessThan(0.2)
    expect(changing('cut')(-0.001)[0]).toMatchObject({ vehicle: { id: 'bus' }, opacity: 1 })
    expect(changing('cut')(0.001)[0]).toMatchObject({ vehicle: { id: 'ferry' }, opacity: 1, scale: 1 })
    expect(changing('pop')(-0.001)[0]).toMatchObject({ vehicle: { id: 'bus' }, opacity: 1 })
    expect(changing('pop')(0.05)[0]!.scale).toBeLessThan(0.9)
  })

  it('leaves at the end by a fade, by shrinking, or at once, and in the last frame it is gone', () => {
    const leaving = (leaves: 'fade' | 'shrink' | 'none') => editTraveller(journey, 'traveller', { leaves })
    const { arrive } = compile(journey, NO_PLACES).travellers[0]!.visits[2]!
    expect(seen(leaving('shrink'), arrive + 0.45)[0]!.scale).toBeLessThan(0.9)
    expect(seen(leaving('none'), arrive + 0.45)[0]).toMatchObject({ opacity: 1, scale: 1 })
    for (const leaves of ['fade', 'shrink', 'none'] as const) expect(seen(leaving(leaves), 99)).toEqual([])
    expect(seen(editTraveller(leaving('none'), 'traveller', { atEnd: 'stays' }), 99)).toHaveLength(1)
  })
})

describe('a lively vehicle', () => {
  const on = (vehicle: VehicleChoice) => {
    const compiled = compile(line(vehicle), NO_PLACES)
    const { depart, arrive } = compiled.travellers[0]!.legs[0]!
    return Array.from({ length: 200 }, (_, i) => {
      const t = depart + ((arrive - depart) * i) / 199
      return motionAt(compiled.travellers[0]!, t, compiled.lastTime)!
    })
  }

  it.each(VEHICLE_IDS)('keeps to its line, and is as still as ever where nothing is said: %s', (artwork) => {
    const [still, lively] = [on(made(artwork)), on(made(artwork, { lively: 1 }))]
    still.forEach((motion, i) => {
      expect(motion.vehicles[0]).toMatchObject({ rise: 0, wheels: null })
      expect(lively[i]!.position).toEqual(motion.position)
      expect(Math.abs(lively[i]!.vehicles[0]!.rotation - motion.vehicles[0]!.rotation)).toBeLessThan(0.1)
      expect(Math.abs(lively[i]!.vehicles[0]!.rise)).toBeLessThan(0.04)
    })
  })

  it('bounces on land and begins and ends at rest, rolls on water, and its wheels roll on the road without slipping', () => {
    const rides = on(made('bus', { lively: 1, size: 100 }))
    expect(rides[0]!.vehicles[0]!.rise).toBe(0)
    expect(Math.max(...rides.map(({ vehicles }) => vehicles[0]!.rise))).toBeGreaterThan(0.03)
    expect(rides.at(-2)!.vehicles[0]!.rise).toBeLessThan(0.005)
    // 1000 px in vehicles of 100 px.
    expect(rides.at(-2)!.vehicles[0]!.wheels! / rides.at(-2)!.s).toBeCloseTo(1 / 100, 9)
    expect(new Set(on(made('ferry', { lively: 1 })).map(({ vehicles }) => vehicles[0]!.rotation)).size).toBeGreaterThan(50)
  })
})

describe('what a vehicle carries', () => {
  it('stands on its top, comes and goes with it, and rises with it', () => {
    const plate = carriedSchema.parse({ kind: 'plate', text: 'Ada' })
    const journey = editTraveller(line(made('camper', { carries: plate, size: 100 })), 'traveller', { enters: 'fade' })
    const compiled = compile(journey, NO_PLACES)
    const carried = (t: number) => frameAt(compiled, t).items.find((item) => item.kind === 'carried')
    // The camper van's drawing is 62 hundredths high.
    expect(carried(5)).toMatchObject({ foot: 62, opacity: 1, carried: { text: 'Ada' } })
    expect(carried(0.175)!.opacity).toBeCloseTo(0.5, 6)
    const flying = compile(line(made('airliner', { carries: plate, size: 100, altitude: 1 })), NO_PLACES)
    const { depart, arrive } = flying.travellers[0]!.legs[0]!
    const foot = (share: number) => frameAt(flying, depart + (arrive - depart) * share).items.find((item) => item.kind === 'carried')!.foot
    expect(foot(0.5)).toBeGreaterThan(1.2 * foot(0.01))
  })

  it('is among the images that a journey needs, as are the vehicles that take over', () => {
    const own = vehicleSchema.parse({ kind: 'image', picture: paperPhoto })
    const journey = line(made('bus', { carries: { kind: 'picture', picture: paperPhoto } }), [{ at: 0.5, vehicle: own, how: 'cut' }])
    expect(imagesOf(journey).map(({ missing }) => missing)).toEqual([
      'A picture that a vehicle carries is not here: choose it again.',
      'The picture of a vehicle is not here: choose it again.',
      'A picture that a vehicle carries is not here: choose it again.',
    ])
  })
})

describe('legs side by side', () => {
  it('run as far aside as asked, from stop to stop, whatever their course, and their vehicle with them', () => {
    fc.assert(
      fc.property(fc.double({ min: -60, max: 60, noNaN: true }), fc.double({ min: -0.6, max: 0.6, noNaN: true }), (aside, bow) => {
        fc.pre(Math.abs(aside) > 1)
        const plain = editLeg(line(bus), 'l1', { course: { kind: 'bowed', bow } })
        const [was, now] = [plain, editLeg(plain, 'l1', { aside })].map((j) => compile(j, NO_PLACES))
        const [old, course] = [was!, now!].map(({ travellers }) => travellers[0]!.legs[0]!.course)
        for (const end of [0, 1])
          expect(distance(pointAt(course!, end * course!.length), pointAt(old!, end * old!.length))).toBeLessThan(1e-6)
        const middle = pointAt(course!, course!.length / 2)
        const zoom = now!.travellers[0]!.legs[0]!.patternZoom
        expect(nearestOnCourse(old!, middle).distance * zoom).toBeCloseTo(Math.abs(aside), 0)
        for (let t = 0; t < now!.lastTime; t += 0.37) {
          const frame = frameAt(now!, t)
          const motion = frame.motions[0]!
          expect(nearestOnCourse(now!.travellers[0]!.legs[motion.leg]!.course, motion.position).distance).toBeLessThan(1e-6)
        }
      }),
      { numRuns: 25 },
    )
  })

  it('to the right of a leg that leads to the right is below it', () => {
    const { course } = compile(editLeg(line(bus), 'l1', { aside: 20 }), NO_PLACES).travellers[0]!.legs[0]!
    expect(pointAt(course, course.length / 2).y).toBeCloseTo(520, 1)
  })

  it('are told apart by one command: out and back on the two sides, several travellers beside each other, others left alone', () => {
    const back = visitStop(visitStop(line(bus), 's1', 'back', 'traveller'), 's0', 'home', 'traveller')
    const two = addTraveller(back, 'ada')
    const shared = visitStop(visitStop(two, 's0', 'x', 'ada'), 's1', 'ada-1', 'ada')
    const laid = laySideBySide(shared, 'l1')
    const courses = new Map(
      compile(laid, NO_PLACES).travellers.flatMap(({ legs }) =>
        legs.map(({ leg, course }) => [leg.id, pointAt(course, course.length / 2).y] as const),
      ),
    )
    const ys = ['l1', 'home', 'ada-1'].map((id) => courses.get(id)!)
    expect(new Set(ys.map((y) => y.toFixed(0))).size).toBe(3)
    // The line's width and some air between them.
    const sorted = [...ys].sort((a, b) => a - b)
    for (const i of [1, 2]) expect(sorted[i]! - sorted[i - 1]!).toBeGreaterThan(12)
    expect(courses.get('l2')).toBeCloseTo(500, 6)
    expect(() => parseJourney(JSON.parse(JSON.stringify(laid)))).not.toThrow()
  })
})
