import { mixColours } from '#core/colour/gradient'
import { rgbOf, toLinear } from '#core/colour/srgb'
import type { Tone } from '#core/vehicles/artwork'
import type { Colours } from '#core/dress/vehicle'

/** The dark of outlines and the light that sets marks off from the map. */
export const LINE = '#16243b'
export const PAPER = '#fdf8ec'

/** A #rrggbb colour with an opacity of 0..1. */
export const translucent = (hex: string, opacity: number): string => `rgba(${rgbOf(hex).join(',')},${opacity})`

/** The paints of an artwork in some colours. */
export const palette = ({ body, second, third }: Colours): Record<Tone, string> => ({
  body,
  shade: third ?? mixColours(body, LINE, 0.38),
  tint: second ?? mixColours(body, PAPER, 0.42),
  line: LINE,
  glass: '#bfe0e6',
  paper: second ?? PAPER,
  lamp: '#f6c766',
  wood: third ?? '#8c6142',
  steel: '#97a4b0',
})

/** Relative luminance of a #rrggbb colour, 0 (black) to 1 (white). Source: W3C WCAG 2.2, definition of relative luminance. */
export function relativeLuminance(hex: string): number {
  const [r, g, b] = rgbOf(hex).map((value) => toLinear(value / 255))
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!
}
