/** The globe against published formulas and d3-geo. */
import { geoAzimuthalEquidistant, geoDistance } from 'd3-geo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import { globeView } from '#core/shots/globe'
import { worldGlobe } from '../support/world'

const reference = { width: 1920, height: 1080 }
const globe = worldGlobe()
const on = (lon: number, lat: number) => globe.toGround({ lon: (lon * Math.PI) / 180, lat: (lat * Math.PI) / 180 })!
const spot = fc.tuple(fc.double({ min: -175, max: 175, noNaN: true }), fc.double({ min: -70, max: 70, noNaN: true }))
const aim = { bearing: 0, pitch: 0, fill: 1 }

describe('the globe, looked at from straight above', () => {
  // Snyder, Map Projections - A Working Manual (USGS Professional Paper 1395), chapter 23, Vertical Perspective: with P the eye's distance from the Earth's middle
  // in radii, x = R k' cos(lat) sin(lon - lon0) and y = R k' (cos(lat1) sin(lat) - sin(lat1) cos(lat) cos(lon - lon0)), where k' = (P - 1) / (P - cos c)
  // (equations 22-4, 22-5 and 23-3); what has cos c < 1 / P is hidden.
  it('is the vertical perspective projection, and hides what that hides', () => {
    fc.assert(
      fc.property(spot, spot, ([lon0, lat1], [lon, lat]) => {
        const view = globeView(globe, aim, on(lon0, lat1), reference)!
        const projection = projectionOf(view, reference)
        // The eye stands one and a half frame heights above the ground; the radius is what the globe's disc asks for.
        const eye = 1.5 * 1080
        const radius = view.zoom * globe.around(view.centre)!.radius
        const p = 1 + eye / radius
        const [f1, f, l] = [(lat1 * Math.PI) / 180, (lat * Math.PI) / 180, ((lon - lon0) * Math.PI) / 180]
        const cos = Math.sin(f1) * Math.sin(f) + Math.cos(f1) * Math.cos(f) * Math.cos(l)
        const k = (p - 1) / (p - cos)
        const seen = projection.toScreen(on(lon, lat))
        if (Math.abs(cos - 1 / p) > 1e-6) expect(projection.clearance(on(lon, lat)) > 0).toBe(cos > 1 / p)
        // Far round at the back the eye is not far enough in front of what is projected.
        if (cos < -0.5) return
        expect(seen.x - 960).toBeCloseTo(radius * k * Math.cos(f) * Math.sin(l), 4)
        expect(540 - seen.y).toBeCloseTo(radius * k * (Math.cos(f1) * Math.sin(f) - Math.sin(f1) * Math.cos(f) * Math.cos(l)), 4)
      }),
    )
  })

  it('fills the part of the frame that it is to fill, to a thousandth of a pixel', () => {
    // 80 % of 1080 pixels across.
    const { bent } = projectionOf(globeView(globe, aim, on(12, 40), reference)!, reference)
    for (const angle of [0, 1, 2.5, 4]) {
      const at = (r: number) => bent!.inside({ x: 960 + r * Math.cos(angle), y: 540 + r * Math.sin(angle) })
      expect(at(432 - 1e-3)).toBeGreaterThan(0)
      expect(at(432 + 1e-3)).toBeLessThan(0)
      // Near the edge it says how far away that is.
      expect(at(432 - 0.5)).toBeCloseTo(0.5, 2)
      expect(at(432 + 0.5)).toBeCloseTo(-0.5, 2)
    }
  })
})

describe('the way from the globe to the map', () => {
  it('has true distances and directions on the globe, as d3-geo’s azimuthal equidistant projection has them', () => {
    fc.assert(
      fc.property(spot, spot, ([lon0, lat1], [lon, lat]) => {
        // From very far above, the ground is seen as it is laid out: the screen is that of the projection, bent by the share of a hair.
        fc.pre(geoDistance([lon0, lat1], [lon, lat]) < 2.8)
        const whole = globeView(globe, aim, on(lon0, lat1), reference)!
        const radius = 1
        const zoom = radius / globe.around(whole.centre)!.radius
        const projection = projectionOf({ ...whole, zoom, bend: { globe, share: 1, spin: 0 } }, reference)
        const [x, y] = geoAzimuthalEquidistant().rotate([-lon0, -lat1]).scale(1).translate([0, 0])([lon, lat])!
        const seen = projection.toScreen(on(lon, lat))
        // A globe of one pixel: an arc c is seen as sin c of it, in the same direction.
        const c = Math.hypot(x, y)
        expect(Math.hypot(seen.x - 960, seen.y - 540)).toBeCloseTo(Math.sin(c), 2)
        if (c > 0.1 && c < 2.7) expect(Math.cos(Math.atan2(seen.y - 540, seen.x - 960) - Math.atan2(y, x))).toBeCloseTo(1, 4)
      }),
    )
  })
})
