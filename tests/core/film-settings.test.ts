import { describe, expect, it } from 'vitest'
import type { FilmPace } from '#core/film/settings'
import { estimate, wholeFilm } from '#core/film/settings'
import { demo } from '../support/journeys'

describe('an estimate of an export', () => {
  const film = { ...wholeFilm(demo()), from: 0, to: 300, width: 1280, height: 720 }
  const earlier = (patch: Partial<FilmPace>): FilmPace => ({
    ...{ journey: 'other', format: 'mp4', quality: 'good', shows: 'all', pixels: 300 * 1280 * 720, bytes: 4e6, seconds: 21 },
    ...patch,
  })

  it('is that of the last film of its kind, by its pixels: best one of the same journey', () => {
    const [before, own] = [earlier({ seconds: 61 }), earlier({ journey: 'mine', bytes: 9e6, seconds: 31 })]
    expect(estimate(film, '30/1', [earlier({})], 'mine')).toEqual({ bytes: 4e6, seconds: 21 })
    expect(estimate(film, '30/1', [before, own], 'mine').seconds).toBe(31)
    // Half of the frames take half of the time, but for what is done before and after them.
    const half = estimate({ ...film, to: 150 }, '30/1', [own], 'mine')
    expect(half.bytes).toBe(4.5e6)
    expect(half.seconds).toBeGreaterThan(31 / 2)
    expect(half.seconds).toBeLessThan(31 / 2 + 2)
  })

  it('does not go by films of another kind, nor by one of a few frames', () => {
    const usual = estimate(film, '30/1')
    for (const patch of [{ format: 'webm' }, { quality: 'best' }, { shows: 'over' }, { pixels: 1280 * 720 }] as const)
      expect(estimate(film, '30/1', [earlier({ ...patch, seconds: 500 })])).toEqual(usual)
  })
})
