/** The Earth as a globe: its projection, the shot of it, and the way down from it. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { degrees, radians, turnBetween } from '#core/geometry/angle'
import type { Point } from '#core/geometry/point'
import { projectionOf } from '#core/camera/projection'
import { projectionAt, viewAt } from '#core/camera/view-track'
import { addShot, reaimedShot, setPlan, setPlanGlobe } from '#core/edits/camera/shots'
import { setGround } from '#core/edits/ground/sheets'
import { checkCamera } from '#core/checks/camera-check'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { globeView } from '#core/shots/globe'
import { frameSummary } from '#core/frame/summary'
import type { Journey, Shot } from '#core/journey/schema'
import { TEMPERAMENTS } from '#core/camera/temperament'
import { shotSchema } from '#core/journey/schema'
import { journeyOver } from '../support/journeys'
import { geoOfWorld, worldGlobe, WORLDS, worldTrip } from '../support/world'

const reference = { width: 1920, height: 1080 }
const away = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y)

describe.each(Object.entries(WORLDS))('ground that is bent to a globe, on a map in %s', (_, georeference) => {
  const globe = worldGlobe(georeference)
  const geo = geoOfWorld(georeference)
  const bentView = fc.record({
    lon: fc.double({ min: -170, max: 170, noNaN: true }),
    lat: fc.double({ min: -60, max: 60, noNaN: true }),
    bearing: fc.double({ min: -180, max: 180, noNaN: true }),
    pitch: fc.double({ min: 0, max: 65, noNaN: true }),
    share: fc.oneof(fc.constant(1), fc.double({ min: 0.01, max: 1, noNaN: true })),
    spin: fc.double({ min: -40, max: 40, noNaN: true }),
    closer: fc.double({ min: 0, max: 5, noNaN: true }),
  })
  const viewOf = ({ lon, lat, bearing, pitch, share, spin, closer }: typeof bentView extends fc.Arbitrary<infer V> ? V : never) => {
    const whole = globeView(globe, { bearing, pitch, fill: 1 }, geo.toGround({ lon, lat })!, reference)!
    // The globe is turned only as long as it is a globe.
    return { ...whole, zoom: whole.zoom * 2 ** closer, bend: { globe, share, spin: share === 1 ? spin : 0 } }
  }

  it('is as large at the edge of the map as in its middle', () => {
    for (const lat of [-50, 0, 50]) {
      const middle = globe.around(geo.toGround({ lon: 0, lat })!)!
      for (const lon of [-180, -179.9999, 179.9999, 180])
        expect(globe.around(geo.toGround({ lon, lat })!)!.radius).toBeCloseTo(middle.radius, 3)
    }
    // 4096 pixels once round: at the equator of Mercator's map the radius is that over two pi.
    if (georeference === WORLDS.mercator) expect(globe.around(geo.toGround({ lon: 10, lat: 0 })!)!.radius).toBeCloseTo(651.9, 1)
  })

  it('is seen where it is pointed at', () => {
    fc.assert(
      fc.property(bentView, fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (fields, x, y) => {
        const projection = projectionOf(viewOf(fields), reference)
        const place = { x: x * reference.width, y: y * reference.height }
        // At the very edge a pixel is a long way, near the poles the map has no end, and where it is cut, or opposite the middle, there are two ways to a place.
        if (projection.bent!.inside(place) < 3) return
        const ground = projection.toGround(place)
        const at = ground && geo.toLonLat(ground)
        const aside = (lon: number) => Math.abs(degrees(turnBetween(radians(lon), radians(at!.lon))))
        if (!at || Math.abs(at.lat) > 84 || aside(0) > 179.5 || aside(fields.lon) > 179.5) return
        const seen = projection.toScreen(ground)
        // It is looked for until it is found to a thousandth of a pixel.
        expect(away(seen, place)).toBeLessThan(2e-3)
        expect(projection.clearance(ground)).toBeGreaterThan(0)
      }),
      { numRuns: 400 },
    )
  })

  it('has its middle in the middle, upright and at the view’s zoom, however it is bent', () => {
    fc.assert(
      fc.property(bentView, (fields) => {
        const view = { ...viewOf({ ...fields, pitch: 0 }) }
        view.bend.spin = 0
        const projection = projectionOf(view, reference)
        expect(away(projection.toScreen(view.centre), { x: 960, y: 540 })).toBeLessThan(1e-6)
        const [a, b, c, d] = projection.groundAxes(view.centre)
        const flat = projectionOf({ ...view, bend: undefined }, reference).groundAxes(view.centre)
        // A map in degrees is stretched away from the equator, which the globe is not; on it the area is the same.
        if (view.bend.share === 1) expect(a * d - b * c).toBeCloseTo(flat[0] * flat[3] - flat[1] * flat[2], 3)
      }),
    )
  })

  it('is the flat map in the end: bent by little, it is moved by little', () => {
    fc.assert(
      fc.property(
        bentView,
        fc.double({ min: -900, max: 900, noNaN: true }),
        fc.double({ min: -500, max: 500, noNaN: true }),
        (fields, x, y) => {
          const view = viewOf({ ...fields, closer: 5, share: 2e-5 })
          const p = { x: view.centre.x + x / view.zoom, y: view.centre.y + y / view.zoom }
          const flat = projectionOf({ ...view, bend: undefined }, reference)
          if (flat.clearance(p) < 400) return
          expect(away(projectionOf(view, reference).toScreen(p), flat.toScreen(p))).toBeLessThan(0.25)
        },
      ),
    )
  })
})

const globeShot = (fields: object = {}): Shot =>
  shotSchema.parse({ kind: 'globe', id: 'globe', at: { at: 'start', offset: 0 }, transition: 0, stop: 's2', ...fields })
const thenWhole = (journey: Journey, shot = globeShot()) =>
  addShot(addShot(journey, shot), shotSchema.parse({ kind: 'overview', id: 'whole', at: { at: 'start', offset: 3 }, transition: 4 }))

describe('a shot of the globe', () => {
  it('has its stop in front when the camera leaves, and turns towards it until then', () => {
    const compiled = compile(thenWhole(worldTrip(), globeShot({ spin: 20 })))
    const stop = compiled.journey.stops[2]!.at
    const seen = [0, 1, 2, 3].map((time) => away(projectionAt(compiled, time).toScreen(stop), { x: 960, y: 540 }))
    expect(seen[3]).toBeLessThan(1e-6)
    expect(seen[0]).toBeGreaterThan(seen[1]!)
    expect(seen[1]).toBeGreaterThan(seen[2]!)
    expect(seen[2]).toBeGreaterThan(20)
    // It slows down: it does not stop at once.
    expect(away(projectionAt(compiled, 3 - 1 / 30).toScreen(stop), { x: 960, y: 540 })).toBeLessThan(0.3)
  })

  it('is flattened without a jump: nothing that is seen moves further than the way takes it', () => {
    for (const edge of ['plain', 'held'] as const) {
      const compiled = compile(setGround(thenWhole(worldTrip()), { edge }))
      const step = 1 / 240
      let last: { screen: Point; clear: boolean }[] = []
      for (let time = 2.5; time < 7.5; time += step) {
        const projection = projectionAt(compiled, time)
        const now = compiled.journey.stops.map(({ at }) => ({ screen: projection.toScreen(at), clear: projection.clearance(at) > 0 }))
        // In a two hundred and fortieth of a second nothing goes further than 12 pixels, which is one and a half frames a second.
        last.forEach(({ screen, clear }, i) => (clear && now[i]!.clear ? expect(away(screen, now[i]!.screen)).toBeLessThan(12) : undefined))
        last = now
      }
      expect(viewAt(compiled, 0).bend!.share).toBe(1)
      expect(viewAt(compiled, 7.1).bend).toBeUndefined()
      expect(projectionAt(compiled, 7.1).isFlat).toBe(true)
    }
  })

  it('shows nothing of what stands at its back', () => {
    const geo = geoOfWorld()
    const journey = thenWhole(worldTrip(), globeShot({ spin: 0 }))
    // A stop on the other side of the Earth from the one in front, reached at once.
    const [first, ...rest] = journey.stops
    const behind = compile({ ...journey, stops: [{ ...first!, at: geo.toGround({ lon: -100, lat: -15 })! }, ...rest] })
    expect(frameAt(behind, 0.5).items.some((item) => item.kind === 'pin' && item.stop === 's0')).toBe(false)
    const summary = frameSummary(frameAt(behind, 0.5))
    expect(summary.view).toMatchObject({ globe: { share: 1, spin: 0 } })
    expect(frameAt(behind, 12).items.some((item) => item.kind === 'pin' && item.stop === 's0')).toBe(true)
  })

  it('is an overview where the map does not know where it lies', () => {
    const journey = journeyOver([[300, 300], [1500, 800]], {}, 10) // prettier-ignore
    const compiled = compile(addShot(journey, globeShot({ stop: null })))
    const whole = compile(addShot(journey, shotSchema.parse({ kind: 'overview', id: 'o', at: { at: 'start', offset: 0 }, transition: 0 })))
    expect(viewAt(compiled, 1)).toEqual(viewAt(whole, 1))
  })

  it('is turned and sized in the lens as other shots are', () => {
    const compiled = compile(thenWhole(worldTrip(), globeShot({ spin: 0 })))
    const before = viewAt(compiled, 1)
    const shot = compiled.shots[0]!.shot
    const nearer = reaimedShot(shot, before, { ...before, zoom: before.zoom * 1.5 }, reference)
    expect(nearer).toMatchObject({ kind: 'globe', fill: 1.5 })
    const to = projectionOf(before, reference).toGround({ x: 1060, y: 500 })!
    const turned = reaimedShot(shot, before, { ...before, centre: to }, reference)
    const after = viewAt(compile(thenWhole(worldTrip(), turned)), 1)
    // How far it has turned by itself at that moment is none of the change.
    const spun = { ...before, bend: { ...before.bend!, spin: -25 } }
    const same = reaimedShot(shot, spun, spun, reference)
    expect(same).toMatchObject({ shift: { x: expect.closeTo(0, 9) as number, y: expect.closeTo(0, 9) as number } })
    // What was dragged to the middle is about there.
    expect(away(projectionOf(after, reference).toScreen(to), { x: 960, y: 540 })).toBeLessThan(12)
  })
})

describe('a plan that opens on the globe', () => {
  it.each(TEMPERAMENTS)('comes down from it as gently as from anywhere: %s', (temperament) => {
    const compiled = compile(setPlanGlobe(setPlan(worldTrip(24), temperament), true))
    expect(compiled.shots[0]!.shot.kind).toBe('globe')
    expect(compiled.shots.length).toBeGreaterThan(1)
    expect(checkCamera(compiled).filter(({ kind }) => kind === 'fast')).toEqual([])
    // What it says of the rest stays: without the globe there is none of it.
    expect(compile(setPlan(worldTrip(24), temperament)).shots.some(({ shot }) => shot.kind === 'globe')).toBe(false)
  })

  it('does without the globe where there is no time to come down from it', () => {
    for (const temperament of TEMPERAMENTS) {
      const shots = compile(setPlanGlobe(setPlan(worldTrip(2), temperament), true)).shots.map(({ shot }) => shot.kind)
      expect(shots).not.toContain('globe')
      expect(shots.length).toBeGreaterThan(0)
    }
  })
})
