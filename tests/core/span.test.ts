import { describe, expect, it } from 'vitest'
import { remainingAt, visibilityAt } from '#core/trips/span'

describe('what is shown for a while', () => {
  const span = { from: 2, to: 6, fade: 1 }

  it('fades in and out within its time, and is not there before and after', () => {
    const at = (time: number) => visibilityAt(span, time)
    expect([at(1.9), at(2.5), at(4), at(5.5), at(6.1), at(9)]).toEqual([0, 0.5, 1, 0.5, 0, 0])
  })

  it('shares a time that is too short for both fades', () => {
    expect(visibilityAt({ from: 2, to: 3, fade: 4 }, 2.5)).toBe(1)
    expect(visibilityAt({ from: 2, to: 3, fade: 4 }, 2.25)).toBe(0.5)
  })

  it('only goes slowly where it comes in a way of its own', () => {
    const at = (time: number) => remainingAt(span, time)
    expect([at(0), at(5), at(5.5), at(6), at(7)]).toEqual([1, 1, 0.5, 0, 0])
  })
})
