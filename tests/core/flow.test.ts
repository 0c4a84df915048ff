/** Views that the camera passes without a stop: at their times, smoothly to the second derivative, and no further than they are. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { flowThrough } from '#core/camera/flow'
import type { View } from '#core/camera/view'
import { referenceSize } from '#core/camera/view'
import type { PlacedShot, ViewTrack } from '#core/camera/view-track'
import { isMovingAt, viewAt } from '#core/camera/view-track'
import { compile } from '#core/frame/compile'
import type { Journey, Shot } from '#core/journey/schema'
import { shotSchema } from '#core/journey/schema'
import { NO_PLACES } from '#core/labels/label-scene'
import { journeyOver } from '../support/journeys'

const reference = referenceSize({ width: 1920, height: 1080 })

const view = fc.record({
  centre: fc.record({ x: fc.double({ min: 0, max: 4000, noNaN: true }), y: fc.double({ min: 0, max: 3000, noNaN: true }) }),
  zoom: fc.double({ min: -2, max: 2, noNaN: true }).map((octaves) => 2 ** octaves),
  bearing: fc.double({ min: -179, max: 179, noNaN: true }),
  pitch: fc.double({ min: 0, max: 60, noNaN: true }),
})
/** Views with the seconds between them. */
const ways = fc.array(fc.tuple(view, fc.double({ min: 0.8, max: 4, noNaN: true })), { minLength: 3, maxLength: 6 }).map((list) => {
  let time = 1
  return list.map(([of, gap]) => ({ time: (time += gap), view: of as View }))
})

const turned = (a: number, b: number) => Math.abs(((((b - a + 180) % 360) + 360) % 360) - 180)

describe('a way through several views', () => {
  it('is at each of them at its time, rests before the first and after the last', () => {
    fc.assert(
      fc.property(ways, (keys) => {
        const at = flowThrough(keys, reference)
        expect(at(keys[0]!.time - 1)).toBe(keys[0]!.view)
        expect(at(keys.at(-1)!.time + 1)).toBe(keys.at(-1)!.view)
        for (const { time, view: of } of keys) {
          const seen = at(time)
          // Less than a pixel of the frame's 1080.
          expect(Math.hypot(seen.centre.x - of.centre.x, seen.centre.y - of.centre.y) * of.zoom).toBeLessThan(1)
          expect(Math.abs(Math.log2(seen.zoom / of.zoom))).toBeLessThan(0.002)
          expect(turned(seen.bearing, of.bearing)).toBeLessThan(0.05)
          expect(Math.abs(seen.pitch - of.pitch)).toBeLessThan(0.05)
        }
      }),
      { numRuns: 60 },
    )
  })

  it('has no jump in its velocity or its acceleration', () => {
    fc.assert(
      fc.property(ways, (keys) => {
        const at = flowThrough(keys, reference)
        const dt = 1 / 480
        const from = keys[0]!.time - 0.5
        const count = Math.ceil((keys.at(-1)!.time + 0.5 - from) / dt)
        const views = Array.from({ length: count }, (_, i) => at(from + i * dt))
        // The bearing as it runs on.
        let bearing = views[0]!.bearing
        const bearings = views.map((of) => (bearing += ((((of.bearing - bearing + 180) % 360) + 360) % 360) - 180))
        for (const values of [
          views.map(({ centre }) => centre.x),
          views.map(({ centre }) => centre.y),
          views.map(({ zoom }) => Math.log2(zoom)),
          bearings,
          views.map(({ pitch }) => pitch),
        ]) {
          const accelerations = values.slice(2).map((v, i) => (v - 2 * values[i + 1]! + values[i]!) / dt ** 2)
          // Against 1e-3 at least (px, octaves or degrees by s²): below it the rounding of the differences themselves is counted, 1e-7 of it.
          const most = Math.max(...accelerations.map(Math.abs), 1e-3)
          const jumps = accelerations.slice(1).map((a, i) => Math.abs(a - accelerations[i]!))
          // A jump of the velocity would be one acceleration much above all others, and differ from the next by nearly all of it.
          expect(Math.max(...jumps) / most).toBeLessThan(0.12)
        }
      }),
      { numRuns: 40 },
    )
  })

  it('goes no closer, and turns and tilts no further, than its views', () => {
    fc.assert(
      fc.property(ways, (keys) => {
        const at = flowThrough(keys, reference)
        const pitches = keys.map(({ view: { pitch } }) => pitch)
        const closest = Math.max(...keys.map(({ view: { zoom } }) => Math.log2(zoom)))
        for (let time = keys[0]!.time; time < keys.at(-1)!.time; time += 0.02) {
          const { zoom, pitch } = at(time)
          expect(Math.log2(zoom)).toBeLessThan(closest + 0.01)
          expect(pitch).toBeGreaterThan(Math.min(...pitches) - 1e-6)
          expect(pitch).toBeLessThan(Math.max(...pitches) + 1e-6)
        }
      }),
      { numRuns: 40 },
    )
  })

  it('does not slow down at a view that lies on its way', () => {
    const straight = [0, 1, 2, 3].map((i) => ({ time: 2 * i, view: { centre: { x: 400 * i, y: 0 }, zoom: 1, bearing: 0, pitch: 0 } }))
    const at = flowThrough(straight, reference)
    const speedAt = (time: number) => (at(time + 0.01).centre.x - at(time - 0.01).centre.x) / 0.02
    // 200 px a second, somewhat more where the ends are drawn in.
    for (const time of [2, 4]) expect(speedAt(time)).toBeGreaterThan(180)
    expect(speedAt(0.001)).toBeLessThan(2)
  })
})

