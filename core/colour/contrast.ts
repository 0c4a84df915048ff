import { rgbOf, toLinear } from './srgb'

/** Luminance relative to white, 0 to 1. Source: W3C Web Content Accessibility Guidelines 2.2, relative luminance. */
export function luminance(colour: string): number {
  const [r, g, b] = rgbOf(colour).map((channel) => toLinear(channel / 255)) as [number, number, number]
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}

/** How well two colours are told apart, 1 to 21. Source: W3C Web Content Accessibility Guidelines 2.2, contrast ratio. */
export function contrast(a: string, b: string): number {
  const [x, y] = [luminance(a), luminance(b)]
  return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05)
}
