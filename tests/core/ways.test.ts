/** Ways of the camera through shots that it passes: retimed, stretched and reversed, without another place in them. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { runAt, viewAt } from '#core/camera/view-track'
import { canReverse, retimeShot, reverseWay, stretchWay } from '#core/edits/camera/ways'
import { compile } from '#core/frame/compile'
import { parseJourney } from '#core/journey/parse'
import type { Journey, Shot } from '#core/journey/schema'
import { shotSchema } from '#core/journey/schema'
import { NO_PLACES } from '#core/labels/label-scene'
import { journeyOver } from '../support/journeys'

const view = (x: number, zoom = 1) => ({ centre: { x, y: 500 }, zoom, bearing: x / 40, pitch: 20 })
const free = (id: string, start: number, transition: number, x: number, passes: boolean): Shot =>
  shotSchema.parse({ kind: 'free', id, at: { at: 'start', offset: start }, transition, view: view(x), passes })

/** Leaves at 2 s, and is at its three views at 4, 5 and 9 s. */
const journey = (): Journey => ({
  ...journeyOver([
    [200, 300],
    [1500, 500],
  ]),
  seconds: 20,
  shots: [free('a', 2, 2, 400, true), free('b', 4, 1, 900, true), free('c', 5, 4, 1400, false)],
})
const compiledOf = (of: Journey) => compile(parseJourney(JSON.parse(JSON.stringify(of))), NO_PLACES)
function wayOf(of: Journey) {
  const { views, shots } = compiledOf(of)
  const run = runAt(views, 0)!
  return shots.slice(run.first, run.last + 1)
}
const timesOf = (of: Journey) => {
  const way = wayOf(of)
  return [way[0]!.start, ...way.map(({ end }) => end)].map((time) => Math.round(1e6 * time) / 1e6)
}
const placesAt = (of: Journey, times: readonly number[]) => times.map((time) => Math.round(viewAt(compiledOf(of), time).centre.x))

describe('a way', () => {
  it('is all shots that are passed, and the one in which the camera comes to rest', () => {
    const { views } = compiledOf(journey())
    expect([0, 1, 2].map((i) => runAt(views, i))).toEqual([0, 1, 2].map(() => ({ first: 0, last: 2 })))
    expect(timesOf(journey())).toEqual([2, 4, 5, 9])
  })

  it('has a shot of it at another time, and looks at the same there', () => {
    const later = retimeShot(journey(), wayOf(journey()), 1, 7)
    expect(timesOf(later)).toEqual([2, 4, 7, 9])
    expect(placesAt(later, [4, 7, 9])).toEqual([400, 900, 1400])
    // Between its neighbours.
    expect(timesOf(retimeShot(journey(), wayOf(journey()), 1, 30))).toEqual([2, 4, 8.9, 9])
    expect(timesOf(retimeShot(journey(), wayOf(journey()), 0, 0))).toEqual([2, 2.1, 5, 9])
    expect(timesOf(retimeShot(journey(), wayOf(journey()), 2, 12))).toEqual([2, 4, 5, 12])
  })

  it('is stretched in proportion', () => {
    const longer = stretchWay(journey(), wayOf(journey()), 14)
    expect(timesOf(longer)).toEqual([2, 6, 8, 16])
    expect(placesAt(longer, [6, 8, 16])).toEqual([400, 900, 1400])
    expect(() => stretchWay(journey(), wayOf(journey()), 0.2)).toThrow(/at least 0.1 s apart/)
  })

  it('is reversed, each part in the time that it took', () => {
    const turned = reverseWay(journey(), wayOf(journey()))
    expect(timesOf(turned)).toEqual([2, 4, 8, 9])
    expect(placesAt(turned, [4, 8, 9])).toEqual([1400, 900, 400])
    expect(reverseWay(turned, wayOf(turned)).shots).toEqual(journey().shots)
    const over = { ...journey(), shots: [...journey().shots.slice(0, 2), shotSchema.parse({ kind: 'overview', id: 'c', at: { at: 'start', offset: 5 } })] } // prettier-ignore
    expect([canReverse(wayOf(journey())), canReverse(wayOf(over))]).toEqual([true, false])
  })

  it('stays a way that can be read, whatever is done to it', () => {
    const step = fc.oneof(
      fc.record({ kind: fc.constant('retime' as const), index: fc.nat(2), time: fc.double({ min: 0, max: 20, noNaN: true }) }),
      fc.record({ kind: fc.constant('stretch' as const), seconds: fc.double({ min: 1, max: 15, noNaN: true }) }),
      fc.record({ kind: fc.constant('reverse' as const) }),
    )
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 6 }), (steps) => {
        let now = journey()
        for (const done of steps) {
          const way = wayOf(now)
          try {
            now =
              done.kind === 'retime' ? retimeShot(now, way, done.index, done.time) : done.kind === 'stretch' ? stretchWay(now, way, done.seconds) : reverseWay(now, way) // prettier-ignore
          } catch (error) {
            // Too close: refused with a sentence, and nothing has changed.
            expect((error as Error).message).toMatch(/at least 0.1 s apart/)
          }
          const times = timesOf(now)
          expect(times).toHaveLength(4)
          expect(times[0]).toBe(2)
          times.slice(1).forEach((time, i) => expect(time - times[i]!).toBeGreaterThan(0.098))
        }
        expect(now.shots.map((shot) => shot.kind === 'free' && shot.view.centre.x).sort()).toEqual([1400, 400, 900])
      }),
      { numRuns: 40 },
    )
  })
})
