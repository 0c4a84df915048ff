/** Beats found in click tracks that are made here, so that their tempo is known. */
import { describe, expect, it } from 'vitest'
import { findBeats } from '#core/sound/beats'
import { clickTrack } from '../support/sounds'

describe('the beats of a click track', () => {
  it.each([60, 72, 85, 96, 110, 120, 128, 140, 155, 168, 180])('of %i a minute are found within 1 %%, and lie on the clicks', (tempo) => {
    const found = findBeats(clickTrack({ tempo, seconds: 30 }), 48_000)!
    expect(Math.abs(found.tempo / tempo - 1)).toBeLessThan(0.01)
    const period = 60 / tempo
    // In seconds, but for the ends. They were 13 ms early once, all of them.
    for (const time of found.times.slice(1, -1)) expect(Math.abs(time / period - Math.round(time / period)) * period).toBeLessThan(0.003)
  })

  it.each([60, 84, 120, 144, 180])('of %i a minute, swung, are told from the notes between', (tempo) => {
    const found = findBeats(clickTrack({ tempo, seconds: 30, swing: 0.64 }), 48_000)!
    expect(Math.abs(found.tempo / tempo - 1)).toBeLessThan(0.01)
  })

  it.each([66, 100, 132, 176])('of %i a minute are found in noise', (tempo) => {
    const found = findBeats(clickTrack({ tempo, seconds: 30, noise: 0.15 }), 48_000)!
    expect(Math.abs(found.tempo / tempo - 1)).toBeLessThan(0.01)
  })

  it('also begin later, and are heard at other rates', () => {
    const found = findBeats(clickTrack({ tempo: 100, seconds: 30, start: 0.37, rate: 44_100 }), 44_100)!
    expect(Math.abs(found.tempo / 100 - 1)).toBeLessThan(0.01)
    for (const time of found.times.slice(1, -1)) {
      const beats = (time - 0.37) / 0.6
      expect(Math.abs(beats - Math.round(beats)) * 0.6).toBeLessThan(1 / 60)
    }
  })

  it('are not made up where there are none', () => {
    expect(findBeats(new Float64Array(48_000 * 20) as unknown as Float32Array, 48_000)).toBeUndefined()
    expect(findBeats(new Float32Array(4800), 48_000)).toBeUndefined()
  })
})
