import { clamp } from '../geometry/clamp'
import { fromLinear, rgbOf, toLinear } from '../colour/srgb'
import type { Wash } from '../journey/schema'
import { washSchema } from '../journey/schema'

/** Weights of red, green and blue in luminance: ITU-R BT.709. */
const RED = 0.2126
const GREEN = 0.7152
const BLUE = 0.0722

const clampUnit = (v: number): number => clamp(v, 0, 1)
const held255 = (v: number): number => (v < 0 ? 0 : v > 255 ? 255 : v)

/** Exposure, then contrast, for each of the 256 values of a channel; values 0..255. */
function toneTable({ exposure, contrast }: Wash): Float32Array {
  const gain = 2 ** exposure
  return Float32Array.from({ length: 256 }, (_, i) => {
    const exposed = clampUnit(fromLinear(clampUnit(toLinear(i / 255) * gain)))
    return 255 * clampUnit(0.5 + (exposed - 0.5) * (1 + contrast))
  })
}

/**
 * Washes RGBA pixels in place: exposure, contrast, saturation, two-tone, tint. Blur, glowing lines, grain and edge shade are done elsewhere.
 * Saturation and two-tone work on the luma of gamma-coded values, as most picture programs do (common practice, no source).
 */
export function washPixels(pixels: Uint8ClampedArray, wash: Wash): void {
  const tone = toneTable(wash)
  const vivid = 1 + wash.saturation
  const { dark, light, strength } = wash.twoTone ?? { dark: '#000000', light: '#ffffff', strength: 0 }
  const [darkRed, darkGreen, darkBlue] = rgbOf(dark)
  const [lightRed, lightGreen, lightBlue] = rgbOf(light)
  const rest = 1 - strength
  // A tint multiplies, as a coloured glass does.
  const [tintRed, tintGreen, tintBlue] = rgbOf(wash.tint?.colour ?? '#ffffff').map(
    (value) => 1 - (wash.tint?.strength ?? 0) * (1 - value / 255),
  ) as [number, number, number]
  for (let i = 0; i < pixels.length; i += 4) {
    const r = tone[pixels[i]!]!
    const g = tone[pixels[i + 1]!]!
    const b = tone[pixels[i + 2]!]!
    const luma = RED * r + GREEN * g + BLUE * b
    const u = luma / 255
    pixels[i] = tintRed * (rest * held255(luma + (r - luma) * vivid) + strength * (darkRed + (lightRed - darkRed) * u))
    pixels[i + 1] = tintGreen * (rest * held255(luma + (g - luma) * vivid) + strength * (darkGreen + (lightGreen - darkGreen) * u))
    pixels[i + 2] = tintBlue * (rest * held255(luma + (b - luma) * vivid) + strength * (darkBlue + (lightBlue - darkBlue) * u))
  }
}

export interface WashPreset {
  name: string
  wash: Wash | null
}

const preset = (name: string, wash: Parameters<typeof washSchema.parse>[0]): WashPreset => ({ name, wash: washSchema.parse(wash) })
const softEdges = { colour: '#0d1522', strength: 0.55, size: 0.5, feather: 0.7 }

/** Ready-made washes; the first leaves the sheet as it is. */
export const WASH_PRESETS: readonly WashPreset[] = [
  { name: 'As it is', wash: null },
  preset('Old paper', {
    contrast: -0.1,
    twoTone: { dark: '#4a3524', light: '#f6e9cc', strength: 0.82 },
    edgeShade: { ...softEdges, colour: '#3a2412' },
  }),
  preset('Night ink', { exposure: -0.4, twoTone: { dark: '#0a1628', light: '#6f93b5', strength: 0.9 }, edgeShade: softEdges }),
  preset('Sea glass', { exposure: 0.2, contrast: -0.25, twoTone: { dark: '#1b4f55', light: '#e6f3ea', strength: 0.75 } }),
  preset('Chalk', { exposure: 0.5, contrast: -0.35, saturation: -0.65 }),
  preset('Charcoal', { exposure: -1.1, contrast: 0.1, saturation: -0.85, edgeShade: { ...softEdges, colour: '#000000' } }),
  preset('Ember', {
    exposure: -0.6,
    twoTone: { dark: '#24101a', light: '#f0a35e', strength: 0.7 },
    edgeShade: { ...softEdges, colour: '#16060c' },
  }),
  preset('Festival', { contrast: 0.18, saturation: 0.55 }),
  preset('Rag paper', { saturation: -0.25, tint: { colour: '#f2ddb0', strength: 0.75 }, grain: { strength: 0.4, size: 6 } }),
  preset('Phosphor', {
    exposure: -1.6,
    twoTone: { dark: '#04110f', light: '#1d4a44', strength: 0.95 },
    glowingLines: { colour: '#5ff0c8', strength: 0.9, radius: 6 },
    edgeShade: { ...softEdges, colour: '#000806' },
  }),
]
