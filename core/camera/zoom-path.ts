import type { Point } from '../geometry/point'

/** What the path goes through: a middle and the width of the ground that is seen, in ground units. */
export interface Sight {
  centre: Point
  width: number
}

/** How much is zoomed for how much is moved; the square root of two is the value that the paper's readers preferred. */
const RHO = Math.SQRT2
/** Middles closer than this share of the width seen are one. */
const SAME = 1e-6

/**
 * The smooth way from one sight to another: it draws back, moves and closes in so that the picture seems to move at one speed. The share 0..1 is that of
 * the way, not of the time; both ends are exact. Source: J. van Wijk and W. Nuij, Smooth and efficient zooming and panning (2003), equations 9 to 12.
 */
export function zoomPath(from: Sight, to: Sight): (share: number) => Sight {
  const [dx, dy] = [to.centre.x - from.centre.x, to.centre.y - from.centre.y]
  const way = Math.hypot(dx, dy)
  const [w0, w1] = [from.width, to.width]
  const at = (along: number, width: number): Sight => ({ centre: { x: from.centre.x + along * dx, y: from.centre.y + along * dy }, width })
  const exact = (inner: (share: number) => Sight) => (share: number) => (share <= 0 ? from : share >= 1 ? to : inner(share))
  if (way < SAME * Math.min(w0, w1)) return exact((share) => at(share, w0 * (w1 / w0) ** share))
  const b = (w: number, sign: 1 | -1) => (w1 * w1 - w0 * w0 + sign * RHO ** 4 * way * way) / (2 * w * RHO ** 2 * way)
  const r = (value: number) => -Math.asinh(value)
  const [r0, r1] = [r(b(w0, 1)), r(b(w1, -1))]
  const length = (r1 - r0) / RHO
  return exact((share) => {
    const s = RHO * share * length + r0
    const along = ((w0 / RHO ** 2) * (Math.cosh(r0) * Math.tanh(s) - Math.sinh(r0))) / way
    return at(along, (w0 * Math.cosh(r0)) / Math.cosh(s))
  })
}
