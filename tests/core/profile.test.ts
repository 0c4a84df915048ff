/** How legs are travelled: natural pace, cruising, marks, and passing through stops. */
import { Bezier } from 'bezier-js'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { editLeg } from '#core/edits/lines/legs'
import { setLayover } from '#core/edits/pace/pace'
import { compile } from '#core/frame/compile'
import { lengthAt } from '#core/trips/compiled'
import { courseOf, polylineCourse } from '#core/geometry/course'
import type { Easing, Journey, PaceMark } from '#core/journey/schema'
import { frameTime } from '#core/pace/rate'
import { EVEN, effortOf, effortOver, legProgress, ramps } from '#core/pace/profile'
import { journeyOver } from '../support/journeys'

/** Ground units travelled from frame to frame by the first traveller, over the film. */
function stepsOf(journey: Journey): number[] {
  const compiled = compile(journey)
  const { legs } = compiled.travellers[0]!
  const at = (t: number) => legs.reduce((sum, leg) => sum + lengthAt(leg, t), 0)
  const times = Array.from({ length: compiled.frames }, (_, k) => frameTime(k, journey.frame.rate))
  return times.slice(1).map((t, k) => at(t) - at(times[k]!))
}

const easings = fc.oneof(
  fc.constantFrom<Easing>('gentle', { kind: 'natural', bends: 0 }),
  fc.record({ kind: fc.constant('cruise' as const), accelerate: fc.double({ min: 0.05, max: 3, noNaN: true }), brake: fc.double({ min: 0.05, max: 3, noNaN: true }) }), // prettier-ignore
)

