/** Easing against bezier-easing, an independent implementation of CSS cubic-bezier(); values of W3C CSS Easing Functions Level 2. */
import bezierEasing from 'bezier-easing'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cubicBezier, hermite, NAMED_CURVES, overshoot, smooth } from '#core/pace/easing'

describe('cubic-bezier()', () => {
  it.each(Object.entries(NAMED_CURVES))('%s agrees with bezier-easing', (_name, [x1, y1, x2, y2]) => {
    const ours = cubicBezier(x1, y1, x2, y2)
    const theirs = bezierEasing(x1, y1, x2, y2)
    // bezier-easing itself works in single precision.
    for (let k = 0; k <= 100; k++) expect(Math.abs(ours(k / 100) - theirs(k / 100))).toBeLessThan(2e-6)
  })

  it('has the curves of CSS Easing Functions Level 2, section 2.2.1, under their names', () => {
    expect(NAMED_CURVES).toEqual({
      linear: [0, 0, 1, 1],
      'ease-in': [0.42, 0, 1, 1],
      'ease-out': [0, 0, 0.58, 1],
      'ease-in-out': [0.42, 0, 0.58, 1],
    })
    const atHalf = (name: keyof typeof NAMED_CURVES) => cubicBezier(...(NAMED_CURVES[name] as [number, number, number, number]))(0.5)
    // ease-in starts slowly, ease-out ends slowly: bezier-easing gives 0.3154 and 0.6846.
    expect(atHalf('ease-in')).toBeCloseTo(bezierEasing(0.42, 0, 1, 1)(0.5), 5)
    expect(atHalf('ease-in')).toBeLessThan(0.32)
    expect(atHalf('ease-out')).toBeGreaterThan(0.68)
  })

  it('may swing beyond its ends, as CSS allows for y', () => {
    const [ours, theirs] = [cubicBezier(0.3, -0.6, 0.7, 1.6), bezierEasing(0.3, -0.6, 0.7, 1.6)]
    for (let k = 0; k <= 100; k++) expect(Math.abs(ours(k / 100) - theirs(k / 100))).toBeLessThan(1e-5)
    expect(ours(0.1)).toBeLessThan(0)
    expect(ours(0.9)).toBeGreaterThan(1)
  })

  it('inverts x to within 1e-9 for any handles', () => {
    const unit = fc.double({ min: 0, max: 1, noNaN: true })
    fc.assert(
      fc.property(unit, unit, unit, (x1, x2, u) => {
        // With y = x the curve is the identity, whatever its speed along the parameter.
        expect(Math.abs(cubicBezier(x1, x1 + 1e-13, x2, x2)(u) - u)).toBeLessThan(1e-9)
      }),
    )
  })

  it('is held within 0..1 outside its domain', () => {
    const ease = cubicBezier(0.42, 0, 0.58, 1)
    expect([ease(-1), ease(0), ease(1), ease(2)]).toEqual([0, 0, 1, 1])
  })
})

describe('hermite progress', () => {
  it('has the asked speeds at its ends and never goes back', () => {
    const speed = fc.double({ min: 0, max: 3, noNaN: true })
    fc.assert(
      fc.property(speed, speed, (a, b) => {
        const p = hermite(a, b)
        const h = 1e-6
        expect(p(h) / h).toBeCloseTo(a, 3)
        expect((1 - p(1 - h)) / h).toBeCloseTo(b, 3)
        for (let k = 0; k < 100; k++) expect(p((k + 1) / 100)).toBeGreaterThanOrEqual(p(k / 100) - 1e-12)
      }),
    )
  })

  it('settles', () => {
    expect(smooth(0.5)).toBe(0.5)
    expect(overshoot(1)).toBe(1)
    expect(Math.max(...Array.from({ length: 100 }, (_, k) => overshoot(k / 100)))).toBeCloseTo(1.1, 2)
  })
})
