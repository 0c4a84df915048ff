/** A colour of the sRGB space, each channel 0..255. */
export type Rgb = readonly [number, number, number]

/** '#rrggbb' as its three channels. */
export const rgbOf = (hex: string): Rgb => [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16)) as unknown as Rgb

/** Three channels as '#rrggbb', rounded. */
export const hexOf = (rgb: Rgb): string => `#${rgb.map((channel) => Math.round(channel).toString(16).padStart(2, '0')).join('')}`

/** sRGB to linear light and back, values 0..1. Source: IEC 61966-2-1, as given in W3C CSS Color 4, section 10.2. */
export const toLinear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
export const fromLinear = (v: number): number => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055)