describe('passing through a stop', () => {
  it('is done at one speed: no jump over 1 % from frame to frame', () => {
    fc.assert(
      fc.property(easings, easings, fc.integer({ min: 200, max: 1500 }), (before, after, far) => {
        let journey = journeyOver([[0, 0], [800, 0], [800 + far, 0]], {}, 30) // prettier-ignore
        journey = setLayover(editLeg(editLeg(journey, 'l1', { easing: before }), 'l2', { easing: after }), 1, 0, 'traveller')
        const { legs } = compile(journey).travellers[0]!
        const at = (t: number) => lengthAt(legs[0]!, t) + lengthAt(legs[1]!, t)
        const moment = legs[0]!.arrive
        // The speeds just before and just after, a thousandth of a frame away.
        const step = 1 / 30_000
        const speeds = [at(moment) - at(moment - step), at(moment + step) - at(moment)]
        expect(speeds[0]!).toBeGreaterThan(0)
        expect(Math.abs(speeds[1]! / speeds[0]! - 1)).toBeLessThan(0.01)
      }),
      { numRuns: 150 },
    )
  })

  it('next to a curve with a speed of its own takes that speed', () => {
    let journey = journeyOver([[0, 0], [600, 0], [1500, 0]], {}, 20) // prettier-ignore
    journey = setLayover(editLeg(journey, 'l1', { easing: 'linear' }), 1, 0, 'traveller')
    const steps = stepsOf(journey)
    const { legs } = compile(journey).travellers[0]!
    const k = Math.round(legs[0]!.arrive * 30)
    expect(steps[k]! / steps[k - 1]!).toBeCloseTo(1, 1)
  })

  it('never goes back, however the neighbours are', () => {
    fc.assert(
      fc.property(
        fc.array(easings, { minLength: 4, maxLength: 4 }),
        fc.array(fc.integer({ min: 20, max: 3000 }), { minLength: 4, maxLength: 4 }),
        (list, gaps) => {
          const xs = gaps.reduce<number[]>((all, gap) => [...all, all.at(-1)! + gap], [0])
          let journey = journeyOver(xs.map((x) => [x, 0] as const), {}, 20) // prettier-ignore
          list.forEach((easing, i) => (journey = editLeg(journey, `l${i + 1}`, { easing })))
          for (const i of [1, 2, 3]) journey = setLayover(journey, i, 0, 'traveller')
          for (const step of stepsOf(journey)) expect(step).toBeGreaterThan(-1e-6)
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('a natural pace', () => {
  // Two bends, the second sharper; the curvature is that of bezier-js.
  const cubics = [
    [0, 0, 300, 0, 500, 80, 700, 200],
    [700, 200, 1000, 380, 1180, 500, 1160, 620],
    [1160, 620, 1140, 740, 1500, 700, 2100, 700],
  ] as const
  const course = courseOf(cubics.map(([a, b, c, d, e, f, g, h]) => [{ x: a, y: b }, { x: c, y: d }, { x: e, y: f }, { x: g, y: h }])) // prettier-ignore

  it('is slowest where the course bends most', () => {
    let [most, at, before] = [0, 0, 0]
    for (const points of cubics) {
      const bezier = new Bezier([...points]) as Bezier & { curvature(t: number): { k: number } }
      for (let t = 0.02; t <= 0.98; t += 0.002) {
        const { k } = bezier.curvature(t)
        if (Math.abs(k) > most) [most, at] = [Math.abs(k), before + bezier.split(0, t).length()]
      }
      before += bezier.length()
    }
    const pace = { easing: { kind: 'ramps' as const, accelerate: 0.5, brake: 0.5 }, effort: effortOver(course, 1, []), waits: [] }
    const progress = legProgress(pace, 10, 0, 0)
    let [slowest, where] = [Infinity, 0]
    for (let u = 0.1; u <= 0.9; u += 0.001) {
      const speed = progress(u + 0.001) - progress(u)
      if (speed < slowest) [slowest, where] = [speed, progress(u + 0.0005)]
    }
    expect(Math.abs(where - at / course.length)).toBeLessThan(0.02)
    // A radius of a twentieth of the length halves the speed, by the definition; this bend is about so sharp.
    const radius = 1 / most
    const expected = 1 / (1 + course.length / 20 / radius)
    const straight = progress(0.85) - progress(0.849)
    expect(slowest / straight).toBeGreaterThan(expected * 0.75)
    expect(slowest / straight).toBeLessThan(1.5 * expected)
  })

  it('of a straight course is even between its ends', () => {
    expect(effortOver(polylineCourse(Float64Array.of(0, 0, 50, 0, 100, 0)), 2, []).toShare(0.3)).toBeCloseTo(0.3, 6)
    expect(effortOver(polylineCourse(Float64Array.of(5, 5, 5, 5)), 2, [])).toBe(EVEN)
  })
})

describe('a cruise', () => {
  it('reaches its speed in the time that is set, holds it, and brakes', () => {
    // 2 s to reach it and 1 s to lose it, of 10 s: the speed is 1 / (10 - 1 - 0.5) of the way a second.
    const progress = ramps(0.2, 0.1, 0, 0)
    const speed = (u: number) => (progress(u + 1e-5) - progress(u - 1e-5)) / 2e-5
    for (const u of [0.2, 0.5, 0.9]) expect(speed(u)).toBeCloseTo(1 / 0.85, 4)
    expect(speed(0.1)).toBeCloseTo(0.5 / 0.85, 4)
    expect(speed(0.95)).toBeCloseTo(0.5 / 0.85, 4)
    expect([progress(0), progress(1)]).toEqual([0, 1])
    // Longer than the leg, both are shortened alike.
    expect(ramps(3, 1, 0, 0)(0.75)).toBeCloseTo(0.75, 9)
  })
})

describe('marks on the way', () => {
  const straight = (paceMarks: PaceMark[], easing: Easing = 'linear') => {
    const journey = editLeg(journeyOver([[0, 0], [1000, 0]], {}, 12), 'l1', { easing, travel: 10, paceMarks }) // prettier-ignore
    const leg = compile(journey).travellers[0]!.legs[0]!
    return (t: number) => lengthAt(leg, leg.depart + t)
  }

  it('change the speed from there on, by so many times', () => {
    const at = straight([{ kind: 'speed', at: 0.5, factor: 3 }])
    expect(at(10)).toBe(1000)
    expect((at(9) - at(8.5)) / (at(1) - at(0.5))).toBeCloseTo(3, 2)
    const back = straight([{ kind: 'speed', at: 0.3, factor: 0.5 }, { kind: 'speed', at: 0.6, factor: 1 }]) // prettier-ignore
    expect((back(9.5) - back(9)) / (back(1) - back(0.5))).toBeCloseTo(1, 2)
  })

  it('rest there as long as they say, exactly at their spot', () => {
    const at = straight([{ kind: 'wait', at: 0.25, seconds: 4 }])
    // The 6 s of moving are shared by length: 1.5 s to the spot.
    expect(at(1.5)).toBeCloseTo(250, 6)
    expect(at(5.49)).toBeCloseTo(250, 6)
    expect(at(8.5)).toBeCloseTo(250 + 750 * (3 / 4.5), 4)
    // Softly to it and away from it, where the leg is travelled softly.
    const soft = straight([{ kind: 'wait', at: 0.25, seconds: 4 }], 'gentle')
    expect(soft(1.5) - soft(1.45)).toBeLessThan(2)
    // There is always some time to move in.
    expect(straight([{ kind: 'wait', at: 0.5, seconds: 60 }])(10)).toBe(1000)
  })

  it('give an automatic leg its rest on top of its share', () => {
    const trip = journeyOver([[0, 0], [500, 0], [1000, 0]], {}, 20) // prettier-ignore
    const takes = (journey: Journey) => compile(journey).travellers[0]!.legs.map(({ depart, arrive }) => arrive - depart)
    const [first, second] = takes(editLeg(trip, 'l1', { paceMarks: [{ kind: 'wait', at: 0.5, seconds: 3 }] }))
    expect(first! - second!).toBeCloseTo(3, 1)
  })

  it('also hold over a recorded pace', () => {
    const { toShare, atShare } = effortOf(Float64Array.of(0, 50, 100), Float64Array.of(0, 90, 100))
    expect([0, 0.45, 0.9, 0.95, 1].map(toShare)).toEqual([0, 0.25, 0.5, 0.75, 1])
    expect([0, 0.25, 0.5, 0.75, 1].map(atShare)).toEqual([0, 0.45, 0.9, 0.95, 1])
  })
})
