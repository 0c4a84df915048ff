import type { Shape } from './artwork'

/** Pieces that artworks are put together of, as SVG path data. */
export const circle = (x: number, y: number, r: number): string => `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`
export const box = (x: number, y: number, w: number, h: number, r = 0): string =>
  r === 0
    ? `M${x} ${y}h${w}v${h}h${-w}Z`
    : `M${x + r} ${y}h${w - 2 * r}a${r} ${r} 0 0 1 ${r} ${r}v${h - 2 * r}a${r} ${r} 0 0 1 ${-r} ${r}h${2 * r - w}a${r} ${r} 0 0 1 ${-r} ${-r}v${2 * r - h}a${r} ${r} 0 0 1 ${r} ${-r}Z`
/** A wheel that stands on the ground. */
export const wheel = (x: number, r: number): Shape[] => [
  { d: circle(x, -r, r), fill: 'line' },
  { d: circle(x, -r, r * 0.45), fill: 'steel', wheel: { x, y: -r, r } },
]
/** A tyre that one can look through. */
export const tyre = (x: number, y: number, r: number, width: number): Shape => ({
  d: circle(x, y, r),
  stroke: 'line',
  width,
  wheel: { x, y, r },
})
/** The same piece several times, `step` apart. */
export const row = (n: number, x: number, step: number, shape: (x: number) => string): string =>
  Array.from({ length: n }, (_, i) => shape(x + i * step)).join('')
