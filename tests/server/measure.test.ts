/** What is told of a whole film by a few stretches of it. */
import { existsSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { setFrame } from '#core/edits/journey'
import type { FilmFormatId } from '#core/film/formats'
import { wholeFilm } from '#core/film/settings'
import { renderFilm } from '#render/film'
import { bytesOf, measureFilm, stretchesOf } from '#render/measure'
import { journeyOver } from '../support/journeys'
import { temporaryFolder } from '../support/server'

const folder = temporaryFolder()
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const sample = join(folder, 'sample')
const left = () => ['', '.part', '.log'].filter((ending) => existsSync(sample + ending))

describe('the stretches of a film that are made to measure it', () => {
  it('are all of a short one, and lie all over a long one, each frame once', () => {
    expect(stretchesOf(10, 40)).toEqual([Array.from({ length: 30 }, (_, k) => 10 + k)])
    const stretches = stretchesOf(100, 1100)
    const frames = stretches.flat()
    expect(new Set(frames).size).toBe(frames.length)
    expect(Math.min(...frames)).toBeGreaterThanOrEqual(100)
    expect(Math.max(...frames)).toBeLessThan(1100)
    // Wherever it is broken off after two of them, they are from different halves.
    const [first, second] = stretches.map(([start]) => start!)
    expect(first! < 600).not.toBe(second! < 600)
    const starts = stretches.map(([start]) => start!).sort((a, b) => a - b)
    for (let i = 1; i < starts.length; i++) expect(starts[i]! - starts[i - 1]!).toBeCloseTo(125, 0)
  })

  it('tell the size of a film by one whole picture after so many, and the others', () => {
    const stretches = [
      [0, 1, 2],
      [500, 501, 502],
    ]
    // Of 1000 frames four are whole pictures of 1000 bytes, and 996 others of 15.
    expect(bytesOf([900, 10, 20, 1100, 14, 16], stretches, 1000, 1)).toBe(4 * 1000 + 996 * 15)
    expect(bytesOf([900, 10, 20, 1100, 14, 16], stretches, 1000, 2)).toBe(4 * 1000 + 996 * 30)
    expect(bytesOf([77], [[0]], 1, 1)).toBe(77)
    // Of a format that is given every second frame there are half as many pictures.
    expect(bytesOf([900, 20, 1100, 10], [[0, 1, 2, 3], [500, 501, 502, 503]], 1000, 1)).toBe(2 * 1000 + 498 * 15) // prettier-ignore
    expect(bytesOf([], stretches, 1000, 1)).toBe(0)
  })
})

describe('a film that is measured', () => {
  const trip = journeyOver([[200, 300], [1500, 800]], {}, 8) // prettier-ignore
  const journey = setFrame(trip, { width: 320, height: 180, rate: '30/1' })

  it.each(['mp4', 'webm', 'png', 'gif', 'still'] as const satisfies FilmFormatId[])(
    'as %s takes up about what was told',
    async (format) => {
      const settings = { ...wholeFilm(journey, format), ...(format === 'still' ? { from: 9, to: 10 } : {}) }
      const { bytes, seconds } = await measureFilm({ folder, journey, settings, out: sample })
      const out = join(folder, `film.${format}`)
      await renderFilm({ folder, journey, settings, out })
      expect(left()).toEqual([])
      // The file has a head besides its pictures, which counts where they are as small as these.
      expect(bytes / statSync(out).size).toBeGreaterThan(0.5)
      expect(bytes / statSync(out).size).toBeLessThan(1.5)
      expect(seconds).toBeGreaterThan(0)
    },
  )

  it('leaves nothing behind, also where it is broken off, and refuses what cannot be made', async () => {
    const control = new AbortController()
    const broken = measureFilm({ folder, journey, settings: wholeFilm(journey), out: sample, signal: control.signal })
    setTimeout(() => control.abort(new Error('closed')), 300)
    await expect(broken).rejects.toThrow('closed')
    await expect(measureFilm({ folder, journey, settings: { ...wholeFilm(journey), to: 9999 }, out: sample })).rejects.toThrow(
      /does not lie within/,
    )
    expect(left()).toEqual([])
  })
})
