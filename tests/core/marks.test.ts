import { describe, expect, it } from 'vitest'
import { circleAt, labelStart, pinAppearanceAt } from '#core/marks/pins'
import { headingAt, leanOf, poseOf } from '#core/trips/heading'
import { degrees, radians } from '#core/geometry/angle'
import { courseOf } from '#core/geometry/course'
import { lineCubic } from '#core/geometry/cubic'
import { compile } from '#core/frame/compile'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { frameAt } from '#core/frame/frame-at'
import { setLayover } from '#core/edits/pace/pace'
import { pinSchema } from '#core/journey/schema'
import { artworkOf, VEHICLE_IDS } from '#core/vehicles/catalogue'
import { journeyOver } from '../support/journeys'

describe('appearance of pins and labels', () => {
  it('begins 0.2 s before arrival, overshoots and settles within 0.4 s', () => {
    expect(pinAppearanceAt(4.79, 5, 20)).toBeUndefined()
    const scales = Array.from({ length: 40 }, (_, i) => pinAppearanceAt(4.81 + i * 0.01, 5, 20)!.scale)
    expect(scales[0]).toBeLessThan(0.3)
    expect(Math.max(...scales)).toBeGreaterThan(1.08)
    expect(pinAppearanceAt(5.2, 5, 20)).toEqual({ scale: 1, opacity: 1, raised: 0 })
  })

  it('lets the label follow the pin', () => {
    expect(labelStart(5, 0, 0.4, 20)).toBeCloseTo(4.92, 9)
    // It is whole in the last frame, however long it takes.
    expect(labelStart(19.9, 0, 1.6, 20)).toBeCloseTo(18.4, 9)
    expect(labelStart(0, 0, 0.4, 20)).toBe(0)
  })

  it('is brought forward where the film ends too soon, and never begins before it', () => {
    expect(pinAppearanceAt(9.9, 9.9, 9.9)).toEqual({ scale: 1, opacity: 1, raised: 0 })
    expect(pinAppearanceAt(0, 0, 20)).toBeUndefined()
    expect(pinAppearanceAt(0.4, 0, 20)).toEqual({ scale: 1, opacity: 1, raised: 0 })
  })
})

describe('a pin', () => {
  it('is faint before it is reached, or there from the start, where that is asked', () => {
    const faint = (t: number) => pinAppearanceAt(t, 5, 20, { before: 'faint', delay: 0, comes: 'pop' })
    expect(faint(0)).toEqual({ scale: 0.85, opacity: 0.4, raised: 0 })
    expect(faint(4.9)!.opacity).toBeGreaterThan(0.4)
    expect(faint(6)).toEqual({ scale: 1, opacity: 1, raised: 0 })
    expect(pinAppearanceAt(0, 5, 20, { before: 'shown', delay: 0, comes: 'pop' })).toEqual({ scale: 1, opacity: 1, raised: 0 })
  })

  it('comes later, or earlier, by its delay, and its name with it', () => {
    for (const delay of [2, -2]) {
      expect(pinAppearanceAt(5.1 + delay, 5, 20, { before: 'hidden', delay, comes: 'pop' })).toEqual(pinAppearanceAt(5.1, 5, 20))
      expect(labelStart(5, delay, 0.4, 20)).toBeCloseTo(4.92 + delay, 9)
    }
  })

  it('has its number in the order of arrival', () => {
    let journey = journeyOver([[100, 100], [900, 100], [900, 900]]) // prettier-ignore
    for (const { id } of journey.stops) journey = editStop(journey, id, { pin: { shape: 'drop', inside: { kind: 'number' } } })
    const inside = frameAt(compile(journey), 99).items.flatMap((item) => (item.kind === 'pin' ? [[item.stop, item.inside]] : []))
    expect(inside).toEqual([['s0', '1'], ['s1', '2'], ['s2', '3']]) // prettier-ignore
  })
})

