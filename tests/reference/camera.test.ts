/** The camera against a matrix from the literature, and its way between views against d3-interpolate. */
import { interpolateZoom } from 'd3-interpolate'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import type { View } from '#core/camera/view'
import { zoomPath } from '#core/camera/zoom-path'

type Vector = [number, number, number]
type Matrix = [Vector, Vector, Vector]
const times = (m: Matrix, v: Vector): Vector => m.map((row) => row[0] * v[0] + row[1] * v[1] + row[2] * v[2]) as Vector

/**
 * The homography H = K [r1 r2 t] from a plane Z = 0 to a camera's picture. Source: R. Hartley and A. Zisserman, Multiple View Geometry in Computer Vision
 * (2003), section 8.1.1, from memory. World axes here: x right, y up the map, z up; the camera stands at C = 1.5 H (0, -sin p, cos p) and looks at the origin.
 */
function homography(height: number, width: number, pitch: number): (x: number, y: number) => [number, number] {
  const f = 1.5 * height
  const p = (pitch * Math.PI) / 180
  const [cos, sin] = [Math.cos(p), Math.sin(p)]
  // Camera axes as rows: x to the right, y down in the picture, z forward.
  const rotation: Matrix = [
    [1, 0, 0],
    [0, -cos, -sin],
    [0, sin, -cos],
  ]
  const camera: Vector = [0, -f * sin, f * cos]
  const t = times(rotation, camera).map((value) => -value) as Vector
  return (x, y) => {
    const [u, v, w] = times(rotation, [x, y, 0]).map((value, i) => value + t[i]!) as Vector
    return [width / 2 + (f * u) / w, height / 2 + (f * v) / w]
  }
}

describe('a tilted view', () => {
  it('shows a square on the ground as the homography of a plane does', () => {
    const reference = { width: 1920, height: 1080 }
    for (const pitch of [15, 30, 45, 60, 65]) {
      const project = homography(1080, 1920, pitch)
      const { toScreen } = projectionOf({ centre: { x: 1000, y: 700 }, zoom: 1, bearing: 0, pitch }, reference)
      for (const [x, y] of [
        [-400, -300],
        [400, -300],
        [400, 300],
        [-400, 300],
      ] as const) {
        const [u, v] = project(x, y)
        const seen = toScreen({ x: 1000 + x, y: 700 - y })
        expect(seen.x).toBeCloseTo(u, 9)
        expect(seen.y).toBeCloseTo(v, 9)
      }
    }
  })

  it('shows the corner of a square where it was worked out by hand', () => {
    // At pitch 60, with f = 1620: the point 810 up the map is 1620 + 810 sin 60 = 2321.481 away, so it lies 1620 * 810 * cos 60 / 2321.481 = 282.621 px
    // above the middle, and 500 px aside of it are 1620 / 2321.481 * 500 = 348.915 px.
    const { toScreen } = projectionOf({ centre: { x: 0, y: 0 }, zoom: 1, bearing: 0, pitch: 60 }, { width: 1920, height: 1080 })
    const { x, y } = toScreen({ x: 500, y: -810 })
    expect(x).toBeCloseTo(960 + 348.915, 2)
    expect(y).toBeCloseTo(540 - 282.621, 2)
  })
})

describe('the way between views', () => {
  it('is that of interpolateZoom (van Wijk and Nuij 2003, rho = sqrt 2)', () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })
    const sight = fc.tuple(number(-5000, 5000), number(-5000, 5000), number(20, 20_000))
    fc.assert(
      fc.property(sight, sight, number(0, 1), ([ax, ay, aw], [bx, by, bw], share) => {
        // For a way that is short against the widths d3 takes the logarithm of a difference of nearly equal numbers, and loses more digits than are compared here.
        fc.pre(Math.hypot(bx - ax, by - ay) > Math.max(aw, bw) / 100)
        const [x, y, width] = interpolateZoom([ax, ay, aw], [bx, by, bw])(share)
        const ours = zoomPath({ centre: { x: ax, y: ay }, width: aw }, { centre: { x: bx, y: by }, width: bw })(share)
        const scale = Math.max(aw, bw, Math.hypot(bx - ax, by - ay))
        expect(Math.abs(ours.centre.x - x) / scale).toBeLessThan(1e-6)
        expect(Math.abs(ours.centre.y - y) / scale).toBeLessThan(1e-6)
        expect(Math.abs(ours.width - width) / width).toBeLessThan(1e-6)
      }),
      { numRuns: 500 },
    )
  })

  it('changes the zoom alone evenly in its logarithm where the middle stays', () => {
    const at = zoomPath({ centre: { x: 3, y: 4 }, width: 100 }, { centre: { x: 3, y: 4 }, width: 1600 })
    expect(at(0.5)).toEqual({ centre: { x: 3, y: 4 }, width: 400 })
  })

  it('has both ends exact', () => {
    const from: View = { centre: { x: 0.1, y: 0.2 }, zoom: 0.3, bearing: 0, pitch: 0 }
    const [a, b] = [
      { centre: from.centre, width: 1920 / 0.3 },
      { centre: { x: 900, y: 1 }, width: 17 },
    ]
    expect([zoomPath(a, b)(0), zoomPath(a, b)(1)]).toEqual([a, b])
  })
})
