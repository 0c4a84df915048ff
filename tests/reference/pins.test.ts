/** The boxes of pins against their drawings, as svg-path-properties measures paths. */
import { svgPathProperties } from 'svg-path-properties'
import { describe, expect, it } from 'vitest'
import { PIN_IDS, PINS } from '#core/pins/catalogue'

/** The box that path data covers, by points along it, one part after another. */
function covered(data: readonly string[]): { left: number; right: number; top: number; bottom: number } {
  const points = data.flatMap((d) =>
    d.split(/(?=M)/).flatMap((part) => {
      const path = new svgPathProperties(part)
      const length = path.getTotalLength()
      return Array.from({ length: 401 }, (_, i) => path.getPointAtLength((length * i) / 400))
    }),
  )
  const [xs, ys] = [points.map(({ x }) => x), points.map(({ y }) => y)]
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) }
}

describe('the box of a pin', () => {
  it.each(PIN_IDS)('holds the drawing of the %s, and hardly more', (id) => {
    const { box, outline, parts } = PINS[id]
    const drawn = covered([outline, ...parts.map(({ d }) => d)])
    for (const side of ['left', 'right', 'top', 'bottom'] as const) {
      // In hundredths of the pin's size: what is drawn beyond is painted over by its edge, what is left free would keep names away.
      const free = (side === 'left' || side === 'top' ? -1 : 1) * (100 * box[side] - drawn[side])
      expect(free, side).toBeGreaterThan(-1)
      expect(free, side).toBeLessThan(12)
    }
  })
})
