/** Corners of lines whose width changes, filled by our own outline, against those that a canvas strokes: W3C SVG 2, 13.5.5, as Skia does it. */
import { describe, expect, it } from 'vitest'
import { paintStrands } from '#draw/ink/stroke'
import type { Strand } from '#draw/ink/strand'
import { createServerSurface } from '#render/studio'

const [SIDE, ARM, WIDTH] = [240, 90, 40]

/** The pixels of two arms that meet in the middle, the second one turned by some degrees. */
function pixelsOf(turn: number, kind: 'round' | 'bevel' | 'mitre', limit: number, isEven: boolean): Uint8Array {
  const surface = createServerSurface(SIDE, SIDE)
  const { context } = surface
  context.fillStyle = '#000000'
  context.fillRect(0, 0, SIDE, SIDE)
  context.strokeStyle = '#ffffff'
  const angle = (turn * Math.PI) / 180
  const middle = SIDE / 2
  const points = [middle - ARM, middle, 1, 0, middle, middle, 1, ARM, middle + ARM * Math.cos(angle), middle + ARM * Math.sin(angle), 1, 2 * ARM] // prettier-ignore
  const strand: Strand = { points, isEven }
  paintStrands(context, [strand], { width: WIDTH, cap: 'butt', join: { kind, limit } })
  return surface.pixels()
}

const covered = (pixels: Uint8Array) => pixels.reduce((sum, value, i) => sum + (i % 4 === 0 ? value / 255 : 0), 0)

describe('corners', () => {
  const turns = [20, 60, 90, 120, 150, -30, -90, -140]
  it.each(['round', 'bevel', 'mitre'] as const)('are joined by a %s as a canvas joins them', (kind) => {
    for (const turn of turns)
      for (const limit of [1, 2, 10]) {
        const [own, canvas] = [pixelsOf(turn, kind, limit, false), pixelsOf(turn, kind, limit, true)]
        // Of some 7000 pixels; edges may differ by their antialiasing.
        let off = 0
        own.forEach((value, i) => (off += i % 4 === 0 ? Math.abs(value - canvas[i]!) / 255 : 0))
        expect(off, `${turn} degrees, limit ${limit}`).toBeLessThan(25)
      }
  })

  it('cover what geometry says beyond the two arms', () => {
    // At 90 degrees with a width w the corner is a square of w/2: a bevel fills half of it, a quarter of a circle has pi/4, a mitre has all.
    const square = (WIDTH / 2) ** 2
    const arms = 2 * ARM * WIDTH - square
    const areas = (['bevel', 'round', 'mitre'] as const).map((kind) => covered(pixelsOf(90, kind, 4, false)) - arms)
    for (const [i, share] of [0.5, Math.PI / 4, 1].entries()) expect(areas[i]! / square).toBeCloseTo(share, 1)
    // The mitre at 90 degrees is 1.414 widths long: below that limit it is a bevel.
    expect(covered(pixelsOf(90, 'mitre', 1.4, false)) - arms).toBeCloseTo(areas[0]!, -1)
    expect(covered(pixelsOf(90, 'mitre', 1.43, false)) - arms).toBeCloseTo(areas[2]!, -1)
  })
})