describe('a circle round a pin', () => {
  it('runs outwards and is gone, or stays once it has settled or been drawn', () => {
    const at = (kind: 'pulse' | 'settling' | 'by-hand', t: number) => circleAt(pinSchema.parse({ circle: { kind } }).circle!, t, 5, 20, 0)
    expect(at('pulse', 5)).toBeUndefined()
    expect(at('pulse', 5.2)!.scale).toBeLessThan(at('pulse', 6)!.scale)
    expect(at('pulse', 5.2)!.opacity).toBeGreaterThan(at('pulse', 6)!.opacity)
    expect(at('pulse', 6.4)).toBeUndefined()
    expect(Math.max(...Array.from({ length: 70 }, (_, i) => at('settling', 5.01 + i / 100)!.scale))).toBeGreaterThan(1.05)
    expect(at('settling', 9)).toEqual({ scale: 1, opacity: 1, drawn: 1 })
    expect(at('by-hand', 5.4)!.drawn).toBeCloseTo(0.5, 6)
    expect(at('by-hand', 9)).toEqual({ scale: 1, opacity: 1, drawn: 1 })
  })

  it('is whole in the last frame even where the film ends with the arrival', () => {
    expect(circleAt(pinSchema.parse({ circle: { kind: 'settling' } }).circle!, 10, 10, 10, 0)).toEqual({ scale: 1, opacity: 1, drawn: 1 })
  })
})

describe('heading over a run', () => {
  it('is 0 on a course without length', () => {
    expect(headingAt({ course: courseOf([lineCubic({ x: 1, y: 1 }, { x: 1, y: 1 })]) }, 0, 50)).toBe(0)
  })

  it('turns a vehicle seen from the side round once where a hairpin goes back, and back again where it returns', () => {
    const hairpin = journeyOver(
      [
        [0, 0],
        [0, 600],
        [0, 1200],
      ],
      { vehicle: { kind: 'catalogue', artwork: 'bus', colour: '#d8412f', size: 40 } },
    )
    const bowed = hairpin.travellers[0]!.legs.reduce(
      (j, { id }, i) => editLeg(j, id, { course: { kind: 'bowed', bow: i === 0 ? 1 : -1 } }),
      hairpin,
    )
    const [traveller] = compile(setLayover(bowed, 1, 0, 'traveller')).travellers
    const facing = (leg: number, share: number) => {
      const { depart, arrive, rides } = traveller!.legs[leg]!
      return rides[0]!.stretch.left(depart + (arrive - depart) * share)
    }
    const [first, middle, last] = [facing(0, 0.1), facing(1, 0.01), facing(1, 0.9)]
    expect([middle, last]).toEqual([!first, first])
  })
})

describe('pose of an artwork', () => {
  it('seen from the side is never upside down, whatever the heading', () => {
    const bus = artworkOf('bus')
    for (let angle = -180; angle <= 180; angle += 5) {
      const left = Math.abs(angle) > 90
      const { rotation, mirrored } = poseOf(bus, radians(angle), left, leanOf(radians(angle), left))
      expect(Math.abs(degrees(rotation))).toBeLessThanOrEqual(12 + 1e-9)
      expect(mirrored).toBe(left)
    }
  })

  it('leans the nose up when it climbs, to either side', () => {
    const bus = artworkOf('bus')
    // Mirrored pictures are turned after mirroring: clockwise lifts a nose that points left.
    expect(degrees(poseOf(bus, radians(-9), false, leanOf(radians(-9), false)).rotation)).toBeCloseTo(-9, 9)
    expect(degrees(poseOf(bus, radians(-171), true, leanOf(radians(-171), true)).rotation)).toBeCloseTo(9, 9)
  })
})

describe('the vehicles', () => {
  it('are at least ten, each with a name of its own, a view, a facing and an ink that ends under it', () => {
    expect(VEHICLE_IDS.length).toBeGreaterThanOrEqual(10)
    expect(new Set(VEHICLE_IDS.map((id) => artworkOf(id).name)).size).toBe(VEHICLE_IDS.length)
    for (const id of VEHICLE_IDS) {
      const { view, facing, inkBehind, shapes } = artworkOf(id)
      expect(['above', 'side', 'upright']).toContain(view)
      expect(Math.abs(facing)).toBeLessThanOrEqual(180)
      expect(inkBehind).toBeGreaterThanOrEqual(0)
      expect(inkBehind).toBeLessThan(0.5)
      expect(shapes.some((shape) => shape.fill === 'body' || shape.stroke === 'body')).toBe(true)
    }
  })
})
