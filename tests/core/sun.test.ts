/** Where shadows fall: by the geometry of a gnomon, as in any book on sundials. */
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import { fallInFrame, shadowAxes, shadowLength } from '#core/camera/sun'
import { setSun } from '#core/edits/journey'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { createJourney } from '#core/journey/create'
import { parseJourney } from '#core/journey/parse'
import { sunSchema } from '#core/journey/schema'
import { NO_PLACES } from '#core/labels/label-scene'
import { demo } from '../support/journeys'

const reference = { width: 1920, height: 1080 }
const centre = { x: 500, y: 400 }
const seen = (bearing: number, pitch = 0) => projectionOf({ centre, zoom: 2, bearing, pitch }, reference)
const rounded = ({ x, y }: { x: number; y: number }) => [x, y].map((value) => Math.round(1e4 * value) / 1e4 + 0)

describe('the sun', () => {
  it('casts shadows as long as the cotangent of its height says', () => {
    // cot 45 = 1, cot 30 = 1.7320508, cot 60 = 0.5773503, cot 80 = 0.1763270: tables of natural cotangents.
    const lengths = [45, 30, 60, 80].map((height) => shadowLength({ height }))
    ;[1, 1.7320508, 0.5773503, 0.176327].forEach((length, i) => expect(lengths[i]).toBeCloseTo(length, 6))
    // Lower down they would run out of the frame.
    expect(shadowLength({ height: 8 })).toBe(5)
  })

  it('has them fall away from where it stands on the map, whichever way that is turned', () => {
    const flat = (bearing: number, map = 0) => rounded(fallInFrame({ bearing }, seen(map)))
    expect(flat(0)).toEqual([0, 1])
    expect(flat(-90)).toEqual([1, 0])
    expect(flat(90)).toEqual([-1, 0])
    expect(flat(-45)).toEqual([0.7071, 0.7071])
    // The view looks to the east: the east is up, and the north, where the light comes from, is on the left.
    expect(flat(0, 90)).toEqual([1, 0])
    expect(rounded(fallInFrame(null, seen(30)))).toEqual([0, 1])
  })

  it('lays what is round down along its shadow, and a picture by its foot, never so that none of it is seen', () => {
    const round = shadowAxes({ bearing: -45 }, seen(0), centre, true)
    expect([rounded(round.fall), rounded(round.across)]).toEqual([
      [0.7071, 0.7071],
      [0.7071, -0.7071],
    ])
    const picture = shadowAxes({ bearing: -90 }, seen(0), centre, false)
    expect(picture.across).toEqual({ x: 1, y: 0 })
    expect(Math.abs(picture.fall.y)).toBeGreaterThan(0.2)
    // Tilted by 60 degrees the ground going away is half as long at the middle of the frame: cos 60.
    expect(shadowAxes({ bearing: 0 }, seen(0, 60), centre, true).fall.y).toBeCloseTo(0.5, 6)
  })

  it('is the journey’s, from above at first, and within bounds', () => {
    expect(createJourney('Test', undefined, 10).sun).toBeNull()
    const sun = sunSchema.parse({ bearing: 60, height: 20 })
    const journey = parseJourney(setSun(demo(), sun))
    expect(frameAt(compile(journey, NO_PLACES), 3).sun).toEqual({ bearing: 60, height: 20, softness: 0.4, strength: 0.5 })
    expect(() => parseJourney(setSun(demo(), { ...sun, height: 0 }))).toThrow(/sun.*height/)
  })
})
