/** Sparks and dust: as many as is set, as long as is set, the same at every time however it is come to, and none while nothing has been left behind. */
import { describe, expect, it } from 'vitest'
import { editLeg } from '#core/edits/lines/legs'
import { compile } from '#core/frame/compile'
import type { ParticlesItem } from '#core/frame/frame'
import { frameAt } from '#core/frame/frame-at'
import { distance } from '#core/geometry/point'
import { particlesSchema } from '#core/journey/schema'
import { NO_PLACES } from '#core/labels/label-scene'
import { journeyOver } from '../support/journeys'

const dusty = (input: Parameters<typeof particlesSchema.parse>[0]) =>
  compile(
    journeyOver([[200, 300], [1500, 300], [1500, 900]], { easing: 'linear', ink: { particles: particlesSchema.parse(input) } }), // prettier-ignore
    NO_PLACES,
  )
const at = (compiled: ReturnType<typeof dusty>, t: number) =>
  frameAt(compiled, t).items.filter((item): item is ParticlesItem => item.kind === 'particles')
const compiled = dusty({ perSecond: 50, life: 1, drift: 40, size: 8 })
const [first] = compiled.travellers[0]!.legs
const middle = (first!.depart + first!.arrive) / 2

describe('particles', () => {
  it('are left behind where the vehicle was, live no longer, and drift and grow no further than is set', () => {
    const [item] = at(compiled, middle)
    // Fifty a second, of which each lives 0.55 to 1 s: 0.775 in the mean.
    expect(item!.seen.length).toBeGreaterThan(30)
    expect(item!.seen.length).toBeLessThanOrEqual(50)
    const vehicle = frameAt(compiled, middle).motions[0]!.position
    const speed = first!.course.length / (first!.arrive - first!.depart)
    for (const { at: left, x, y, radius, opacity } of item!.seen) {
      const since = distance(left, vehicle) / speed
      expect(since).toBeLessThanOrEqual(1 + 1e-6)
      expect(left.y).toBeCloseTo(300, 6)
      expect(Math.hypot(x, y)).toBeLessThanOrEqual(40 * since + 1e-9)
      expect(radius).toBeLessThanOrEqual(4)
      expect(opacity).toBeGreaterThanOrEqual(0)
      expect(opacity).toBeLessThanOrEqual(1)
    }
    // To all sides.
    const sides = new Set(item!.seen.map(({ x, y }) => Math.floor((Math.atan2(y, x) / Math.PI + 1) * 2)))
    expect(sides.size).toBeGreaterThanOrEqual(4)
  })

  it('are the same at a time whatever was shown before, each goes on smoothly, and no two legs have the same', () => {
    expect(at(compiled, middle)).toEqual(at(dusty({ perSecond: 50, life: 1, drift: 40, size: 8 }), middle))
    const places = (t: number) => new Map(at(compiled, t)[0]!.seen.map((of) => [`${of.at.x.toFixed(6)}`, of]))
    const [now, next] = [places(middle), places(middle + 1 / 60)]
    let known = 0
    for (const [key, { x, y }] of next) {
      const before = now.get(key)
      if (!before) continue
      known++
      expect(Math.hypot(x - before.x, y - before.y)).toBeLessThan(40 / 60 + 1e-6)
    }
    expect(known).toBeGreaterThan(25)
    const angles = (t: number) => at(compiled, t)[0]!.seen.slice(0, 5).map(({ x, y }) => Math.atan2(y, x)) // prettier-ignore
    const second = compiled.travellers[0]!.legs[1]!
    expect(angles(first!.depart + 0.5)).not.toEqual(angles(second.depart + 0.5))
  })

  it('are none before departure, and none once the last has lived after arrival', () => {
    expect(at(compiled, first!.depart - 0.01)).toEqual([])
    const { arrive } = compiled.travellers[0]!.visits.at(-1)!
    const longer = compile({ ...compiled.journey, seconds: 14 }, NO_PLACES)
    const end = longer.travellers[0]!.visits.at(-1)!.arrive
    expect(arrive).toBeLessThan(14)
    expect(at(longer, end + 0.2).length).toBeGreaterThan(0)
    expect(at(longer, end + 1.01)).toEqual([])
  })

  it('rise and fall, and belong to a line that is not shown, too', () => {
    const mean = (rise: number) => {
      const { seen } = at(dusty({ drift: 0, rise }), middle)[0]!
      return seen.reduce((sum, { y }) => sum + y, 0) / seen.length
    }
    expect(mean(100)).toBeLessThan(-15)
    expect(mean(-100)).toBeGreaterThan(15)
    const hidden = compile(editLeg(compiled.journey, first!.leg.id, { ink: { line: { kind: 'hidden' } } }), NO_PLACES)
    expect(at(hidden, middle)).toHaveLength(1)
  })
})
