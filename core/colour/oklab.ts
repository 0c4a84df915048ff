import type { Rgb } from './srgb'
import { toLinear } from './srgb'

/** The lightness and the two colour axes of a colour; equal distances look about equally different. */
export type OkLab = readonly [number, number, number]

/** Source: B. Ottosson, A perceptual color space for image processing (2020); its numbers are those of W3C CSS Color 4, section 9. */
export function okLab([red, green, blue]: Rgb): OkLab {
  const [r, g, b] = [toLinear(red / 255), toLinear(green / 255), toLinear(blue / 255)]
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b)
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b)
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b)
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ]
}

/** How different two colours look; a just noticeable step is about 0.02. */
export const colourDistance = (a: OkLab, b: OkLab): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])