describe('free shots that are passed', () => {
  const free = (id: string, offset: number, x: number, zoom: number, passes = true, transition = 1.5): Shot =>
    shotSchema.parse({
      kind: 'free',
      id,
      at: { at: 'start', offset },
      transition,
      passes,
      view: { centre: { x, y: 540 }, zoom, bearing: x / 100, pitch: 0 },
    })
  const over = (...shots: Shot[]): Journey => ({
    ...journeyOver([
      [200, 540],
      [1700, 540],
    ]),
    shots,
  })
  const compiled = (...shots: Shot[]) => compile(over(...shots), NO_PLACES)
  const two = [free('a', 1, 800, 2), free('b', 4, 1400, 1), free('c', 7, 600, 1.5, false)]

  const opening: View = { centre: { x: 0, y: 0 }, zoom: 1, bearing: 0, pitch: 0 }
  const BENT: View = { ...opening, bend: { globe: {} as never, share: 1, spin: 0 } }
  const flatShot = (shot: Shot): PlacedShot => ({
    start: 1,
    end: 2.5,
    progress: (u) => u,
    look: { at: () => (shot.kind === 'free' ? shot.view : opening), isStill: true, keeps: [] },
    passes: true,
  })
  const trackOf = (...shots: PlacedShot[]): ViewTrack => ({
    opening,
    shots,
    reference,
    hold: null,
    lastTime: 10,
    easedAt: null,
    handheld: null,
  })

  it('are there when the camera would have arrived, without a rest, until the last one', () => {
    const passing = compiled(...two)
    const stopping = compiled(...two.map((shot) => ({ ...shot, passes: false }) as Shot))
    for (const time of [2.5, 5.5, 8.5, 9.9]) {
      const [a, b] = [viewAt(passing, time), viewAt(stopping, time)]
      expect(a.centre.x).toBeCloseTo(b.centre.x, 0)
      expect(a.zoom).toBeCloseTo(b.zoom, 2)
    }
    for (const time of [2, 3, 3.7, 5.6, 6.9, 8]) expect(isMovingAt(passing, time), String(time)).toBe(true)
    for (const time of [3, 3.7, 6.9]) expect(isMovingAt(stopping, time), String(time)).toBe(false)
    for (const of of [passing, stopping]) for (const time of [0.5, 8.6, 9.9]) expect(isMovingAt(of, time)).toBe(false)
    expect(viewAt(passing, 0.9)).toBe(viewAt(passing, 0.1))
  })

  it('are not where the next one is cut to, moves by itself, or comes too early', () => {
    const rests = (next: Shot) => !isMovingAt(compiled(two[0]!, next), 3.5)
    expect(rests(free('b', 4, 1400, 1, false, 0))).toBe(true)
    expect(rests({ ...free('b', 4, 1400, 1, false), orbit: 10 } as Shot)).toBe(true)
    expect(rests(free('b', 4, 1400, 1, false))).toBe(false)
    // The globe's ground is bent: nothing goes there but its own way.
    const globe = { ...flatShot(two[0]!), look: { ...flatShot(two[0]!).look, at: () => BENT }, start: 4, end: 6 }
    expect(isMovingAt({ views: trackOf(flatShot(two[0]!), globe) }, 3.5)).toBe(false)
    expect(isMovingAt({ views: trackOf(flatShot(two[0]!), { ...globe, look: flatShot(two[0]!).look }) }, 3.5)).toBe(true)
  })

  it('begin smoothly where the camera moved before', () => {
    const orbiting = { ...free('o', 0, 900, 1, false, 0.5), orbit: 20 } as Shot
    const way = compiled(orbiting, ...two)
    const dt = 1 / 240
    const values = Array.from({ length: 240 }, (_, i) => viewAt(way, 0.6 + i * dt).bearing)
    const speeds = values.slice(1).map((v, i) => (v - values[i]!) / dt)
    for (let i = 1; i < speeds.length; i++) expect(Math.abs(speeds[i]! - speeds[i - 1]!)).toBeLessThan(1.5)
  })
})
