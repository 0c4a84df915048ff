import { clamp } from '../geometry/clamp'
import { hexOf, rgbOf } from './srgb'

/** The colour a fraction u of the way from one #rrggbb colour to another, component by component in sRGB. */
export function mixColours(a: string, b: string, u: number): string {
  const to = rgbOf(b)
  const [red, green, blue] = rgbOf(a).map((value, i) => value + (to[i]! - value) * u)
  return hexOf([red!, green!, blue!])
}

/**
 * The colour at a share of a gradient whose colours are spaced evenly; held at its ends.
 * Source: W3C CSS Images Module Level 3, 3.4 (color stops without a position are evenly spaced) and 3.4.2 (mixed in sRGB).
 */
export function gradientAt(colours: readonly [string, ...string[]], share: number): string {
  const place = clamp(share, 0, 1) * (colours.length - 1)
  const i = Math.min(Math.floor(place), colours.length - 2)
  return i < 0 ? colours[0] : mixColours(colours[i]!, colours[i + 1]!, place - i)
}
