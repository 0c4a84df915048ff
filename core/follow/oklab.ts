/** A colour of the sRGB space, each channel 0..255. */
export type Rgb = readonly [number, number, number]

/** The lightness and the two colour axes of a colour; equal distances look about equally different. */
export type OkLab = readonly [number, number, number]

const linear = (channel: number): number => {
  const c = channel / 255
  return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4
}

/** Source: B. Ottosson, A perceptual color space for image processing (2020); its numbers are those of W3C CSS Color 4, section 9. */
export function okLab([red, green, blue]: Rgb): OkLab {
  const [r, g, b] = [linear(red), linear(green), linear(blue)]
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

/** '#rrggbb' as its three channels. */
export const rgbOf = (hex: string): Rgb => [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16)) as unknown as Rgb

export const hexOf = (rgb: Rgb): string => `#${rgb.map((channel) => Math.round(channel).toString(16).padStart(2, '0')).join('')}`
