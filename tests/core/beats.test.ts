/** Beats found in click tracks that are made here, so that their tempo is known. */
import { describe, expect, it } from 'vitest'
import { findBeats } from '#core/sound/beats'
import { clickTrack, drumTrack } from '../support/sounds'

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

describe('the beats of a drum track', () => {
  const TRACKS = {
    'kicks alone': {},
    'hats half-way between kicks': { hats: [0.5] },
    'hats on every quarter of a beat': { hats: [0.25, 0.5, 0.75] },
    'a bass on the off-beats': { hats: [0.5], bass: [0.5] },
    'snares on the second and fourth beat': { snares: [1, 3], hats: [0, 0.5] },
    'a tempo that rises by 3 %': { drift: 1.03, hats: [0.5] },
    'a tempo that falls by 3 %': { drift: 0.97, hats: [0.5], bass: [0.5] },
    noise: { noise: 0.08, hats: [0.5] },
    'silence at the start': { start: 2.3, hats: [0.5] },
  }
  it.each(Object.entries(TRACKS))('with %s lie on the kicks, 95 in 100 within 20 ms', (_name, band) => {
    for (const tempo of [84, 120, 150]) {
      const { samples, beats } = drumTrack({ tempo, seconds: 30, ...band })
      const found = findBeats(samples, 48_000)!
      const near = (time: number, all: readonly number[]) => all.some((other) => Math.abs(other - time) <= 0.02)
      // What is found is a beat, and beats are found, but for the first and the last one.
      expect(found.times.filter((time) => near(time, beats)).length).toBeGreaterThanOrEqual(0.95 * found.times.length)
      expect(beats.filter((time) => near(time, found.times)).length).toBeGreaterThanOrEqual(0.95 * beats.length - 1)
      // Kicks that are all alike make no bars.
      expect(found.bars).toBeUndefined()
    }
  })

  it.each([3, 4])('in bars of %i are told by what is played harder', (bar) => {
    const { samples, beats } = drumTrack({ tempo: 112, seconds: 30, bar, hats: [0.5] })
    const found = findBeats(samples, 48_000)!
    expect(found.bars?.beats).toBe(bar)
    const first = beats.findIndex((beat) => Math.abs(beat - found.times[found.bars!.first]!) < 0.02)
    expect(first % bar).toBe(0)
  })
})
